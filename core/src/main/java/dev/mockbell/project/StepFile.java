package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.suite.Step;
import java.util.Map;
import java.util.function.BiFunction;

/**
 * The form of steps in a suite's file: a mapping with a name, whose other leading key names the kind.
 *
 * @param node is written to
 */
record StepFile(ObjectNode node) implements Step.Visitor<ObjectNode> {
    private static final Map<String, BiFunction<String, JsonNode, Step>> READERS =
            Map.of("call", (name, kind) -> Step.call(name, kind.asText()));

    /** The step in a tree that the schema has found good. */
    static Step read(JsonNode step) {
        String name = step.path("name").asText();
        return READERS.entrySet().stream()
                .filter(r -> step.has(r.getKey()))
                .findFirst()
                .map(r -> r.getValue().apply(name, step.path(r.getKey())))
                .orElseThrow(() -> new IllegalArgumentException("the schema allows a step that is not read: " + step));
    }

    @Override
    public ObjectNode call(Step.Call step) {
        return node.put("name", step.name()).put("call", step.caseReference());
    }
}
