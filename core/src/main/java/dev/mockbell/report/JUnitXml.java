package dev.mockbell.report;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadRun;
import dev.mockbell.report.Leaves.Leaf;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import dev.mockbell.xml.XmlWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Runs as JUnit XML, the form that build servers read: a testsuite a run, a testcase a call or a row of known values. */
public final class JUnitXml {
    private final XmlWriter out = XmlWriter.document().start("testsuites");
    private final Map<String, String> properties;
    private final ExchangeTexts exchanges;

    private JUnitXml(Map<String, String> properties, ExchangeTexts exchanges) {
        this.properties = properties;
        this.exchanges = exchanges;
    }

    /**
     * The whole document.
     *
     * @param properties said of every run, beside its environment
     * @param exchanges gives both sides of what failed
     */
    public static String of(List<Run> runs, Map<String, String> properties, ExchangeTexts exchanges) {
        JUnitXml made = new JUnitXml(properties, exchanges);
        return made.of(runs);
    }

    /** The limits of a load run: a testsuite, a testcase a limit. */
    public static String of(LoadRun run) {
        XmlWriter out = XmlWriter.document().start("testsuites").start("testsuite");
        long failed = run.limits().stream().filter(l -> !l.kept()).count();
        out.attribute("name", run.plan().title())
                .attribute("tests", run.limits().size())
                .attribute("failures", failed)
                .attribute("errors", 0)
                .attribute("time", seconds(run.seconds() * 1_000))
                .attribute("timestamp", run.started().toString().replaceAll("(\\.\\d+)?Z$", ""));
        for (Limit.Outcome limit : run.limits()) {
            out.start("testcase")
                    .attribute("name", limit.limit().title())
                    .attribute("classname", run.plan().id())
                    .attribute("time", "0.000");
            if (!limit.kept()) {
                out.start("failure")
                        .attribute("message", String.format(Locale.ROOT, "found %.3f", limit.found()))
                        .attribute("type", "limit")
                        .end();
            }
            out.end();
        }
        return out.end().end().finish() + "\n";
    }

    private String of(List<Run> runs) {
        List<Leaf> all = runs.stream().flatMap(r -> Leaves.of(r).stream()).toList();
        out.attribute("tests", all.size())
                .attribute("failures", count(all, Verdict.FAILED))
                .attribute("errors", 0)
                .attribute(
                        "time", seconds(runs.stream().mapToDouble(Run::millis).sum()));
        runs.forEach(this::suite);
        return out.end().finish() + "\n";
    }

    private void suite(Run run) {
        List<Leaf> leaves = Leaves.of(run);
        out.start("testsuite")
                .attribute("name", run.title())
                .attribute("tests", leaves.size())
                .attribute("failures", count(leaves, Verdict.FAILED))
                .attribute("errors", 0)
                .attribute("skipped", count(leaves, Verdict.NOT_RUN) + count(leaves, Verdict.OFF))
                .attribute("time", seconds(run.millis()))
                .attribute("timestamp", run.started().toString().replaceAll("(\\.\\d+)?Z$", ""));
        Map<String, String> all = new LinkedHashMap<>(properties);
        if (!run.environment().isEmpty()) {
            all.put("environment", run.environment());
        }
        if (!all.isEmpty()) {
            out.start("properties");
            all.forEach((name, value) -> out.start("property")
                    .attribute("name", name)
                    .attribute("value", value)
                    .end());
            out.end();
        }
        leaves.forEach(l -> step(run, l));
        out.end();
    }

    private void step(Run run, Leaf leaf) {
        StepResult step = leaf.result();
        out.start("testcase")
                .attribute("name", leaf.name())
                .attribute("classname", run.suite())
                .attribute("time", seconds(step.millis()));
        switch (step.verdict()) {
            case PASSED -> {
                // nothing more is said of what went well
            }
            case NOT_RUN, OFF ->
                out.start("skipped").attribute("message", step.problem()).end();
            case FAILED -> failed(step);
        }
        out.end();
    }

    private void failed(StepResult step) {
        List<String> failures = step.failures();
        out.start("failure")
                .attribute("message", failures.isEmpty() ? "failed" : failures.get(0))
                .attribute("type", step.problem().isEmpty() ? "check" : "step");
        StringBuilder text = new StringBuilder();
        if (!step.problem().isEmpty()) {
            text.append(step.problem()).append('\n');
        }
        for (CheckResult check : step.telling()) {
            if (!check.passed()) {
                text.append(check.title()).append('\n');
                line(text, "should be", check.expected());
                line(text, "found", check.found());
                line(text, "at", check.where());
            }
        }
        text.append(step.undecided());
        out.text(text.toString().stripTrailing()).end();
        exchanges
                .of(step.exchange())
                .ifPresent(both -> out.start("system-out")
                        .text("sent:\n" + both.request() + "\n\nanswered:\n"
                                + (both.answer().isEmpty() ? "(no answer)" : both.answer()))
                        .end());
    }

    private static void line(StringBuilder text, String key, String value) {
        if (!value.isEmpty()) {
            text.append("  ").append(key).append(": ").append(value).append('\n');
        }
    }

    private static long count(List<Leaf> leaves, Verdict verdict) {
        return leaves.stream().filter(l -> l.result().verdict() == verdict).count();
    }

    private static String seconds(double millis) {
        return String.format(Locale.ROOT, "%.3f", millis / 1_000);
    }
}
