package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.load.Health;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.Spent;
import dev.mockbell.load.StepFigures;
import dev.mockbell.load.WorkerRun;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.DataFormatException;
import org.HdrHistogram.Histogram;

/** A load run as JSON: its figures, each second, and the histograms that they come from. Times are milliseconds. */
public final class LoadRunFile {
    private static final ObjectMapper JSON = new ObjectMapper();

    private LoadRunFile() {}

    /** The figures of a run for programs; without histograms. */
    public static String figures(LoadRun run) {
        try {
            return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(tree(run, false));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
    }

    static String text(LoadRun run) {
        try {
            return JSON.writeValueAsString(tree(run, true));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
    }

    private static ObjectNode tree(LoadRun run, boolean whole) {
        ObjectNode node = JSON.createObjectNode();
        node.put("format", 1);
        ObjectNode plan = node.putObject("plan");
        plan.put("id", run.plan().id());
        LoadFile.write(run.plan(), plan);
        node.put("started", run.started().toString());
        node.put("seconds", run.seconds());
        node.put("stopped", run.stopped());
        node.put("passed", run.passed());
        node.set("total", JSON.valueToTree(run.total()));
        ArrayNode steps = node.putArray("steps");
        run.steps().forEach(s -> steps.add(JSON.<JsonNode>valueToTree(s)));
        ArrayNode spent = node.putArray("spent");
        run.spent().forEach(s -> spent.add(JSON.<JsonNode>valueToTree(s)));
        ObjectNode reasons = node.putObject("reasons");
        run.reasons().forEach(reasons::put);
        ArrayNode limits = node.putArray("limits");
        run.limits()
                .forEach(l -> limits.addObject()
                        .put("limit", l.limit().title())
                        .put("kept", l.kept())
                        .put("found", l.found()));
        node.set("health", JSON.valueToTree(run.health()));
        ArrayNode warnings = node.putArray("warnings");
        run.warnings().forEach(warnings::add);
        if (!run.workers().isEmpty()) {
            ArrayNode workers = node.putArray("workers");
            run.workers().forEach(w -> workers.add(JSON.<JsonNode>valueToTree(w)));
        }
        if (whole) {
            ArrayNode seconds = node.putArray("history");
            run.history().forEach(s -> second(s, seconds.addObject()));
            ArrayNode times = node.putArray("times");
            run.times().forEach(t -> times.add(encoded(t)));
        }
        return node;
    }

    private static void second(LoadSecond s, ObjectNode into) {
        into.put("second", s.second())
                .put("intended", s.intended())
                .put("done", s.done())
                .put("failed", s.failed())
                .put("inFlight", s.inFlight())
                .put("users", s.users())
                .put("p50", s.p50())
                .put("p95", s.p95())
                .put("p99", s.p99());
        ArrayNode buckets = into.putArray("buckets");
        s.buckets().forEach(buckets::add);
        into.set("health", JSON.valueToTree(s.health()));
    }

    private static String encoded(Histogram times) {
        ByteBuffer buffer = ByteBuffer.allocate(times.getNeededByteBufferCapacity());
        int length = times.encodeIntoCompressedByteBuffer(buffer);
        return Base64.getEncoder().encodeToString(Arrays.copyOf(buffer.array(), length));
    }

    /** Reads {@link #text}; what is none fails in one way or another. */
    static LoadRun read(String text) throws JsonProcessingException, DataFormatException {
        return read((ObjectNode) JSON.readTree(text));
    }

    /** Reads it without its seconds and histograms, which are passed over. */
    static LoadRun outline(InputStream in) throws IOException, DataFormatException {
        ObjectNode node = JSON.createObjectNode();
        try (JsonParser parser = JSON.createParser(in)) {
            parser.nextToken();
            for (String name = parser.nextFieldName(); name != null; name = parser.nextFieldName()) {
                parser.nextToken();
                if (name.equals("history") || name.equals("times")) {
                    parser.skipChildren();
                } else {
                    node.set(name, parser.<JsonNode>readValueAsTree());
                }
            }
        }
        return read(node);
    }

    private static LoadRun read(ObjectNode node) throws JsonProcessingException, DataFormatException {
        ObjectNode planned = (ObjectNode) node.path("plan");
        LoadPlan plan = LoadFile.read(planned.path("id").asText(), planned);
        StepFigures total = JSON.treeToValue(node.path("total"), StepFigures.class);
        List<StepFigures> steps = new ArrayList<>();
        for (JsonNode s : node.path("steps")) {
            steps.add(JSON.treeToValue(s, StepFigures.class));
        }
        List<Spent> spent = new ArrayList<>();
        for (JsonNode s : node.path("spent")) {
            spent.add(JSON.treeToValue(s, Spent.class));
        }
        Map<String, Long> reasons = new LinkedHashMap<>();
        node.path("reasons")
                .properties()
                .forEach(r -> reasons.put(r.getKey(), r.getValue().asLong()));
        List<Limit.Outcome> limits = new ArrayList<>();
        for (int i = 0; i < plan.limits().size(); i++) {
            JsonNode of = node.path("limits").path(i);
            limits.add(new Limit.Outcome(
                    plan.limits().get(i),
                    of.path("kept").asBoolean(),
                    of.path("found").asDouble()));
        }
        List<LoadSecond> history = new ArrayList<>();
        for (JsonNode s : node.path("history")) {
            history.add(second(s, total));
        }
        List<String> warnings = new ArrayList<>();
        node.path("warnings").forEach(w -> warnings.add(w.asText()));
        List<Histogram> times = new ArrayList<>();
        for (JsonNode t : node.path("times")) {
            times.add(Histogram.decodeFromCompressedByteBuffer(
                    ByteBuffer.wrap(Base64.getDecoder().decode(t.asText())), 0));
        }
        List<WorkerRun> workers = new ArrayList<>();
        for (JsonNode w : node.path("workers")) {
            workers.add(JSON.treeToValue(w, WorkerRun.class));
        }
        return new LoadRun(
                plan,
                Instant.parse(node.path("started").asText()),
                node.path("seconds").asDouble(),
                node.path("stopped").asBoolean(),
                total,
                steps,
                spent,
                reasons,
                limits,
                history,
                JSON.treeToValue(node.path("health"), Health.class),
                warnings,
                times,
                workers);
    }

    private static LoadSecond second(JsonNode s, StepFigures total) throws JsonProcessingException {
        List<Long> buckets = new ArrayList<>();
        s.path("buckets").forEach(b -> buckets.add(b.asLong()));
        return new LoadSecond(
                s.path("second").asInt(),
                s.path("intended").asLong(),
                s.path("done").asLong(),
                s.path("failed").asLong(),
                s.path("inFlight").asLong(),
                s.path("users").asLong(),
                s.path("p50").asDouble(),
                s.path("p95").asDouble(),
                s.path("p99").asDouble(),
                buckets,
                List.of(),
                total,
                List.of(),
                JSON.treeToValue(s.path("health"), Health.class));
    }
}
