package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.Check;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
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
                c -> new Check.Value(
                        c.path("value").asText(),
                        c.path("is").asText(),
                        c.path("tolerance").asText("")));
        all.put("condition", c -> new Check.Condition(c.path("condition").asText()));
        all.put("withinMillis", c -> new Check.Within(c.path("withinMillis").asLong()));
        all.put("message", c -> new Check.MessageText(match(c.path("message")), wanted(c.path("message"))));
        all.put("header", c -> new Check.HeaderIs(c.path("header").asText(), match(c), wanted(c)));
        all.put("status", c -> new Check.StatusIs(c.path("status").asText()));
        all.put("atMostBytes", c -> new Check.SizeAtMost(c.path("atMostBytes").asLong()));
        all.put("sameAsBaseline", c -> new Check.SameAsBaseline());
        all.put("present", c -> new Check.Present(c.path("present").asText()));
        all.put(
                "count",
                c -> new Check.Count(
                        c.path("count").asText(),
                        c.path("from").asLong(0),
                        c.path("to").asLong(Long.MAX_VALUE)));
        all.put(
                "every",
                c -> new Check.Each(
                        c.path("every").asText(), true, c.path("holds").asText()));
        all.put(
                "some",
                c -> new Check.Each(
                        c.path("some").asText(), false, c.path("holds").asText()));
        all.put(
                "values",
                c -> new Check.Items(
                        c.path("values").asText(),
                        texts(c.path("are")),
                        !c.path("anyOrder").asBoolean()));
        all.put("partCount", c -> new Check.PartCount(c.path("partCount").asInt()));
        all.put("part", c -> part(c, c.path("part").asText()));
        all.put("secured", c -> new Check.Secured());
        return Collections.unmodifiableMap(all);
    }

    private static Check.Match match(JsonNode c) {
        return Arrays.stream(Check.Match.values())
                .filter(m -> c.has(m.code()))
                .findFirst()
                .orElse(Check.Match.IS);
    }

    private static String wanted(JsonNode c) {
        return c.path(match(c).code()).asText();
    }

    private static Check part(JsonNode c, String part) {
        Check.PartIs.Fact fact = Arrays.stream(Check.PartIs.Fact.values())
                .filter(f -> c.has(f.code()))
                .findFirst()
                .orElseThrow();
        return new Check.PartIs(part, fact, c.path(fact.code()).asText());
    }

    private static List<String> texts(JsonNode list) {
        List<String> all = new ArrayList<>();
        list.forEach(t -> all.add(t.asText()));
        return all;
    }

    /** The check in a tree that the schema has found good. */
    static Check read(JsonNode c) {
        Check bare = READERS.entrySet().stream()
                .filter(r -> c.has(r.getKey()))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("the schema allows a check that is not read: " + c))
                .getValue()
                .apply(c);
        Check meant = c.path("not").asBoolean() ? new Check.Not(bare) : bare;
        return c.path("stops").asBoolean() ? new Check.Stopping(meant) : meant;
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
        if (!check.tolerance().isEmpty()) {
            node.put("tolerance", check.tolerance());
        }
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

    @Override
    public Void text(Check.MessageText check) {
        node.putObject("message").put(check.match().code(), check.wanted());
        return null;
    }

    @Override
    public Void header(Check.HeaderIs check) {
        node.put("header", check.name()).put(check.match().code(), check.wanted());
        return null;
    }

    @Override
    public Void status(Check.StatusIs check) {
        node.put("status", check.wanted());
        return null;
    }

    @Override
    public Void size(Check.SizeAtMost check) {
        node.put("atMostBytes", check.bytes());
        return null;
    }

    @Override
    public Void baseline(Check.SameAsBaseline check) {
        node.put("sameAsBaseline", true);
        return null;
    }

    @Override
    public Void present(Check.Present check) {
        node.put("present", check.path());
        return null;
    }

    @Override
    public Void count(Check.Count check) {
        node.put("count", check.path()).put("from", check.from());
        if (check.to() < Long.MAX_VALUE) {
            node.put("to", check.to());
        }
        return null;
    }

    @Override
    public Void each(Check.Each check) {
        node.put(check.all() ? "every" : "some", check.path()).put("holds", check.holds());
        return null;
    }

    @Override
    public Void items(Check.Items check) {
        node.put("values", check.path());
        check.wanted().forEach(node.putArray("are")::add);
        if (!check.inOrder()) {
            node.put("anyOrder", true);
        }
        return null;
    }

    @Override
    public Void partCount(Check.PartCount check) {
        node.put("partCount", check.count());
        return null;
    }

    @Override
    public Void part(Check.PartIs check) {
        node.put("part", check.part()).put(check.fact().code(), check.wanted());
        return null;
    }

    @Override
    public Void secured(Check.Secured check) {
        node.put("secured", true);
        return null;
    }

    @Override
    public Void not(Check.Not check) {
        check.of().accept(this);
        node.put("not", true);
        return null;
    }

    @Override
    public Void stopping(Check.Stopping check) {
        check.of().accept(this);
        node.put("stops", true);
        return null;
    }
}
