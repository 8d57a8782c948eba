package dev.mockbell.report;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Contrast;
import dev.mockbell.check.Verdict;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.StepFigures;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.report.Leaves.Leaf;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/** Results as one HTML file that needs nothing else, to be read anywhere. Its form is the template beside this class. */
public final class HtmlReport {
    private static final List<String> COLUMNS =
            List.of("Done", "/s", "Min", "p50", "p90", "p95", "p99", "Max", "Failed");

    private final ZoneId zone;
    private final ExchangeTexts exchanges;

    private HtmlReport(ZoneId zone, ExchangeTexts exchanges) {
        this.zone = zone;
        this.exchanges = exchanges;
    }

    /** The report of load runs. */
    public static String ofLoads(String title, List<LoadRun> loads, ZoneId zone) {
        return of(title, List.of(), loads, zone, ExchangeTexts.NONE);
    }

    /**
     * The report of suite runs and load runs, either list may be empty.
     *
     * @param exchanges gives both sides of calls
     */
    public static String of(String title, List<Run> runs, List<LoadRun> loads, ZoneId zone, ExchangeTexts exchanges) {
        HtmlReport report = new HtmlReport(zone, exchanges);
        return ReportPage.of(
                "report.html",
                Map.of(
                        "title",
                        title,
                        "several",
                        runs.size() > 1,
                        "filtered",
                        !runs.isEmpty(),
                        "runs",
                        runs.stream().map(report::run).toList(),
                        "loads",
                        loads.stream().map(report::load).toList()));
    }

    private Map<String, Object> run(Run run) {
        List<Leaf> leaves = Leaves.of(run);
        long failed = leaves.stream()
                .filter(l -> l.result().verdict() == Verdict.FAILED)
                .count();
        return Map.ofEntries(
                Map.entry("mark", mark(run.passed() ? Verdict.PASSED : Verdict.FAILED)),
                Map.entry("title", run.title()),
                Map.entry("when", when(run.started())),
                Map.entry("environment", run.environment().isEmpty() ? "no environment" : run.environment()),
                Map.entry("checksPassed", run.checksPassed()),
                Map.entry("checks", run.checks()),
                Map.entry("count", leaves.size()),
                Map.entry("failed", failed),
                Map.entry("millis", Math.round(run.millis())),
                Map.entry("steps", leaves.stream().map(this::step).toList()));
    }

    private Map<String, Object> step(Leaf leaf) {
        StepResult step = leaf.result();
        return Map.ofEntries(
                Map.entry("name", leaf.name()),
                Map.entry("kind", step.verdict().name().toLowerCase(Locale.ROOT)),
                Map.entry("mark", mark(step.verdict())),
                Map.entry("problem", step.problem().isEmpty() ? List.of() : List.of(step.problem())),
                Map.entry(
                        "checks", step.telling().stream().map(HtmlReport::check).toList()),
                Map.entry("undecided", step.undecided()),
                Map.entry(
                        "captures",
                        step.captures().entrySet().stream()
                                .map(c -> Map.of("name", c.getKey(), "value", c.getValue()))
                                .toList()),
                Map.entry(
                        "exchange",
                        exchanges.of(step.exchange()).map(HtmlReport::sides).stream()
                                .toList()),
                Map.entry("millis", Math.round(step.millis())));
    }

    private static Map<String, String> sides(ExchangeTexts.Both both) {
        return Map.of("request", both.request(), "answer", both.answer().isEmpty() ? "(no answer)" : both.answer());
    }

    private static Map<String, Object> check(CheckResult check) {
        boolean both = check.hasSides();
        return Map.of(
                "mark",
                small(check.verdict()),
                "sentence",
                both ? check.title() : check.sentence(),
                "sides",
                both
                        ? List.of(Map.of(
                                "wanted", side(check.contrast().ofExpected()),
                                "got", side(check.contrast().ofFound())))
                        : List.of(),
                "where",
                both ? check.where() : "");
    }

    private static Map<String, String> side(Contrast.Side side) {
        return Map.of("before", side.before(), "different", side.different(), "after", side.after());
    }

    private Map<String, Object> load(LoadRun load) {
        List<StepFigures> steps = new ArrayList<>(load.steps());
        steps.add(load.total());
        return Map.ofEntries(
                Map.entry("mark", mark(load.passed() ? Verdict.PASSED : Verdict.FAILED)),
                Map.entry("title", load.plan().title()),
                Map.entry("when", when(load.started())),
                Map.entry("shape", load.plan().shape().title()),
                Map.entry("seconds", number(load.plan().seconds())),
                Map.entry("rates", new LoadCharts(load).rates()),
                Map.entry("map", new LoadCharts(load).map()),
                Map.entry("spent", spent(load)),
                Map.entry("warnings", load.warnings()),
                Map.entry("columns", COLUMNS),
                Map.entry("steps", steps.stream().map(HtmlReport::figures).toList()),
                Map.entry(
                        "limits", load.limits().stream().map(HtmlReport::limit).toList()),
                Map.entry("hasWorkers", !load.workers().isEmpty()),
                Map.entry(
                        "workers",
                        load.workers().stream().map(HtmlReport::worker).toList()),
                Map.entry("hasReasons", !load.reasons().isEmpty()),
                Map.entry(
                        "reasons",
                        load.reasons().entrySet().stream()
                                .map(r -> Map.of("reason", r.getKey(), "count", r.getValue()))
                                .toList()));
    }

    private static String spent(LoadRun load) {
        return load.spent().stream()
                .filter(s -> s.count() > 0)
                .map(s -> s.stage().title() + " " + number(s.mean()) + " (p99 " + number(s.p99()) + ")")
                .collect(Collectors.joining(" · "));
    }

    private static Map<String, Object> figures(StepFigures s) {
        List<String> figures = new ArrayList<>(List.of(String.valueOf(s.done())));
        for (double value : new double[] {s.perSecond(), s.min(), s.p50(), s.p90(), s.p95(), s.p99(), s.max()}) {
            figures.add(number(value));
        }
        figures.add(String.valueOf(s.failed()));
        List<Map<String, String>> named = new ArrayList<>();
        for (int i = 0; i < figures.size(); i++) {
            named.add(Map.of("name", COLUMNS.get(i), "value", figures.get(i)));
        }
        return Map.of("name", s.name(), "figures", named);
    }

    private static Map<String, String> worker(WorkerRun worker) {
        double cpu = worker.health().cpu();
        return Map.ofEntries(
                Map.entry("mark", mark(worker.state() == WorkerRun.State.LOST ? Verdict.FAILED : Verdict.PASSED)),
                Map.entry("name", worker.name()),
                Map.entry("address", worker.address()),
                Map.entry("cores", String.valueOf(worker.cores())),
                Map.entry("clock", number(worker.clockError())),
                Map.entry("done", String.valueOf(worker.total().done())),
                Map.entry("p50", number(worker.total().p50())),
                Map.entry("p99", number(worker.total().p99())),
                Map.entry("failed", String.valueOf(worker.total().failed())),
                Map.entry("late", String.valueOf(worker.health().lateStarts())),
                Map.entry("cpu", cpu < 0 ? "" : String.format(Locale.ROOT, "%.0f %%", cpu * 100)),
                Map.entry("told", worker.told()));
    }

    private static Map<String, String> limit(Limit.Outcome limit) {
        return Map.of(
                "mark", mark(limit.kept() ? Verdict.PASSED : Verdict.FAILED),
                "title", limit.limit().title(),
                "found", number(limit.found()));
    }

    private String when(Instant moment) {
        return DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT)
                .withZone(zone)
                .format(moment);
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, value < 10 ? "%.2f" : "%.0f", value);
    }

    private static String mark(Verdict verdict) {
        String words = words(verdict);
        return "<span class=\"" + verdict.name().toLowerCase(Locale.ROOT) + "\">" + shape(verdict) + "&#xFE0E; " + words
                + "</span>";
    }

    /** A mark at the head of a line: its shape says it, and words for who does not see it. */
    private static String small(Verdict verdict) {
        return "<span class=\"" + verdict.name().toLowerCase(Locale.ROOT) + "\" role=\"img\" aria-label=\""
                + words(verdict) + "\">" + shape(verdict) + "&#xFE0E;</span>";
    }

    private static String words(Verdict verdict) {
        return verdict.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    /** As in the window: by shape first, by colour second. */
    private static String shape(Verdict verdict) {
        return switch (verdict) {
            case PASSED -> "●";
            case FAILED -> "■";
            case NOT_RUN -> "○";
            case OFF -> "–";
        };
    }
}
