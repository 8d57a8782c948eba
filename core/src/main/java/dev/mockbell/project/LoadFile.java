package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.DoubleNode;
import com.fasterxml.jackson.databind.node.LongNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.choice.Choice;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.load.Pauses;
import dev.mockbell.load.RowUse;
import dev.mockbell.load.Share;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** A load plan as a YAML tree. What is as usual is left out, and a level that stays the same has a short form. */
public final class LoadFile {
    private static final String RATE = "arrivalsPerSecond";
    private static final String AT_WORK = "usersAtWork";
    private static final double USUAL_SECONDS = 10;

    private static final ObjectMapper JSON = new ObjectMapper();

    private LoadFile() {}

    /** A plan as text, for another program of the same version. */
    public static String text(LoadPlan plan) {
        ObjectNode node = JSON.createObjectNode();
        node.put("id", plan.id());
        write(plan, node);
        return node.toString();
    }

    /**
     * Reads what {@link #text} gave.
     *
     * @throws Problem when it is none
     */
    public static LoadPlan plan(String text) {
        try {
            return JSON.readTree(text) instanceof ObjectNode node
                    ? read(node.path("id").asText(), node)
                    : noPlan(null);
        } catch (JsonProcessingException | IllegalArgumentException e) {
            return noPlan(e);
        }
    }

    private static LoadPlan noPlan(Exception cause) {
        throw Problem.of(Problem.Kind.INPUT, "This is no load plan", null, "Use the same version everywhere.", cause);
    }

    static LoadPlan read(String id, ObjectNode node) {
        List<Share> mix = new ArrayList<>();
        if (node.has("suite")) {
            mix.add(Share.ofSuite(node.path("suite").asText()));
        }
        for (JsonNode share : node.path("mix")) {
            boolean suite = share.has("suite");
            mix.add(new Share(
                    suite ? Share.Kind.SUITE : Share.Kind.CASE,
                    share.path(suite ? "suite" : "case").asText(),
                    share.path("weight").asDouble(1)));
        }
        JsonNode shape = node.path("shape");
        List<Limit> limits = new ArrayList<>();
        for (JsonNode l : node.path("limits")) {
            limits.add(new Limit(
                    l.path("of").asText(""),
                    Limit.Measure.valueOf(l.path("measure").asText().toUpperCase(Locale.ROOT)),
                    l.path("bound").asDouble(),
                    l.path("stops").asBoolean(false),
                    l.path("tolerance").asInt(0)));
        }
        return new LoadPlan(
                id,
                node.path("title").asText(id),
                mix,
                node.path("endpoint").asText(""),
                shape(shape, node.path("seconds").asDouble(USUAL_SECONDS)),
                node.has("pauses")
                        ? pauses(node.path("pauses"))
                        : Pauses.fixed(shape.path("pauseMillis").asLong(0)),
                rows(node.path("rows")),
                conduct(node),
                limits);
    }

    private static LoadShape shape(JsonNode shape, double seconds) {
        if (shape.has("arrivals")) {
            return new LoadShape(Kind.ARRIVALS, points(shape.path("arrivals")));
        }
        if (shape.has(AT_WORK)) {
            return new LoadShape(Kind.USERS, points(shape.path(AT_WORK)));
        }
        return shape.has("users")
                ? LoadShape.users(shape.path("users").asInt(), seconds)
                : LoadShape.arrivals(shape.path(RATE).asDouble(10), seconds);
    }

    private static List<Point> points(JsonNode list) {
        List<Point> points = new ArrayList<>();
        list.forEach(p ->
                points.add(new Point(p.path("at").asDouble(), p.path("level").asDouble())));
        return points;
    }

    private static Pauses pauses(JsonNode node) {
        if (node.has("meanMillis")) {
            return Pauses.exponential(node.path("meanMillis").asLong());
        }
        return node.has("lowMillis")
                ? Pauses.uniform(
                        node.path("lowMillis").asLong(), node.path("highMillis").asLong())
                : Pauses.fixed(node.path("millis").asLong());
    }

    private static Optional<RowUse> rows(JsonNode node) {
        return node.has("file")
                ? Optional.of(new RowUse(
                        node.path("file").asText(),
                        Choice.of(RowUse.Order.class, node.path("order").asText(), RowUse.Order.IN_ORDER),
                        node.path("perUser").asBoolean(false)))
                : Optional.empty();
    }

    private static Conduct conduct(ObjectNode node) {
        Conduct usual = Conduct.USUAL;
        return new Conduct(
                Math.max(1, node.path("timeoutMillis").asLong(usual.timeoutMillis())),
                node.path("connections").path("kept").asBoolean(usual.keepsConnections()),
                Math.max(1, node.path("connections").path("most").asInt(usual.mostConnections())),
                node.path("connections").path("resumesTls").asBoolean(usual.resumesTls()),
                Math.max(0, node.path("warmUpSeconds").asInt(usual.warmUpSeconds())),
                node.path("validatedPercent").asDouble(usual.validatedPercent()),
                node.path("seed").asLong(usual.seed()),
                Math.max(0, node.path("failuresKept").asInt(usual.failuresKept())));
    }

    static void write(LoadPlan plan, ObjectNode node) {
        node.put("title", plan.title());
        Share first = plan.mix().isEmpty() ? null : plan.mix().get(0);
        if (plan.mix().size() == 1 && first.equals(Share.ofSuite(first.of()))) {
            node.put("suite", first.of());
        } else {
            ArrayNode mix = node.putArray("mix");
            plan.mix().forEach(s -> mix.addObject().put(s.kind().code(), s.of()).set("weight", number(s.weight())));
        }
        node.put("endpoint", plan.endpoint());
        LoadShape shape = plan.shape();
        ObjectNode curve = node.putObject("shape");
        boolean users = shape.kind() == Kind.USERS;
        if (shape.isConstant()) {
            if (users) {
                curve.put("users", (long) shape.first());
            } else {
                curve.set(RATE, number(shape.first()));
            }
            node.set("seconds", number(shape.seconds()));
        } else {
            ArrayNode points = curve.putArray(users ? AT_WORK : "arrivals");
            for (Point p : shape.points()) {
                ObjectNode point = points.addObject();
                point.set("at", number(p.at()));
                point.set("level", number(p.level()));
            }
        }
        writePauses(plan.pauses(), node);
        plan.rows()
                .ifPresent(rows -> node.putObject("rows")
                        .put("file", rows.file())
                        .put("order", rows.order().code())
                        .put("perUser", rows.perUser()));
        writeConduct(plan.conduct(), node);
        ArrayNode limits = node.putArray("limits");
        plan.limits().forEach(l -> write(l, limits.addObject()));
    }

    /** As a person would write it. */
    private static JsonNode number(double value) {
        return value == Math.rint(value) ? LongNode.valueOf((long) value) : DoubleNode.valueOf(value);
    }

    private static void write(Limit limit, ObjectNode node) {
        if (!limit.of().isEmpty()) {
            node.put("of", limit.of());
        }
        node.put("measure", limit.measure().code());
        node.set("bound", number(limit.bound()));
        if (limit.stops()) {
            node.put("stops", true).put("tolerance", limit.tolerance());
        }
    }

    private static void writePauses(Pauses pauses, ObjectNode node) {
        switch (pauses.kind()) {
            case NONE -> {
                // nothing stands for none
            }
            case FIXED -> node.putObject("pauses").put("millis", pauses.low());
            case UNIFORM ->
                node.putObject("pauses").put("lowMillis", pauses.low()).put("highMillis", pauses.high());
            case EXPONENTIAL -> node.putObject("pauses").put("meanMillis", pauses.low());
        }
    }

    private static void writeConduct(Conduct conduct, ObjectNode node) {
        Conduct usual = Conduct.USUAL;
        node.put("timeoutMillis", conduct.timeoutMillis());
        if (conduct.keepsConnections() != usual.keepsConnections()
                || conduct.mostConnections() != usual.mostConnections()
                || conduct.resumesTls() != usual.resumesTls()) {
            node.putObject("connections")
                    .put("kept", conduct.keepsConnections())
                    .put("most", conduct.mostConnections())
                    .put("resumesTls", conduct.resumesTls());
        }
        if (conduct.warmUpSeconds() != usual.warmUpSeconds()) {
            node.put("warmUpSeconds", conduct.warmUpSeconds());
        }
        if (conduct.validatedPercent() != usual.validatedPercent()) {
            node.put("validatedPercent", conduct.validatedPercent());
        }
        if (conduct.seed() != usual.seed()) {
            node.put("seed", conduct.seed());
        }
        if (conduct.failuresKept() != usual.failuresKept()) {
            node.put("failuresKept", conduct.failuresKept());
        }
    }
}
