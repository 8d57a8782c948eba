package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.Check;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Function;

/**
 * The form of checks in a case's file: a mapping whose one leading key names the kind. Writing is exhaustive by the visitor;
 * reading goes by the table, and by the schema, which knows no other key.
 */
final class CheckFile implements Check.Visitor<Void> {
    private static final Map<String, Function<JsonNode, Check>> READERS = readers();

    private final ObjectNode node;

    /** @param node is written to */
    CheckFile(ObjectNode node) {
        this.node = node;
    }

    private static Map<String, Function<JsonNode, Check>> readers() {
        Map<String, Function<JsonNode, Check>> all = new LinkedHashMap<>();
        all.put("valid", c -> new Check.Valid());
        all.put("noFault", c -> new Check.NoFault());
        all.put("fault", c -> new Check.FaultIs(c.path("fault").asText()));
        all.put(
                "value",
                c -> new Check.Value(c.path("value").asText(), c.path("is").asText()));
        all.put("condition", c -> new Check.Condition(c.path("condition").asText()));
        all.put("withinMillis", c -> new Check.Within(c.path("withinMillis").asLong()));
        return Map.copyOf(all);
    }

    /** The check in a tree that the schema has found good. */
    static Check read(JsonNode c) {
        return READERS.entrySet().stream()
                .filter(r -> c.has(r.getKey()))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("the schema allows a check that is not read: " + c))
                .getValue()
                .apply(c);
    }

    @Override
    public Void valid(Check.Valid check) {
        node.put("valid", true);
        return null;
    }

    @Override
    public Void noFault(Check.NoFault check) {
        node.put("noFault", true);
        return null;
    }

    @Override
    public Void fault(Check.FaultIs check) {
        node.put("fault", check.name());
        return null;
    }

    @Override
    public Void value(Check.Value check) {
        node.put("value", check.path()).put("is", check.expected());
        return null;
    }

    @Override
    public Void condition(Check.Condition check) {
        node.put("condition", check.xpath());
        return null;
    }

    @Override
    public Void within(Check.Within check) {
        node.put("withinMillis", check.millis());
        return null;
    }
}
