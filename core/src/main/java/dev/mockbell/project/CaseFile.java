package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.choice.Choice;
import dev.mockbell.compare.Baseline;
import dev.mockbell.content.Header;
import dev.mockbell.file.FileName;
import dev.mockbell.suite.Case;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** A case as YAML; its body lies beside it as XML. */
final class CaseFile {
    private CaseFile() {}

    /** @param baseline gives the text of the answer that is the baseline; asked only where there is one */
    static Case read(
            ObjectNode node, String contract, String operation, String id, String body, Supplier<String> baseline) {
        List<Header> headers = new ArrayList<>();
        node.path("headers")
                .forEach(h -> headers.add(
                        new Header(h.path("name").asText(), h.path("value").asText())));
        List<Check> checks = new ArrayList<>();
        node.path("checks").forEach(c -> checks.add(CheckFile.read(c)));
        List<Capture> captures = new ArrayList<>();
        node.path("captures")
                .forEach(c -> captures.add(new Capture(
                        c.path("name").asText(),
                        c.path("path").asText(),
                        Choice.of(Capture.Takes.class, c.path("takes").asText(), Capture.Takes.VALUE),
                        "request".equals(c.path("from").asText()))));
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
                node.path("security").asText(""),
                DeliveryFile.read(node.path("delivery")),
                DeliveryFile.parts(node.path("parts")),
                baseline(node.path("baseline"), baseline),
                VariableFile.read(node.path("variables")),
                List.copyOf(checks),
                List.copyOf(captures));
    }

    private static Optional<Baseline> baseline(JsonNode node, Supplier<String> text) {
        if (!node.isObject()) {
            return Optional.empty();
        }
        List<String> leftOut = new ArrayList<>();
        node.path("leaveOut").forEach(p -> leftOut.add(p.asText()));
        return Optional.of(new Baseline(taken(node.path("taken").asText()), leftOut, text.get()));
    }

    private static Instant taken(String text) {
        try {
            return Instant.parse(text);
        } catch (DateTimeParseException byHand) {
            return Instant.EPOCH;
        }
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
        if (!kept.security().isEmpty()) {
            node.put("security", kept.security());
        }
        DeliveryFile.write(kept.delivery(), node);
        DeliveryFile.write(kept.parts(), node);
        kept.baseline().ifPresent(b -> {
            ObjectNode baseline = node.putObject("baseline");
            baseline.put("taken", b.taken().toString());
            b.leftOut().forEach(baseline.putArray("leaveOut")::add);
        });
        VariableFile.write(kept.variables(), node.putObject("variables"));
        ArrayNode checks = node.putArray("checks");
        kept.checks().forEach(c -> c.accept(new CheckFile(checks.addObject())));
        ArrayNode captures = node.putArray("captures");
        kept.captures().forEach(c -> {
            ObjectNode one = captures.addObject().put("name", c.name()).put("path", c.path());
            if (c.takes() != Capture.Takes.VALUE) {
                one.put("takes", c.takes().code());
            }
            if (c.fromRequest()) {
                one.put("from", "request");
            }
        });
    }
}
