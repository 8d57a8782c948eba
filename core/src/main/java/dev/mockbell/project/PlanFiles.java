package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Stream;

/** Suites, mocks and load plans as YAML trees. */
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

    static LoadPlan load(String id, ObjectNode node) {
        JsonNode shape = node.path("shape");
        LoadShape work = shape.has("users")
                ? new LoadShape.Users(
                        Math.max(1, shape.path("users").asInt()),
                        shape.path("pauseMillis").asLong(0))
                : new LoadShape.Arrivals(shape.path("arrivalsPerSecond").asDouble(10));
        List<Limit> limits = new ArrayList<>();
        for (JsonNode l : node.path("limits")) {
            limits.add(new Limit(
                    Limit.Measure.valueOf(l.path("measure").asText().toUpperCase(Locale.ROOT)),
                    l.path("bound").asDouble()));
        }
        return new LoadPlan(
                id,
                node.path("title").asText(id),
                node.path("suite").asText(),
                node.path("endpoint").asText(""),
                work,
                Math.max(1, node.path("seconds").asInt(10)),
                Math.max(1, node.path("timeoutMillis").asLong(10_000)),
                List.copyOf(limits));
    }

    static void write(LoadPlan plan, ObjectNode node) {
        node.put("title", plan.title());
        node.put("suite", plan.suite());
        node.put("endpoint", plan.endpoint());
        ObjectNode shape = node.putObject("shape");
        plan.shape().accept(new ShapeForm(shape));
        node.put("seconds", plan.seconds());
        node.put("timeoutMillis", plan.timeoutMillis());
        ArrayNode limits = node.putArray("limits");
        plan.limits()
                .forEach(l -> limits.addObject()
                        .put("measure", l.measure().name().toLowerCase(Locale.ROOT))
                        .put("bound", l.bound()));
    }

    /** The form of each shape of load. */
    private record ShapeForm(ObjectNode node) implements LoadShape.Visitor<ObjectNode> {
        @Override
        public ObjectNode arrivals(LoadShape.Arrivals shape) {
            return node.put("arrivalsPerSecond", shape.perSecond());
        }

        @Override
        public ObjectNode users(LoadShape.Users shape) {
            return node.put("users", shape.count()).put("pauseMillis", shape.pauseMillis());
        }
    }
}
