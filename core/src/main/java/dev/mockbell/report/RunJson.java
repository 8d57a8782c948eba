package dev.mockbell.report;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.CheckResult;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.StepResult;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;

/** Writes what a run tells as JSON, an object a line, each as it happens, for other programs. */
public final class RunJson implements RunListener {
    private final Writer out;
    private final ObjectMapper json = new ObjectMapper();
    private final String suite;

    /**
     * @param suite the suite's id, said in every line, since several may write
     * @param out flushed after each line; lines of several are written one at a time
     */
    public RunJson(String suite, Writer out) {
        this.suite = suite;
        this.out = out;
    }

    @Override
    public void heard(RunEvent event) {
        ObjectNode node = json.createObjectNode();
        if (event instanceof RunEvent.Started started) {
            node.put("event", "started")
                    .put("title", started.suite().title())
                    .put("environment", started.environment());
        } else if (event instanceof RunEvent.StepStarted started) {
            node.put("event", "step-started")
                    .put("step", started.path().text())
                    .put("round", started.round())
                    .put("name", started.name());
        } else if (event instanceof RunEvent.Called called) {
            Exchange exchange = called.exchange();
            node.put("event", "called")
                    .put("step", called.path().text())
                    .put("round", called.round())
                    .put("operation", exchange.operation())
                    .put("address", exchange.endpoint())
                    .put("status", exchange.status())
                    .put("millis", exchange.timing().total() / 1e6)
                    .put("exchange", exchange.id());
        } else if (event instanceof RunEvent.RowFinished row) {
            node.put("event", "row-finished").put("step", row.path().text()).put("round", row.round());
            result(row.result(), node);
        } else if (event instanceof RunEvent.StepFinished step) {
            node.put("event", "step-finished").put("step", step.path().text()).put("round", step.round());
            result(step.result(), node);
        } else if (event instanceof RunEvent.Finished finished) {
            Run run = finished.run();
            node.put("event", "finished")
                    .put("passed", run.passed())
                    .put("checks", run.checks())
                    .put("checksPassed", run.checksPassed())
                    .put("millis", run.millis());
        }
        node.put("at", event.at().toString()).put("suite", suite);
        try {
            String line = json.writeValueAsString(node) + "\n";
            synchronized (out) {
                out.write(line);
                out.flush();
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void result(StepResult result, ObjectNode node) {
        node.put("name", result.name())
                .put("verdict", result.verdict().name().toLowerCase(java.util.Locale.ROOT))
                .put("millis", result.millis())
                .put("exchange", result.exchange())
                .put("problem", result.problem());
        ArrayNode checks = node.putArray("checks");
        for (CheckResult check : result.checks()) {
            checks.addObject()
                    .put("passed", check.passed())
                    .put("title", check.title())
                    .put("expected", check.expected())
                    .put("found", check.found())
                    .put("where", check.where());
        }
        ObjectNode captures = node.putObject("captures");
        result.captures().forEach(captures::put);
    }
}
