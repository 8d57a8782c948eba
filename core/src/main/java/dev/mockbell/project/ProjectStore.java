package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.Retention;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;

/**
 * Reads and writes a project folder. A file that cannot be read, or that holds what its kind may not, becomes a trouble of
 * the project and is left alone, also by later saves; the rest opens. Every save is atomic, file by file, and keeps keys
 * that this version does not know.
 */
public final class ProjectStore {
    private final Yaml yaml = new Yaml();
    private final Snapshots snapshots = new Snapshots(yaml);

    /** Whether a folder holds a project. */
    public static boolean isProject(Path folder) {
        return Files.isRegularFile(folder.resolve(ProjectFolder.SETTINGS));
    }

    /** The folder of a project, which may be named by its main file as well: a desktop opens files. */
    public static Path folderOf(Path given) {
        boolean main = Files.isRegularFile(given)
                && String.valueOf(given.getFileName()).equals(ProjectFolder.SETTINGS);
        Path parent = given.toAbsolutePath().getParent();
        return main && parent != null ? parent : given;
    }

    /** The file of the project's ledger; not for version control. */
    public static Path ledger(Path folder) {
        return hidden(folder).resolve("ledger.db");
    }

    /**
     * Opens the project's ledger. One that is damaged is put aside under another name, and a new one started.
     *
     * @param trouble hears of it
     * @throws Problem when the ledger cannot be opened for another reason
     */
    public static Ledger openLedger(Project project, Consumer<String> trouble) {
        Path file = ledger(project.folder());
        try {
            return opened(project, file);
        } catch (Problem problem) {
            if (!Ledger.isDamage(problem)) {
                throw problem;
            }
            Path aside = file.resolveSibling("ledger-damaged-" + System.currentTimeMillis() + ".db");
            move(file, aside);
            for (String companion : List.of("-wal", "-shm")) {
                Path beside = file.resolveSibling("ledger.db" + companion);
                if (Files.exists(beside)) {
                    move(beside, aside.resolveSibling(aside.getFileName() + companion));
                }
            }
            trouble.accept("The ledger is damaged. It is kept as " + aside + ", and a new one is started.");
            return opened(project, file);
        }
    }

    private static Ledger opened(Project project, Path file) {
        RunHistory runs = new RunHistory(project.folder());
        return Ledger.open(file, project.settings().retention(), runs::exchanges);
    }

    /** The folder for what belongs to this machine alone, made with a .gitignore of its own. */
    public static Path hidden(Path folder) {
        return new ProjectFolder(folder).hidden();
    }

    /**
     * Where a report of something is written on request.
     *
     * @param name of the suite or load plan, with an ending or none
     * @throws Problem when it leads out of the project
     */
    public static Path report(Path folder, String name) {
        ProjectFolder project = new ProjectFolder(folder);
        return project.held(project.part("reports").resolve(FileName.of(name)));
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
     * @throws Problem when the folder holds none, or a newer program wrote it
     */
    public Project open(Path folder) {
        return new ProjectReader(new ProjectFolder(folder), yaml, snapshots).read(true);
    }

    /**
     * Opens a project without its contracts, which is quick; for what concerns none.
     *
     * @throws Problem as {@link #open}
     */
    public Project openWithoutContracts(Path folder) {
        return new ProjectReader(new ProjectFolder(folder), yaml, snapshots).read(false);
    }

    /**
     * The part of a project whose file that is; empty when it is not there.
     *
     * @throws Problem when it cannot be read, or holds what it may not
     */
    Optional<Part> part(Path project, Path file) {
        return new ProjectReader(new ProjectFolder(project), yaml, snapshots).part(file);
    }

    /** A part as a text for people, with all that is in its files. */
    public String text(Part part) {
        ObjectNode node = yaml.object();
        StringBuilder beside = new StringBuilder();
        Object value = part.value();
        if (value instanceof Case kept) {
            CaseFile.write(kept, node);
            beside.append(kept.body()).append('\n');
            kept.baseline().ifPresent(b -> beside.append(b.xml()));
        } else if (value instanceof Suite suite) {
            PlanFiles.write(suite, node).forEach(t -> beside.append(t.csv()).append('\n'));
        } else if (value instanceof MockPlan plan) {
            PlanFiles.write(plan, node)
                    .forEach((name, body) ->
                            beside.append(name).append('\n').append(body).append('\n'));
        } else if (value instanceof LoadPlan plan) {
            LoadFile.write(plan, node);
        } else if (value instanceof KeptTap tap) {
            TapFile.write(tap.plan(), node);
        } else {
            settings((Settings) value, node);
        }
        return yaml.text(node) + beside;
    }

    /** Writes name, environments and settings. */
    public void saveSettings(Project project) {
        ObjectNode node = yaml.object();
        settings(project.settings(), node);
        yaml.write(new ProjectFolder(project.folder()).settings(), node, FileKind.PROJECT);
    }

    private static void settings(Settings settings, ObjectNode node) {
        node.put("name", settings.name());
        node.put("environment", settings.environment());
        ArrayNode environments = node.putArray("environments");
        for (Environment environment : settings.environments()) {
            ObjectNode one = environments.addObject();
            one.put("name", environment.name());
            ObjectNode endpoints = one.putObject("endpoints");
            environment.endpoints().forEach(endpoints::put);
            VariableFile.write(environment.variables(), one.putObject("variables"));
            if (!environment.security().isEmpty()) {
                ObjectNode security = one.putObject("security");
                environment.security().forEach(security::put);
            }
            if (environment.live()) {
                one.put("live", true);
            }
        }
        if (!settings.profiles().isEmpty()) {
            ProfileFile.write(settings.profiles(), node.putArray("security"));
        }
        VariableFile.write(settings.variables(), node.putObject("variables"));
        if (!settings.filters().isEmpty()) {
            ArrayNode filters = node.putArray("filters");
            settings.filters()
                    .forEach(f -> filters.addObject().put("name", f.name()).put("filter", f.filter()));
        }
        Retention retention = settings.retention();
        if (!retention.equals(Retention.USUAL)) {
            ObjectNode ledger = node.putObject("ledger");
            ledger.put("keep", retention.count());
            ledger.put("megabytes", retention.bytes() >> 20);
            retention.age().ifPresent(age -> ledger.put("days", age.toDays()));
        }
        ObjectNode order = node.putObject("caseOrder");
        new TreeMap<>(settings.caseOrder()).forEach((operation, ids) -> {
            ArrayNode list = order.putArray(operation);
            ids.forEach(list::add);
        });
    }

    /** Keeps a contract's documents and gives the contract as it is read back from them. */
    public KeptContract saveContract(Path project, String name, String title, Contract contract, Instant fetched) {
        Path folder = new ProjectFolder(project).contract(name);
        snapshots.write(folder, title, contract, fetched);
        return snapshots.read(folder, new ArrayList<>());
    }

    /**
     * What a contract is in the folder, where that is another than a program knows.
     *
     * @param now empty when it is gone
     */
    public record OtherContract(Optional<KeptContract> now) {}

    /**
     * Whether a contract is another in the folder than what is known of it: another title or source, or other documents.
     *
     * @param known what is known; empty when nothing is
     * @return empty when it is the same
     * @throws Problem when it cannot be read
     */
    public Optional<OtherContract> contractIfOther(Path project, String name, Optional<KeptContract> known) {
        FolderLock lock = FolderLock.of(project);
        try {
            Path folder = new ProjectFolder(project).contract(name);
            if (!Files.isDirectory(folder)) {
                return known.map(gone -> new OtherContract(Optional.empty()));
            }
            if (known.filter(k -> snapshots.isStill(folder, k)).isPresent()) {
                return Optional.empty();
            }
            return Optional.of(new OtherContract(Optional.of(snapshots.read(folder, new ArrayList<>()))));
        } finally {
            lock.close();
        }
    }

    /**
     * What became of a written contract that was to be kept: one of both is there.
     *
     * @param kept as it is read back
     * @param theirs the table that another program wrote meanwhile; nothing is written over it
     */
    public record WrittenSave(Optional<KeptContract> kept, Optional<WrittenContract> theirs) {}

    /**
     * As {@link #saveWritten(Path, String, String, WrittenContract, WrittenDocuments, Instant)}, unless the table in the folder is
     * neither what was seen nor what is to be kept: then ours is put with what belongs to this machine alone.
     *
     * @param seen the table as it was in the folder last; empty for one that is new
     */
    public WrittenSave saveWritten(
            Path project,
            String name,
            String title,
            Optional<WrittenContract> seen,
            WrittenContract written,
            WrittenDocuments made,
            Instant when) {
        FolderLock lock = FolderLock.of(project);
        try {
            Optional<WrittenContract> there = written(project, name);
            if (there.isPresent() && !there.equals(seen) && !there.get().equals(written)) {
                saveTable(
                        hidden(project).resolve("versions").resolve("contracts").resolve(FileName.of(name)), written);
                return new WrittenSave(Optional.empty(), there);
            }
            return new WrittenSave(
                    Optional.of(saveWritten(project, name, title, written, made, when)), Optional.empty());
        } finally {
            lock.close();
        }
    }

    private void saveTable(Path folder, WrittenContract written) {
        ObjectNode node = yaml.object();
        WrittenFile.write(written, node);
        yaml.write(folder.resolve(WrittenFile.FILE), node, FileKind.WRITTEN);
    }

    /** The table of a written contract as its file has it. */
    public String text(WrittenContract written) {
        ObjectNode node = yaml.object();
        WrittenFile.write(written, node);
        return yaml.text(node);
    }

    /**
     * Keeps a contract that is written by hand: the table, and the documents that are made of it, which every other part of the
     * program reads. The table is written first, as the rest is made of it.
     *
     * @param made the documents of the table
     */
    public KeptContract saveWritten(
            Path project, String name, String title, WrittenContract written, WrittenDocuments made, Instant when) {
        Path folder = new ProjectFolder(project).contract(name);
        saveTable(folder, written);
        Contract contract = made.read(new StopSignal());
        Set<String> before = snapshots.files(folder);
        snapshots.write(folder, title, contract, when);
        before.removeAll(snapshots.files(folder));
        // files that had the service's former name
        before.stream().filter(f -> f.matches("[^/\\\\]+\\.(wsdl|xsd)")).forEach(old -> delete(folder.resolve(old)));
        return snapshots.read(folder, new ArrayList<>());
    }

    /**
     * The table of a contract that is written by hand; empty for one that was fetched.
     *
     * @throws Problem when the file cannot be read; it is left alone then
     */
    public Optional<WrittenContract> written(Path project, String name) {
        Path file = new ProjectFolder(project).contract(name).resolve(WrittenFile.FILE);
        return Files.exists(file) ? Optional.of(WrittenFile.read(yaml.read(file, FileKind.WRITTEN))) : Optional.empty();
    }

    /** A contract in place of another, and where that one lies now, for {@link #putBack}. */
    public record Replaced(KeptContract fresh, Path setAside) {}

    /**
     * Puts a contract in the place of the one that the project keeps under that name. The old snapshot is moved to the hidden
     * folder once the new one is written whole, so that one of the two is there whatever happens.
     *
     * @throws Problem when it cannot be written; the old one stays then
     */
    public Replaced replaceContract(Path project, KeptContract old, Contract contract, Instant fetched) {
        Path incoming = free(hidden(project).resolve("incoming"), old.name());
        snapshots.write(incoming, old.title(), contract, fetched);
        Path folder = new ProjectFolder(project).contract(old.name());
        Path setAside;
        // nobody looks while neither is there
        FolderLock lock = FolderLock.of(project);
        try {
            setAside = removeContract(project, old.name());
            try {
                move(incoming, folder);
            } catch (Problem problem) {
                move(setAside, folder);
                throw problem;
            }
        } finally {
            lock.close();
        }
        return new Replaced(snapshots.read(folder, new ArrayList<>()), setAside);
    }

    /** Puts a snapshot that was set aside in the place of the one that is there, which is set aside in its turn. */
    public Replaced putBack(Path project, String name, Path setAside) {
        Path other = removeContract(project, name);
        return new Replaced(restoreContract(project, name, setAside), other);
    }

    /** Gives a kept contract another title. */
    public void retitle(Path project, String name, String title) {
        Path file = new ProjectFolder(project).contract(name).resolve(Snapshots.FILE);
        ObjectNode node = yaml.read(file, FileKind.SNAPSHOT);
        node.put("title", title);
        yaml.write(file, node, FileKind.SNAPSHOT);
    }

    /**
     * Takes a contract out of the project. Its snapshot is moved to the hidden folder, not deleted; cases, mock and suites
     * stay as they are.
     *
     * @return where the snapshot is now, for {@link #restoreContract}
     */
    public Path removeContract(Path project, String name) {
        Path from = new ProjectFolder(project).contract(name);
        Path to = free(hidden(project).resolve("removed"), name);
        move(from, to);
        return to;
    }

    private static Path free(Path folder, String name) {
        // the name may be one that is no path only as long as it is encoded
        String file = FileName.of(name);
        Path path = folder.resolve(file);
        for (int i = 2; Files.exists(path); i++) {
            path = folder.resolve(file + "-" + i);
        }
        return path;
    }

    /** Puts a removed contract back. */
    public KeptContract restoreContract(Path project, String name, Path removed) {
        Path folder = new ProjectFolder(project).contract(name);
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

    /** Writes a case: its body as XML, the rest as YAML beside it, its baseline among the baselines. */
    public void saveCase(Path project, Case kept) {
        ProjectFolder folder = new ProjectFolder(project);
        ObjectNode node = yaml.object();
        CaseFile.write(kept, node);
        Path file = folder.caseFile(kept);
        if (Files.exists(file)) {
            // a file that may not be written over keeps its body too
            yaml.read(file, FileKind.CASE);
        }
        AtomicFile.write(folder.caseBody(kept), kept.body());
        // one that could not be read is left as it is
        kept.baseline()
                .filter(b -> !b.xml().isEmpty())
                .ifPresent(b -> AtomicFile.write(folder.baseline(kept), b.xml()));
        yaml.write(file, node, FileKind.CASE);
        if (kept.baseline().isEmpty()) {
            delete(folder.baseline(kept));
        }
    }

    /** Deletes a case's files. */
    public void deleteCase(Path project, Case kept) {
        ProjectFolder folder = new ProjectFolder(project);
        delete(folder.caseFile(kept));
        delete(folder.caseBody(kept));
        delete(folder.baseline(kept));
    }

    private static void delete(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be deleted: " + Problem.reason(e),
                    file.toString(),
                    "Check the folder's permissions.",
                    e);
        }
    }

    /** Writes a suite, and the tables of its steps as CSV beside it. */
    public void saveSuite(Path project, Suite suite) {
        ObjectNode node = yaml.object();
        ProjectFolder folder = new ProjectFolder(project);
        PlanFiles.write(suite, node).forEach(t -> AtomicFile.write(folder.table(t.file()), t.csv()));
        yaml.write(folder.suite(suite.id()), node, FileKind.SUITE);
    }

    /** Deletes a suite's file. */
    public void deleteSuite(Path project, Suite suite) {
        delete(new ProjectFolder(project).suite(suite.id()));
    }

    /** Writes a mock, its bodies as files of their own. */
    public void saveMock(Path project, MockPlan plan) {
        ProjectFolder folder = new ProjectFolder(project);
        ObjectNode node = yaml.object();
        Path file = folder.mock(plan.contract());
        if (Files.exists(file)) {
            yaml.read(file, FileKind.MOCK);
        }
        PlanFiles.write(plan, node)
                .forEach((name, text) -> AtomicFile.write(folder.mockBody(plan.contract(), name), text));
        yaml.write(file, node, FileKind.MOCK);
    }

    /** Deletes a mock's file; its bodies stay. */
    public void deleteMock(Path project, MockPlan plan) {
        delete(new ProjectFolder(project).mock(plan.contract()));
    }

    /** Writes a load plan. */
    public void saveLoad(Path project, LoadPlan plan) {
        ObjectNode node = yaml.object();
        LoadFile.write(plan, node);
        yaml.write(new ProjectFolder(project).load(plan.id()), node, FileKind.LOAD);
    }

    /** Writes a tap or a forward proxy. */
    public void saveTap(Path project, KeptTap tap) {
        ObjectNode node = yaml.object();
        TapFile.write(tap.plan(), node);
        yaml.write(new ProjectFolder(project).tap(tap.id()), node, FileKind.TAP);
    }

    /** Deletes the file of a tap or a forward proxy. */
    public void deleteTap(Path project, KeptTap tap) {
        delete(new ProjectFolder(project).tap(tap.id()));
    }

    /** Deletes a load plan's file. */
    public void deleteLoad(Path project, LoadPlan plan) {
        delete(new ProjectFolder(project).load(plan.id()));
    }
}
