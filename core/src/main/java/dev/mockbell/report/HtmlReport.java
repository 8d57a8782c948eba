package dev.mockbell.report;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.StepFigures;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;

/** Results as one HTML file that needs nothing else, to be read anywhere. */
public final class HtmlReport {
    private static final String STYLE = """
            body{font:14px/1.5 system-ui,sans-serif;color:#1E2B33;background:#F4F2EC;margin:0;padding:24px}
            main{max-width:1000px;margin:auto}h1{font-size:22px}h2{font-size:17px;margin-top:28px}
            table{border-collapse:collapse;width:100%;background:#fff;border:1px solid #DDD8CC}
            th,td{text-align:left;padding:6px 10px;border-bottom:1px solid #EBE7DD;vertical-align:top}
            th{color:#55636C;font-weight:500;background:#FBFAF7}td.n,th.n{text-align:right;font-variant-numeric:tabular-nums}
            .passed{color:#1F7A70}.failed{color:#B0392B}.not_run{color:#55636C}code{font-family:ui-monospace,monospace}
            """;

    private HtmlReport() {}

    /** The report of suite runs and load runs, either list may be empty. */
    public static String of(String title, List<Run> runs, List<LoadRun> loads, ZoneId zone) {
        StringBuilder out =
                new StringBuilder("<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n");
        out.append("<title>")
                .append(escape(title))
                .append("</title>\n<style>\n")
                .append(STYLE)
                .append("</style>\n</head>\n<body>\n<main>\n");
        out.append("<h1>").append(escape(title)).append("</h1>\n");
        runs.forEach(r -> run(r, zone, out));
        loads.forEach(l -> load(l, zone, out));
        return out.append("</main>\n</body>\n</html>\n").toString();
    }

    private static void run(Run run, ZoneId zone, StringBuilder out) {
        String when = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT)
                .withZone(zone)
                .format(run.started());
        out.append("<h2>")
                .append(mark(run.passed() ? Verdict.PASSED : Verdict.FAILED))
                .append(' ')
                .append(escape(run.title()))
                .append("</h2>\n");
        out.append("<p>")
                .append(when)
                .append(" · ")
                .append(escape(run.environment()))
                .append(" · ");
        out.append(run.checksPassed()).append(" of ").append(run.checks()).append(" checks passed · ");
        out.append(Math.round(run.millis())).append(" ms</p>\n");
        out.append("<table>\n<tr><th>Step</th><th>Result</th><th>Checks</th><th class=\"n\">ms</th></tr>\n");
        for (StepResult step : run.steps()) {
            out.append("<tr><td>")
                    .append(escape(step.name()))
                    .append("</td><td>")
                    .append(mark(step.verdict()))
                    .append("</td><td>");
            if (!step.problem().isEmpty()) {
                out.append("<div class=\"failed\">")
                        .append(escape(step.problem()))
                        .append("</div>");
            }
            for (CheckResult check : step.checks()) {
                out.append("<div>")
                        .append(mark(check.verdict()))
                        .append(' ')
                        .append(escape(check.sentence()))
                        .append("</div>");
            }
            step.captures()
                    .forEach((name, value) -> out.append("<div><code>$")
                            .append(escape(name))
                            .append("</code> = <code>")
                            .append(escape(value))
                            .append("</code></div>"));
            out.append("</td><td class=\"n\">")
                    .append(Math.round(step.millis()))
                    .append("</td></tr>\n");
        }
        out.append("</table>\n");
    }

    private static void load(LoadRun load, ZoneId zone, StringBuilder out) {
        String when = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss", Locale.ROOT)
                .withZone(zone)
                .format(load.started());
        out.append("<h2>")
                .append(mark(load.passed() ? Verdict.PASSED : Verdict.FAILED))
                .append(" Load: ")
                .append(escape(load.plan().title()))
                .append("</h2>\n");
        out.append("<p>")
                .append(when)
                .append(" · ")
                .append(escape(load.plan().shape().title()))
                .append(" for ");
        out.append(load.plan().seconds()).append(" s · times in milliseconds from the intended start</p>\n");
        load.warnings()
                .forEach(w ->
                        out.append("<p class=\"failed\">").append(escape(w)).append("</p>\n"));
        out.append("<table>\n<tr><th>Step</th>");
        for (String column : List.of("Done", "/s", "Min", "p50", "p90", "p95", "p99", "Max", "Failed")) {
            out.append("<th class=\"n\">").append(column).append("</th>");
        }
        out.append("</tr>\n");
        load.steps().forEach(s -> figures(s, out));
        figures(load.total(), out);
        out.append("</table>\n");
        for (Limit.Outcome limit : load.limits()) {
            out.append("<p>")
                    .append(mark(limit.kept() ? Verdict.PASSED : Verdict.FAILED))
                    .append(' ');
            out.append(escape(limit.limit().title()))
                    .append(", found ")
                    .append(number(limit.found()))
                    .append("</p>\n");
        }
        if (!load.reasons().isEmpty()) {
            out.append("<table>\n<tr><th>Failed because</th><th class=\"n\">How often</th></tr>\n");
            load.reasons()
                    .forEach((reason, count) -> out.append("<tr><td>")
                            .append(escape(reason))
                            .append("</td><td class=\"n\">")
                            .append(count)
                            .append("</td></tr>\n"));
            out.append("</table>\n");
        }
    }

    private static void figures(StepFigures s, StringBuilder out) {
        out.append("<tr><td>")
                .append(escape(s.name()))
                .append("</td><td class=\"n\">")
                .append(s.done())
                .append("</td>");
        for (double value : new double[] {s.perSecond(), s.min(), s.p50(), s.p90(), s.p95(), s.p99(), s.max()}) {
            out.append("<td class=\"n\">").append(number(value)).append("</td>");
        }
        out.append("<td class=\"n\">").append(s.failed()).append("</td></tr>\n");
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, value < 10 ? "%.2f" : "%.0f", value);
    }

    private static String mark(Verdict verdict) {
        return switch (verdict) {
            case PASSED -> "<span class=\"passed\">●&#xFE0E; passed</span>";
            case FAILED -> "<span class=\"failed\">■&#xFE0E; failed</span>";
            case NOT_RUN -> "<span class=\"not_run\">○&#xFE0E; not run</span>";
        };
    }

    private static String escape(String text) {
        return JUnitXml.escape(text).replace("&#10;", "<br>");
    }
}
