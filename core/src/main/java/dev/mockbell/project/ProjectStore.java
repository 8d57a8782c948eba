package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * Reads and writes a project folder. A file that cannot be read becomes a trouble of the project and is left alone, the
 * rest opens. Every save is atomic, file by file, and keeps keys that this version does not know.
 */
public final class ProjectStore {
    private static final String SETTINGS = "mockbell.yaml";

    private final Yaml yaml = new Yaml();
    private final Snapshots snapshots = new Snapshots(yaml);

    /** Whether a folder holds a project. */
    public static boolean isProject(Path folder) {
        return Files.isRegularFile(folder.resolve(SETTINGS));
    }

    /** The file of the project's ledger; not for version control. */
    public static Path ledger(Path folder) {
        return hidden(folder).resolve("ledger.db");
    }

    /** The folder for what belongs to this machine alone, made with a .gitignore of its own. */
    public static Path hidden(Path folder) {
        Path hidden = folder.resolve(".mockbell");
        if (!Files.exists(hidden.resolve(".gitignore"))) {
            AtomicFile.write(hidden.resolve(".gitignore"), "*\n");
        }
        return hidden;
    }

    /** Makes a new, empty project; a folder that holds one already is opened. */
    public Project create(Path folder, String name) {
        if (!isProject(folder)) {
            saveSettings(Project.of(folder, Settings.of(name)));
        }
        return open(folder);
    }

    /**
     * Opens a project.
     *
     * @throws Problem when the folder holds none, or its main file cannot be read
     */
    public Project open(Path folder) {
        Path file = folder.resolve(SETTINGS);
        if (!Files.isRegularFile(file)) {
            throw Problem.input(
                    "There is no project here: " + SETTINGS + " is missing",
                    folder.toString(),
                    "Give the folder of a project, or make one with “mockbell contract import WSDL --project DIR”.");
        }
        ObjectNode node = yaml.read(file);
        List<String> troubles = new ArrayList<>();
        List<Environment> environments = new ArrayList<>();
        node.path("environments").forEach(e -> {
            Map<String, String> endpoints = new LinkedHashMap<>();
            e.path("endpoints")
                    .properties()
                    .forEach(x -> endpoints.put(x.getKey(), x.getValue().asText()));
            environments.add(
                    new Environment(e.path("name").asText(), endpoints, VariableFile.read(e.path("variables"))));
        });
        List<KeptContract> contracts = new ArrayList<>();
        each(
                folder.resolve("contracts"),
                Files::isDirectory,
                troubles,
                d -> contracts.add(snapshots.read(d, troubles)));
        List<Case> cases = new ArrayList<>();
        each(
                folder.resolve("cases"),
                Files::isDirectory,
                troubles,
                contract -> each(
                        contract,
                        Files::isDirectory,
                        troubles,
                        operation -> each(operation, ProjectStore::isYaml, troubles, f -> cases.add(readCase(f)))));
        List<Suite> suites = new ArrayList<>();
        each(
                folder.resolve("suites"),
                ProjectStore::isYaml,
                troubles,
                f -> suites.add(PlanFiles.suite(id(f), yaml.read(f))));
        List<MockPlan> mocks = new ArrayList<>();
        each(
                folder.resolve("mocks"),
                ProjectStore::isYaml,
                troubles,
                f -> mocks.add(PlanFiles.mock(
                        id(f),
                        yaml.read(f),
                        body -> text(f.resolveSibling(id(f)).resolve(body)))));
        List<LoadPlan> loads = new ArrayList<>();
        each(
                folder.resolve("loads"),
                ProjectStore::isYaml,
                troubles,
                f -> loads.add(PlanFiles.load(id(f), yaml.read(f), f.toString())));
        String name = node.path("name")
                .asText(
                        folder.getFileName() == null
                                ? "project"
                                : folder.getFileName().toString());
        Map<String, List<String>> order = new LinkedHashMap<>();
        node.path("caseOrder").properties().forEach(o -> {
            List<String> ids = new ArrayList<>();
            o.getValue().forEach(id -> ids.add(id.asText()));
            order.put(o.getKey(), List.copyOf(ids));
        });
        Settings settings = new Settings(
                name,
                environments,
                node.path("environment").asText(""),
                VariableFile.read(node.path("variables")),
                order);
        return new Project(
                folder,
                settings,
                List.copyOf(contracts),
                List.copyOf(cases),
                List.copyOf(suites),
                List.copyOf(mocks),
                List.copyOf(loads),
                List.copyOf(troubles));
    }

    private interface Wanted {
        boolean test(Path path);
    }

    private static void each(Path folder, Wanted wanted, List<String> troubles, Consumer<Path> read) {
        if (!Files.isDirectory(folder)) {
            return;
        }
        List<Path> found;
        try (Stream<Path> list = Files.list(folder)) {
            found = list.filter(wanted::test)
                    .filter(p -> !p.getFileName().toString().startsWith("."))
                    .sorted()
                    .toList();
        } catch (IOException e) {
            troubles.add("The folder " + folder + " cannot be listed: " + Problem.reason(e) + ".");
            return;
        }
        for (Path path : found) {
            try {
                read.accept(path);
            } catch (Problem problem) {
                troubles.add(problem.getMessage());
            }
        }
    }

    private static boolean isYaml(Path path) {
        return path.toString().endsWith(".yaml") && Files.isRegularFile(path);
    }

    private static String id(Path file) {
        return file.getFileName().toString().replaceAll("\\.yaml$", "");
    }

    private static String text(Path file) {
        try {
            return Files.readString(file, StandardCharsets.UTF_8);
        } catch (NoSuchFileException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The body's file is missing",
                    file.toString(),
                    "Restore it from version control.",
                    e);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The file cannot be read: " + Problem.reason(e), file.toString(), null, e);
        }
    }

    private Case readCase(Path file) {
        Path operation = file.getParent();
        Path body = file.resolveSibling(id(file) + ".xml");
        return CaseFile.read(
                yaml.read(file),
                operation.getParent().getFileName().toString(),
                operation.getFileName().toString(),
                id(file),
                Files.exists(body) ? text(body) : "",
                file.toString());
    }

    /** Writes name, environments and settings. */
    public void saveSettings(Project project) {
        ObjectNode node = yaml.object();
        node.put("name", project.name());
        node.put("environment", project.environment());
        ArrayNode environments = node.putArray("environments");
        for (Environment environment : project.environments()) {
            ObjectNode one = environments.addObject();
            one.put("name", environment.name());
            ObjectNode endpoints = one.putObject("endpoints");
            environment.endpoints().forEach(endpoints::put);
            VariableFile.write(environment.variables(), one.putObject("variables"));
        }
        VariableFile.write(project.settings().variables(), node.putObject("variables"));
        ObjectNode order = node.putObject("caseOrder");
        new TreeMap<>(project.settings().caseOrder()).forEach((operation, ids) -> {
            ArrayNode list = order.putArray(operation);
            ids.forEach(list::add);
        });
        yaml.write(project.folder().resolve(SETTINGS), node);
    }

    /** Keeps a contract's documents and gives the contract as it is read back from them. */
    public KeptContract saveContract(Path project, String name, String title, Contract contract, Instant fetched) {
        Path folder = project.resolve("contracts").resolve(name);
        snapshots.write(folder, title, contract, fetched);
        return snapshots.read(folder, new ArrayList<>());
    }

    /** Gives a kept contract another title. */
    public void retitle(Path project, String name, String title) {
        Path file = project.resolve("contracts").resolve(name).resolve("snapshot.yaml");
        ObjectNode node = yaml.read(file);
        node.put("title", title);
        yaml.write(file, node);
    }

    /**
     * Takes a contract out of the project. Its snapshot is moved to the hidden folder, not deleted; cases, mock and suites
     * stay as they are.
     *
     * @return where the snapshot is now, for {@link #restoreContract}
     */
    public Path removeContract(Path project, String name) {
        Path from = project.resolve("contracts").resolve(name);
        Path removed = hidden(project).resolve("removed");
        Path to = removed.resolve(name);
        for (int i = 2; Files.exists(to); i++) {
            to = removed.resolve(name + "-" + i);
        }
        move(from, to);
        return to;
    }

    /** Puts a removed contract back. */
    public KeptContract restoreContract(Path project, String name, Path removed) {
        Path folder = project.resolve("contracts").resolve(name);
        move(removed, folder);
        return snapshots.read(folder, new ArrayList<>());
    }

    private static void move(Path from, Path to) {
        try {
            Files.createDirectories(to.getParent());
            Files.move(from, to);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The folder cannot be moved to " + to + ": " + Problem.reason(e),
                    from.toString(),
                    "Check that it is not in use.",
                    e);
        }
    }

    /** Writes a case: its body as XML, the rest as YAML beside it. */
    public void saveCase(Path project, Case kept) {
        Path folder = project.resolve("cases").resolve(kept.contract()).resolve(kept.operation());
        AtomicFile.write(folder.resolve(kept.id() + ".xml"), kept.body());
        ObjectNode node = yaml.object();
        CaseFile.write(kept, node);
        yaml.write(folder.resolve(kept.id() + ".yaml"), node);
    }

    /** Deletes a case's two files. */
    public void deleteCase(Path project, Case kept) {
        Path folder = project.resolve("cases").resolve(kept.contract()).resolve(kept.operation());
        try {
            Files.deleteIfExists(folder.resolve(kept.id() + ".yaml"));
            Files.deleteIfExists(folder.resolve(kept.id() + ".xml"));
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The case cannot be deleted: " + Problem.reason(e), folder.toString(), null, e);
        }
    }

    public void saveSuite(Path project, Suite suite) {
        ObjectNode node = yaml.object();
        PlanFiles.write(suite, node);
        yaml.write(project.resolve("suites").resolve(suite.id() + ".yaml"), node);
    }

    public void saveMock(Path project, MockPlan plan) {
        ObjectNode node = yaml.object();
        Path bodies = project.resolve("mocks").resolve(plan.contract());
        PlanFiles.write(plan, node).forEach((name, text) -> AtomicFile.write(bodies.resolve(name), text));
        yaml.write(project.resolve("mocks").resolve(plan.contract() + ".yaml"), node);
    }

    public void saveLoad(Path project, LoadPlan plan) {
        ObjectNode node = yaml.object();
        PlanFiles.write(plan, node);
        yaml.write(project.resolve("loads").resolve(plan.id() + ".yaml"), node);
    }
}
