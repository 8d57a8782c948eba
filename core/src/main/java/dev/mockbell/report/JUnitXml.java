package dev.mockbell.report;

import dev.mockbell.check.Verdict;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import dev.mockbell.xml.XmlWriter;
import java.util.List;
import java.util.Locale;

/** Runs as JUnit XML, the form that build servers read: a testsuite a run, a testcase a step. */
public final class JUnitXml {
    private JUnitXml() {}

    /** The whole document. */
    public static String of(List<Run> runs) {
        XmlWriter out = XmlWriter.document().start("testsuites");
        out.attribute("tests", runs.stream().mapToLong(r -> r.steps().size()).sum())
                .attribute(
                        "failures",
                        runs.stream().mapToLong(r -> count(r, Verdict.FAILED)).sum())
                .attribute("errors", 0)
                .attribute(
                        "skipped",
                        runs.stream().mapToLong(r -> count(r, Verdict.NOT_RUN)).sum())
                .attribute(
                        "time", seconds(runs.stream().mapToDouble(Run::millis).sum()));
        runs.forEach(r -> suite(r, out));
        return out.end().finish() + "\n";
    }

    private static void suite(Run run, XmlWriter out) {
        out.start("testsuite")
                .attribute("name", run.title())
                .attribute("tests", run.steps().size())
                .attribute("failures", count(run, Verdict.FAILED))
                .attribute("errors", 0)
                .attribute("skipped", count(run, Verdict.NOT_RUN))
                .attribute("time", seconds(run.millis()))
                .attribute("timestamp", run.started().toString().replaceAll("(\\.\\d+)?Z$", ""));
        if (!run.environment().isEmpty()) {
            out.start("properties")
                    .start("property")
                    .attribute("name", "environment")
                    .attribute("value", run.environment());
            out.end().end();
        }
        run.steps().forEach(s -> step(run, s, out));
        out.end();
    }

    private static void step(Run run, StepResult step, XmlWriter out) {
        out.start("testcase")
                .attribute("name", step.name())
                .attribute("classname", run.suite())
                .attribute("time", seconds(step.millis()));
        switch (step.verdict()) {
            case PASSED -> {
                // nothing more is said of what went well
            }
            case NOT_RUN ->
                out.start("skipped").attribute("message", step.problem()).end();
            case FAILED ->
                out.start("failure")
                        .attribute(
                                "message",
                                step.failures().isEmpty()
                                        ? "failed"
                                        : step.failures().get(0))
                        .attribute("type", step.problem().isEmpty() ? "check" : "step")
                        .text(String.join("\n", step.failures()))
                        .end();
        }
        out.end();
    }

    private static long count(Run run, Verdict verdict) {
        return run.steps().stream().filter(s -> s.verdict() == verdict).count();
    }

    private static String seconds(double millis) {
        return String.format(Locale.ROOT, "%.3f", millis / 1_000);
    }
}
