package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * The form of steps in a suite's file: a mapping with a name, whose other leading key names the kind.
 *
 * @param node is written to
 */
record StepFile(ObjectNode node) implements Step.Visitor<ObjectNode> {
    /**
     * Reads steps.
     *
     * @param tables gives the table that is kept in a file beside the suite's, by its name
     */
    record Reader(Function<String, DataTable> tables) {
        /** The steps in a tree that the schema has found good. */
        List<Step> steps(JsonNode list) {
            List<Step> steps = new ArrayList<>();
            list.forEach(s -> steps.add(step(s)));
            return steps;
        }

        private Step step(JsonNode step) {
            String name = step.path("name").asText();
            boolean on = !step.path("off").asBoolean();
            if (step.has("call")) {
                return new Step.Call(name, on, step.path("call").asText(), known(step.path("known")));
            }
            if (step.has("pauseMillis")) {
                return new Step.Pause(name, on, step.path("pauseMillis").asLong());
            }
            if (step.has("group")) {
                return new Step.Group(name, on, steps(step.path("group")));
            }
            if (step.has("until")) {
                return new Step.Until(
                        name,
                        on,
                        step.path("until").asText(),
                        step.path("times").asInt(10),
                        step.path("everyMillis").asLong(1_000),
                        steps(step.path("steps")));
            }
            if (step.has("suite")) {
                Map<String, String> values = new LinkedHashMap<>();
                step.path("values")
                        .properties()
                        .forEach(e -> values.put(e.getKey(), e.getValue().asText()));
                return new Step.RunSuite(name, on, step.path("suite").asText(), values);
            }
            if (step.has("when")) {
                return new Step.Choose(
                        name,
                        on,
                        step.path("when").asText(),
                        new Step.Group("then", true, steps(step.path("then"))),
                        new Step.Group("otherwise", true, steps(step.path("otherwise"))));
            }
            if (step.has("forEachRow")) {
                return new Step.ForEach(
                        name,
                        on,
                        Optional.of(tables.apply(step.path("forEachRow").asText())),
                        "",
                        "",
                        steps(step.path("steps")));
            }
            if (step.has("forEach")) {
                return new Step.ForEach(
                        name,
                        on,
                        Optional.empty(),
                        step.path("forEach").asText(),
                        step.path("as").asText("item"),
                        steps(step.path("steps")));
            }
            throw new IllegalArgumentException("the schema allows a step that is not read: " + step);
        }

        private Optional<KnownValues> known(JsonNode node) {
            if (!node.isObject()) {
                return Optional.empty();
            }
            List<KnownValues.Column> columns = new ArrayList<>();
            for (JsonNode c : node.path("columns")) {
                KnownValues.Use use = c.has("sets") ? KnownValues.Use.SETS : KnownValues.Use.IS;
                columns.add(new KnownValues.Column(
                        c.path("name").asText(), use, c.path(use.code()).asText()));
            }
            return Optional.of(new KnownValues(tables.apply(node.path("file").asText()), columns));
        }
    }

    /** Writes steps into a list. */
    static void write(List<Step> steps, ArrayNode list) {
        steps.forEach(s -> {
            ObjectNode one = list.addObject().put("name", s.name());
            s.accept(new StepFile(one));
            if (!s.on()) {
                one.put("off", true);
            }
        });
    }

    @Override
    public ObjectNode call(Step.Call step) {
        node.put("call", step.caseReference());
        step.known().ifPresent(known -> {
            ObjectNode written = node.putObject("known");
            written.put("file", known.table().file());
            ArrayNode columns = written.putArray("columns");
            known.columns()
                    .forEach(c -> columns.addObject()
                            .put("name", c.name())
                            .put(c.use().code(), c.path()));
        });
        return node;
    }

    @Override
    public ObjectNode pause(Step.Pause step) {
        return node.put("pauseMillis", step.millis());
    }

    @Override
    public ObjectNode group(Step.Group step) {
        write(step.inner(), node.putArray("group"));
        return node;
    }

    @Override
    public ObjectNode until(Step.Until step) {
        node.put("until", step.condition()).put("times", step.times()).put("everyMillis", step.everyMillis());
        write(step.inner(), node.putArray("steps"));
        return node;
    }

    @Override
    public ObjectNode suite(Step.RunSuite step) {
        node.put("suite", step.suite());
        ObjectNode values = node.putObject("values");
        step.values().entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(e -> values.put(e.getKey(), e.getValue()));
        return node;
    }

    @Override
    public ObjectNode choose(Step.Choose step) {
        node.put("when", step.condition());
        write(step.then().inner(), node.putArray("then"));
        write(step.otherwise().inner(), node.putArray("otherwise"));
        return node;
    }

    @Override
    public ObjectNode forEach(Step.ForEach step) {
        if (step.table().isPresent()) {
            node.put("forEachRow", step.table().get().file());
        } else {
            node.put("forEach", step.nodes()).put("as", step.variable());
        }
        write(step.inner(), node.putArray("steps"));
        return node;
    }
}
