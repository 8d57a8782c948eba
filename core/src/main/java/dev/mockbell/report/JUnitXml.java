package dev.mockbell.report;

import dev.mockbell.check.Verdict;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import java.util.List;
import java.util.Locale;

/** Runs as JUnit XML, the form that build servers read: a testsuite a run, a testcase a step. */
public final class JUnitXml {
    private JUnitXml() {}

    /** The whole document. */
    public static String of(List<Run> runs) {
        StringBuilder out = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        long tests = runs.stream().mapToLong(r -> r.steps().size()).sum();
        out.append("<testsuites").append(attribute("tests", tests));
        out.append(attribute(
                "failures",
                runs.stream().mapToLong(r -> count(r, Verdict.FAILED)).sum()));
        out.append(attribute("errors", 0));
        out.append(attribute(
                "skipped",
                runs.stream().mapToLong(r -> count(r, Verdict.NOT_RUN)).sum()));
        out.append(attribute(
                        "time", seconds(runs.stream().mapToDouble(Run::millis).sum())))
                .append(">\n");
        runs.forEach(r -> suite(r, out));
        return out.append("</testsuites>\n").toString();
    }

    private static void suite(Run run, StringBuilder out) {
        out.append("  <testsuite").append(attribute("name", run.title()));
        out.append(attribute("tests", run.steps().size()));
        out.append(attribute("failures", count(run, Verdict.FAILED)));
        out.append(attribute("errors", 0));
        out.append(attribute("skipped", count(run, Verdict.NOT_RUN)));
        out.append(attribute("time", seconds(run.millis())));
        out.append(attribute("timestamp", run.started().toString().replaceAll("(\\.\\d+)?Z$", "")));
        out.append(">\n");
        if (!run.environment().isEmpty()) {
            out.append("    <properties>\n      <property name=\"environment\"")
                    .append(attribute("value", run.environment()))
                    .append("/>\n    </properties>\n");
        }
        for (StepResult step : run.steps()) {
            out.append("    <testcase").append(attribute("name", step.name()));
            out.append(attribute("classname", run.suite())).append(attribute("time", seconds(step.millis())));
            if (step.verdict() == Verdict.PASSED) {
                out.append("/>\n");
                continue;
            }
            out.append(">\n");
            String words = String.join("\n", step.failures());
            if (step.verdict() == Verdict.NOT_RUN) {
                out.append("      <skipped")
                        .append(attribute("message", step.problem()))
                        .append("/>\n");
            } else {
                String first =
                        step.failures().isEmpty() ? "failed" : step.failures().get(0);
                out.append("      <failure").append(attribute("message", first));
                out.append(attribute("type", step.problem().isEmpty() ? "check" : "step"))
                        .append('>');
                out.append(escape(words)).append("</failure>\n");
            }
            out.append("    </testcase>\n");
        }
        out.append("  </testsuite>\n");
    }

    private static long count(Run run, Verdict verdict) {
        return run.steps().stream().filter(s -> s.verdict() == verdict).count();
    }

    private static String seconds(double millis) {
        return String.format(Locale.ROOT, "%.3f", millis / 1_000);
    }

    private static String attribute(String name, Object value) {
        return " " + name + "=\"" + escape(String.valueOf(value)) + "\"";
    }

    /** Text for XML 1.0; characters that XML cannot hold become the replacement character. */
    static String escape(String text) {
        StringBuilder out = new StringBuilder();
        text.codePoints().forEach(c -> {
            switch (c) {
                case '&' -> out.append("&amp;");
                case '<' -> out.append("&lt;");
                case '>' -> out.append("&gt;");
                case '"' -> out.append("&quot;");
                case '\n' -> out.append("&#10;");
                default -> {
                    boolean legal =
                            c == 9 || c == 13 || c >= 0x20 && c <= 0xD7FF || c >= 0xE000 && c <= 0xFFFD || c >= 0x10000;
                    out.appendCodePoint(legal ? c : 0xFFFD);
                }
            }
        });
        return out.toString();
    }
}
