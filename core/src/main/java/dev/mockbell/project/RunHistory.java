package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.file.FileTree;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The runs of each suite, a JSON file each, outside version control. The oldest go when there are over {@value #MOST}. */
public final class RunHistory {
    private static final Logger LOG = LoggerFactory.getLogger(RunHistory.class);
    private static final int MOST = 100;
    private static final int MOST_KEPT = 100;

    private final Path project;
    private final Path folder;
    private final ObjectMapper json = new ObjectMapper();

    public RunHistory(Path project) {
        this.project = project;
        this.folder = new ProjectFolder(project).hiddenPlace().resolve("runs");
    }

    /**
     * Keeps a run.
     *
     * @throws dev.mockbell.problem.Problem when it cannot be written
     */
    public Run add(Run run) {
        ProjectStore.hidden(project);
        ObjectNode node = json.createObjectNode();
        node.put("format", 1);
        node.put("suite", run.suite());
        node.put("title", run.title());
        node.put("environment", run.environment());
        node.put("started", run.started().toString());
        node.put("millis", run.millis());
        write(run.setUp(), node.putArray("setUp"));
        write(run.steps(), node.putArray("steps"));
        write(run.cleanUp(), node.putArray("cleanUp"));
        ObjectNode bases = node.putObject("bases");
        run.bases().forEach((path, basis) -> bases.put(path.text(), basis));
        try {
            Path file = folder(run.suite()).resolve(run.started().toEpochMilli() + ".json");
            AtomicFile.writePrivate(file, json.writeValueAsString(node));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
        files(run.suite()).stream().skip(MOST).forEach(old -> {
            try {
                delete(old);
            } catch (IOException e) {
                // an old run that stays is no harm
                return;
            }
        });
        return run;
    }

    private static void write(List<StepResult> results, ArrayNode into) {
        for (StepResult step : results) {
            ObjectNode s = into.addObject();
            s.put("name", step.name());
            s.put("verdict", step.verdict().name());
            s.put("millis", step.millis());
            s.put("exchange", step.exchange());
            s.put("problem", step.problem());
            ObjectNode captures = s.putObject("captures");
            step.captures().forEach(captures::put);
            ArrayNode checks = s.putArray("checks");
            step.checks()
                    .forEach(c -> checks.addObject()
                            .put("verdict", c.verdict().name())
                            .put("title", c.title())
                            .put("expected", c.expected())
                            .put("found", c.found())
                            .put("where", c.where()));
            if (!step.inner().isEmpty()) {
                s.put("rounds", step.rounds());
                write(step.inner(), s.putArray("inner"));
            }
        }
    }

    /**
     * Keeps what belongs to a run beside it: its log, and both sides of what failed, so that they can be seen when the ledger has
     * let them go.
     */
    public void keep(Run run, String log, ExchangeTexts exchanges) {
        Path beside = beside(run);
        AtomicFile.writePrivate(beside.resolve("log.txt"), log);
        run.results().stream()
                .flatMap(StepResult::all)
                .filter(r -> r.verdict() == Verdict.FAILED && r.exchange() > 0)
                .limit(MOST_KEPT)
                .forEach(r -> exchanges.of(r.exchange()).ifPresent(both -> {
                    AtomicFile.writePrivate(beside.resolve(r.exchange() + "-request.txt"), both.request());
                    AtomicFile.writePrivate(beside.resolve(r.exchange() + "-answer.txt"), both.answer());
                }));
    }

    /** The log of a run; empty when none was kept. */
    public String log(Run run) {
        return text(beside(run).resolve("log.txt")).orElse("");
    }

    /** The numbers of all exchanges that the runs refer to; runs that cannot be read refer to none. */
    public Set<Long> exchanges() {
        Set<Long> numbers = new HashSet<>();
        try {
            FileTree.found(
                            folder,
                            2,
                            (file, is) -> file.getFileName().toString().endsWith(".json"))
                    .forEach(file -> {
                        try {
                            json.readTree(file.toFile()).findValues("exchange").forEach(n -> numbers.add(n.asLong()));
                        } catch (IOException e) {
                            // whoever looks at the run is told
                            LOG.debug("a run cannot be read", e);
                        }
                    });
        } catch (IOException e) {
            LOG.info("the runs cannot be read", e);
        }
        numbers.remove(0L);
        return numbers;
    }

    /** Both sides of an exchange that was kept with its run. */
    public Optional<ExchangeTexts.Both> kept(Run run, long exchange) {
        Path beside = beside(run);
        return text(beside.resolve(exchange + "-request.txt"))
                .map(request -> new ExchangeTexts.Both(
                        request, text(beside.resolve(exchange + "-answer.txt")).orElse("")));
    }

    private static Optional<String> text(Path file) {
        try {
            return Files.isRegularFile(file) ? Optional.of(Files.readString(file)) : Optional.empty();
        } catch (IOException unreadable) {
            return Optional.empty();
        }
    }

    private Path beside(Run run) {
        return folder(run.suite()).resolve(String.valueOf(run.started().toEpochMilli()));
    }

    private static void delete(Path run) throws IOException {
        Files.deleteIfExists(run);
        String name = run.getFileName().toString();
        Path beside = run.resolveSibling(name.substring(0, name.length() - ".json".length()));
        if (Files.isDirectory(beside)) {
            try (Stream<Path> files = Files.list(beside)) {
                for (Path file : files.toList()) {
                    Files.deleteIfExists(file);
                }
            }
            Files.deleteIfExists(beside);
        }
    }

    private Path folder(String suite) {
        return folder.resolve(FileName.of(suite));
    }

    private List<Path> files(String suite) {
        Path runs = folder(suite);
        if (!Files.isDirectory(runs)) {
            return List.of();
        }
        try (Stream<Path> list = Files.list(runs)) {
            return list.filter(p -> p.toString().endsWith(".json"))
                    .sorted(Comparator.comparing((Path p) -> p.getFileName().toString())
                            .reversed())
                    .toList();
        } catch (IOException e) {
            return List.of();
        }
    }

    /** The latest runs of a suite, newest first; files that cannot be read are passed over. */
    public List<Run> latest(String suite, int most) {
        List<Run> runs = new ArrayList<>();
        for (Path file : files(suite)) {
            if (runs.size() >= most) {
                break;
            }
            try {
                runs.add(read(json.readTree(file.toFile())));
            } catch (IOException | IllegalArgumentException | java.time.DateTimeException e) {
                // a damaged run is not worth more than a gap in the register
                continue;
            }
        }
        return runs;
    }

    private static Run read(JsonNode node) {
        Map<StepPath, String> bases = new HashMap<>();
        node.path("bases")
                .properties()
                .forEach(e -> bases.put(StepPath.parse(e.getKey()), e.getValue().asText()));
        return new Run(
                node.path("suite").asText(),
                node.path("title").asText(),
                node.path("environment").asText(),
                Instant.parse(node.path("started").asText()),
                node.path("millis").asDouble(),
                results(node.path("setUp")),
                results(node.path("steps")),
                results(node.path("cleanUp")),
                bases);
    }

    private static List<StepResult> results(JsonNode list) {
        List<StepResult> steps = new ArrayList<>();
        for (JsonNode s : list) {
            Map<String, String> captures = new LinkedHashMap<>();
            s.path("captures")
                    .properties()
                    .forEach(e -> captures.put(e.getKey(), e.getValue().asText()));
            List<CheckResult> checks = new ArrayList<>();
            s.path("checks")
                    .forEach(c -> checks.add(new CheckResult(
                            Verdict.valueOf(c.path("verdict").asText()),
                            c.path("title").asText(),
                            c.path("expected").asText(),
                            c.path("found").asText(),
                            c.path("where").asText())));
            steps.add(new StepResult(
                    s.path("name").asText(),
                    Verdict.valueOf(s.path("verdict").asText()),
                    s.path("millis").asDouble(),
                    s.path("exchange").asLong(),
                    List.copyOf(checks),
                    captures,
                    s.path("problem").asText(),
                    results(s.path("inner")),
                    s.path("rounds").asBoolean()));
        }
        return List.copyOf(steps);
    }
}
