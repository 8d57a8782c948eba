package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.file.FileName;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.List;

/** A case as YAML; its body lies beside it as XML. */
final class CaseFile {
    private CaseFile() {}

    static Case read(ObjectNode node, String contract, String operation, String id, String body) {
        List<Header> headers = new ArrayList<>();
        node.path("headers")
                .forEach(h -> headers.add(
                        new Header(h.path("name").asText(), h.path("value").asText())));
        List<Check> checks = new ArrayList<>();
        node.path("checks").forEach(c -> checks.add(check(c)));
        List<Capture> captures = new ArrayList<>();
        node.path("captures")
                .forEach(c -> captures.add(
                        new Capture(c.path("name").asText(), c.path("path").asText())));
        return new Case(
                id,
                node.path("title").asText(id),
                node.path("description").asText(""),
                contract,
                operation,
                node.path("port").asText(""),
                body,
                node.path("soapHeaders").asText(""),
                List.copyOf(headers),
                VariableFile.read(node.path("variables")),
                List.copyOf(checks),
                List.copyOf(captures));
    }

    private static Check check(JsonNode c) {
        if (c.has("valid")) {
            return new Check.Valid();
        }
        if (c.has("noFault")) {
            return new Check.NoFault();
        }
        if (c.has("fault")) {
            return new Check.FaultIs(c.path("fault").asText());
        }
        if (c.has("value")) {
            return new Check.Value(c.path("value").asText(), c.path("is").asText());
        }
        if (c.has("condition")) {
            return new Check.Condition(c.path("condition").asText());
        }
        return new Check.Within(c.path("withinMillis").asLong());
    }

    static void write(Case kept, ObjectNode node) {
        node.put("title", kept.title());
        node.put("description", kept.description());
        if (!FileName.name(FileName.of(kept.operation())).equals(kept.operation())) {
            node.put("operation", kept.operation());
        }
        node.put("port", kept.port());
        ArrayNode headers = node.putArray("headers");
        kept.headers().forEach(h -> headers.addObject().put("name", h.name()).put("value", h.value()));
        node.put("soapHeaders", kept.soapHeaders());
        VariableFile.write(kept.variables(), node.putObject("variables"));
        ArrayNode checks = node.putArray("checks");
        kept.checks().forEach(c -> write(c, checks.addObject()));
        ArrayNode captures = node.putArray("captures");
        kept.captures().forEach(c -> captures.addObject().put("name", c.name()).put("path", c.path()));
    }

    private static void write(Check check, ObjectNode node) {
        if (check instanceof Check.Valid) {
            node.put("valid", true);
        } else if (check instanceof Check.NoFault) {
            node.put("noFault", true);
        } else if (check instanceof Check.FaultIs fault) {
            node.put("fault", fault.name());
        } else if (check instanceof Check.Value value) {
            node.put("value", value.path()).put("is", value.expected());
        } else if (check instanceof Check.Condition condition) {
            node.put("condition", condition.xpath());
        } else if (check instanceof Check.Within within) {
            node.put("withinMillis", within.millis());
        }
    }
}
