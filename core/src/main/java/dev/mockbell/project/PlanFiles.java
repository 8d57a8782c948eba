package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Stream;

/** Suites and mocks as YAML trees. */
final class PlanFiles {
    private PlanFiles() {}

    /** @param tables gives the table that is kept in a file beside the suite's, by its name */
    static Suite suite(String id, ObjectNode node, Function<String, DataTable> tables) {
        StepFile.Reader reader = new StepFile.Reader(tables);
        return new Suite(
                id,
                node.path("title").asText(id),
                reader.steps(node.path("setUp")),
                reader.steps(node.path("steps")),
                reader.steps(node.path("cleanUp")));
    }

    /** @return the tables that it has, those whose files can be used */
    static List<DataTable> write(Suite suite, ObjectNode node) {
        node.put("title", suite.title());
        if (!suite.setUp().isEmpty()) {
            StepFile.write(suite.setUp(), node.putArray("setUp"));
        }
        StepFile.write(suite.steps(), node.putArray("steps"));
        if (!suite.cleanUp().isEmpty()) {
            StepFile.write(suite.cleanUp(), node.putArray("cleanUp"));
        }
        return suite.all()
                .flatMap(PlanFiles::tables)
                .filter(t -> t.trouble().isEmpty())
                .toList();
    }

    private static Stream<DataTable> tables(Step step) {
        if (step instanceof Step.Call call) {
            return call.known().map(KnownValues::table).stream();
        }
        return step instanceof Step.ForEach each ? each.table().stream() : Stream.empty();
    }

    /** @param body gives the text of a body file by its name */
    static MockPlan mock(String contract, ObjectNode node, Function<String, String> body) {
        Map<String, List<MockAnswer>> answers = new LinkedHashMap<>();
        node.path("answers").properties().forEach(e -> {
            List<MockAnswer> list = new ArrayList<>();
            for (JsonNode a : e.getValue()) {
                list.add(AnswerFile.read(
                        a, a.has("body") ? body.apply(a.path("body").asText()) : ""));
            }
            answers.put(e.getKey(), List.copyOf(list));
        });
        return new MockPlan(
                contract,
                node.path("host").asText(MockPlan.LOOPBACK),
                node.path("port").asInt(MockPlan.USUAL_PORT),
                answers,
                ConductFile.read(node));
    }

    /** @return the bodies by file name */
    static Map<String, String> write(MockPlan plan, ObjectNode node) {
        Map<String, String> bodies = new LinkedHashMap<>();
        node.put("host", plan.host());
        node.put("port", plan.port());
        ConductFile.write(plan.conduct(), node);
        ObjectNode answers = node.putObject("answers");
        plan.answers().forEach((operation, list) -> {
            ArrayNode array = answers.putArray(operation);
            for (MockAnswer a : list) {
                ObjectNode one = array.addObject();
                new AnswerFile(one).write(a);
                if (!a.body().isEmpty()) {
                    String name = Names.free(
                            operation.replace('#', '-') + " " + a.title(), n -> bodies.containsKey(n + ".xml"));
                    bodies.put(name + ".xml", a.body());
                    one.put("body", name + ".xml");
                }
            }
        });
        return bodies;
    }
}
