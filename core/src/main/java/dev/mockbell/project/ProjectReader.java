package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.ledger.Retention;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.Suite;
import dev.mockbell.xml.TextFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** Reads a project's folder once. Whatever is wrong with one file is told, and no other file is the worse for it. */
final class ProjectReader {
    /** More than an editor would take. */
    private static final int MOST_BODY = 512;

    private final ProjectFolder folder;
    private final Yaml yaml;
    private final Snapshots snapshots;
    private final List<String> troubles = new ArrayList<>();

    ProjectReader(ProjectFolder folder, Yaml yaml, Snapshots snapshots) {
        this.folder = folder;
        this.yaml = yaml;
        this.snapshots = snapshots;
    }

    /** @param withContracts whether those are read, which takes the most time */
    Project read(boolean withContracts) {
        Path at = folder.folder();
        if (!ProjectStore.isProject(at)) {
            throw Problem.input(
                    "There is no project here: " + ProjectFolder.SETTINGS + " is missing",
                    at.toString(),
                    "Give the folder of a project, or make one with “mockbell contract import WSDL --project DIR”.");
        }
        folder.checkHidden();
        AtomicFile.sweep(at);
        Settings settings = settings();
        List<KeptContract> contracts = new ArrayList<>();
        if (withContracts) {
            each("contracts", Files::isDirectory, d -> contracts.add(snapshots.read(d, troubles)));
        }
        List<Case> cases = new ArrayList<>();
        each(
                "cases",
                Files::isDirectory,
                contract -> each(
                        contract,
                        Files::isDirectory,
                        operation -> each(operation, ProjectReader::isYaml, f -> cases.add(kept(f)))));
        List<Suite> suites = new ArrayList<>();
        each(
                "suites",
                ProjectReader::isYaml,
                f -> suites.add(PlanFiles.suite(id(f), yaml.read(f, FileKind.SUITE), this::table)));
        List<MockPlan> mocks = new ArrayList<>();
        each("mocks", ProjectReader::isYaml, f -> mocks.add(mock(f)));
        List<LoadPlan> loads = new ArrayList<>();
        each("loads", ProjectReader::isYaml, f -> loads.add(LoadFile.read(id(f), yaml.read(f, FileKind.LOAD))));
        List<KeptTap> taps = new ArrayList<>();
        each("taps", ProjectReader::isYaml, f -> taps.add(TapFile.read(id(f), yaml.read(f, FileKind.TAP))));
        return new Project(
                at,
                settings,
                List.copyOf(contracts),
                List.copyOf(cases),
                List.copyOf(suites),
                List.copyOf(mocks),
                List.copyOf(loads),
                List.copyOf(taps),
                List.copyOf(troubles));
    }

    /**
     * The part whose file that is; empty when there is none, or it is no file of a part.
     *
     * @throws Problem when the file cannot be read, or holds what it may not
     */
    Optional<Part> part(Path file) {
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        Path held = folder.held(file);
        return switch (folder.folder().relativize(file).getName(0).toString()) {
            case ProjectFolder.SETTINGS ->
                Optional.of(Part.of(settings(yaml.read(held, FileKind.PROJECT), usualName())));
            case "cases" -> Optional.of(Part.of(kept(held)));
            case "suites" ->
                Optional.of(Part.of(PlanFiles.suite(id(held), yaml.read(held, FileKind.SUITE), this::table)));
            case "mocks" -> Optional.of(Part.of(mock(held)));
            case "loads" -> Optional.of(Part.of(LoadFile.read(id(held), yaml.read(held, FileKind.LOAD))));
            case "taps" -> Optional.of(Part.of(TapFile.read(id(held), yaml.read(held, FileKind.TAP))));
            default -> Optional.empty();
        };
    }

    private String usualName() {
        Path at = folder.folder();
        return at.getFileName() == null ? "project" : at.getFileName().toString();
    }

    private Settings settings() {
        String usual = usualName();
        try {
            return settings(yaml.read(folder.settings(), FileKind.PROJECT), usual);
        } catch (Problem problem) {
            if (problem.kind() == Problem.Kind.NEWER_FORMAT) {
                throw problem;
            }
            troubles.add(problem.getMessage());
            return Settings.unreadable(usual);
        }
    }

    private static Settings settings(ObjectNode node, String usualName) {
        List<Environment> environments = new ArrayList<>();
        node.path("environments").forEach(e -> {
            Map<String, String> endpoints = new LinkedHashMap<>();
            e.path("endpoints")
                    .properties()
                    .forEach(x -> endpoints.put(x.getKey(), x.getValue().asText()));
            Map<String, String> security = new LinkedHashMap<>();
            e.path("security")
                    .properties()
                    .forEach(x -> security.put(x.getKey(), x.getValue().asText()));
            environments.add(new Environment(
                    e.path("name").asText(),
                    endpoints,
                    VariableFile.read(e.path("variables")),
                    security,
                    e.path("live").asBoolean(false)));
        });
        Map<String, List<String>> order = new LinkedHashMap<>();
        node.path("caseOrder").properties().forEach(o -> {
            List<String> ids = new ArrayList<>();
            o.getValue().forEach(id -> ids.add(id.asText()));
            order.put(o.getKey(), List.copyOf(ids));
        });
        List<Settings.KeptFilter> filters = new ArrayList<>();
        node.path("filters")
                .forEach(f -> filters.add(new Settings.KeptFilter(
                        f.path("name").asText(), f.path("filter").asText())));
        return new Settings(
                node.path("name").asText(usualName),
                environments,
                node.path("environment").asText(""),
                VariableFile.read(node.path("variables")),
                order,
                ProfileFile.read(node.path("security")),
                filters,
                retention(node.path("ledger")),
                true);
    }

    private static Retention retention(JsonNode node) {
        Retention usual = Retention.USUAL;
        return new Retention(
                Math.max(1, node.path("keep").asLong(usual.count())),
                Math.max(1, node.path("megabytes").asLong(usual.bytes() >> 20)) << 20,
                Optional.of(node.path("days").asLong(0)).filter(d -> d > 0).map(Duration::ofDays));
    }

    private void each(String part, Predicate<Path> wanted, Consumer<Path> read) {
        try {
            each(folder.part(part), wanted, read);
        } catch (Problem problem) {
            troubles.add(problem.getMessage());
        }
    }

    private void each(Path in, Predicate<Path> wanted, Consumer<Path> read) {
        if (!Files.isDirectory(in)) {
            return;
        }
        AtomicFile.sweep(in);
        List<Path> found;
        try (Stream<Path> list = Files.list(in)) {
            found = list.filter(wanted)
                    .filter(p -> !p.getFileName().toString().startsWith("."))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            troubles.add("The folder " + in + " cannot be listed: " + Problem.reason(e) + ".");
            return;
        }
        for (Path path : found) {
            try {
                read.accept(folder.held(path));
            } catch (Problem problem) {
                String message = problem.getMessage();
                troubles.add(message.contains(path.toString()) ? message : message + " It is named in " + path + ".");
            } catch (RuntimeException | StackOverflowError e) {
                // whatever a file brings about, the others open
                troubles.add("The file cannot be read: " + Problem.reason(e) + " (" + path + "). It is left as it is.");
            }
        }
    }

    private static boolean isYaml(Path path) {
        return path.toString().endsWith(ProjectFolder.YAML) && Files.isRegularFile(path);
    }

    private static String id(Path file) {
        String name = file.getFileName().toString();
        return FileName.name(name.substring(0, name.length() - ProjectFolder.YAML.length()));
    }

    private Case kept(Path file) {
        Path operation = file.getParent();
        ObjectNode node = yaml.read(file, FileKind.CASE);
        String name = file.getFileName().toString();
        Path body = folder.held(
                file.resolveSibling(name.substring(0, name.length() - ProjectFolder.YAML.length()) + ".xml"));
        String contract = FileName.name(operation.getParent().getFileName().toString());
        String key = node.path("operation")
                .asText(FileName.name(operation.getFileName().toString()));
        return CaseFile.read(
                node, contract, key, id(file), text(body), () -> baseline(folder.baseline(contract, key, id(file))));
    }

    /** A case is worth more than what it was compared with. */
    private String baseline(Path file) {
        try {
            return TextFile.read(file, "The baseline's file", MOST_BODY);
        } catch (Problem unreadable) {
            troubles.add(unreadable.getMessage());
            return "";
        }
    }

    /** A suite is worth more than one of its tables; the step that goes by it says what is wrong. */
    private DataTable table(String name) {
        try {
            return DataTable.parse(name, TextFile.read(folder.table(name), "The table's file", MOST_BODY));
        } catch (Problem unreadable) {
            return DataTable.unreadable(name, unreadable.getMessage());
        }
    }

    private MockPlan mock(Path file) {
        return PlanFiles.mock(id(file), yaml.read(file, FileKind.MOCK), body -> text(folder.mockBody(id(file), body)));
    }

    private static String text(Path file) {
        return TextFile.read(file, "The body's file", MOST_BODY);
    }
}
