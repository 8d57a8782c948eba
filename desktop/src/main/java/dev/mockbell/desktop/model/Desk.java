package dev.mockbell.desktop.model;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Port;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Variable;
import dev.mockbell.file.UserFolders;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.mock.MockListener;
import dev.mockbell.mock.MockRecorder;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.problem.Counted;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Change;
import dev.mockbell.project.ChangedPart;
import dev.mockbell.project.FolderWatch;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalKeys;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.LostCases;
import dev.mockbell.project.OpenMark;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectCopy;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.RunHistory;
import dev.mockbell.project.Saver;
import dev.mockbell.project.Secrets;
import dev.mockbell.project.Settings;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.Proxies;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.concurrent.Callable;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executor;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.ObservableMap;

/**
 * What the program works on: the open project, its ledger, and the parts of the core that the stations share. Its state
 * is read and changed on the interface thread alone.
 */
public final class Desk implements AutoCloseable {
    private final Tasks tasks;
    private final Clock clock;
    private final Core core;
    private boolean warmed;
    private final ContractsModel contracts;
    private final LocalProjects locals;
    private final List<Runnable> closing = new ArrayList<>();
    private final List<Runnable> ending = new CopyOnWriteArrayList<>();
    private final Saver saver;
    private final OtherPrograms elsewhere;
    private final ProjectSteps steps = new ProjectSteps(this);
    private final List<Consumer<List<ChangedPart>>> taking = new ArrayList<>();
    private final FolderWatch watch;
    private final OpenMark mark;
    private final Properties left;
    private final ObservableMap<String, String> views = FXCollections.observableHashMap();
    private final Ledger ledger;
    private final RunHistory history;
    private final ReadOnlyObjectWrapper<Project> project = new ReadOnlyObjectWrapper<>();
    private final ObjectProperty<Station> station = new SimpleObjectProperty<>(Station.CONTRACT);
    private final ObjectProperty<OperationPlace> place = new SimpleObjectProperty<>();
    private final ObservableList<Notice> notices = FXCollections.observableArrayList();
    private final RecentProjects recent;
    private final Habits habits;
    private final Appearance appearance;
    private BiConsumer<Path, Consumer<Problem>> opener = (folder, failed) -> {};
    private Optional<Consumer<Consumer<Problem>>> demo = Optional.empty();
    private final BooleanProperty masked = new SimpleBooleanProperty(true);
    private final UserFolders user;
    private Optional<FleetSource> fleet = Optional.empty();
    private LocalProject local;
    private Redactor masking;
    private Settings maskingFor;
    private List<Case> maskingOf;

    private Desk(
            Project opened,
            Executor interfaceThread,
            Clock clock,
            UserFolders user,
            Core core,
            Map<String, String> environment) {
        this.tasks = new Tasks(interfaceThread);
        this.clock = clock;
        this.user = user;
        this.core = core;
        this.contracts = new ContractsModel(this);
        this.locals = core.locals();
        this.local = locals.of(opened.folder());
        this.ledger = ProjectStore.openLedger(opened, text -> notices.add(Notice.bad(text)));
        this.history = new RunHistory(opened.folder());
        this.recent = new RecentProjects(RecentProjects.file(user));
        recent.opened(opened.folder(), tasks);
        this.habits = new Habits(Habits.file(user), tasks);
        this.appearance = new Appearance(this, environment);
        this.elsewhere = new OtherPrograms(this);
        this.saver = new Saver(core.store(), opened, problem -> tasks.later(() -> tell(problem)), elsewhere);
        this.watch = new FolderWatch(opened.folder(), saver::look);
        this.mark = OpenMark.of(opened);
        this.left = LeftOff.read(opened.folder());
        this.project.set(opened);
        if (!mark.isFirst()) {
            notices.add(Notice.plain(
                    "Another window has this project too. What is changed there appears here, and nothing is"
                            + " overwritten."));
        }
        opened.troubles().forEach(t -> notices.add(Notice.bad(t)));
        LostCases.of(opened).forEach(this::tell);
        local.formerly().ifPresent(this::tellMoved);
        places().stream().findFirst().ifPresent(place::set);
    }

    /**
     * Opens the project in a folder, making it when the folder holds none.
     *
     * @throws Problem when the project's main file or ledger cannot be read
     */
    public static Desk open(Path folder, Executor interfaceThread, Clock clock) {
        return open(folder, interfaceThread, clock, UserFolders.ofProcess());
    }

    /** As {@link #open(Path, Executor, Clock)}, for a user whose folders are elsewhere. */
    public static Desk open(Path folder, Executor interfaceThread, Clock clock, UserFolders user) {
        return open(folder, interfaceThread, clock, user, System.getenv());
    }

    /**
     * As {@link #open(Path, Executor, Clock, UserFolders)}.
     *
     * @param environment variables of the process, where secrets and proxies may stand
     */
    public static Desk open(
            Path folder, Executor interfaceThread, Clock clock, UserFolders user, Map<String, String> environment) {
        Core core = new Core(user, environment, Proxies.ofEnvironment(environment));
        ProjectStore store = core.store();
        Path at = folder.toAbsolutePath().normalize();
        Project opened = ProjectStore.isProject(at)
                ? store.open(at)
                : store.create(
                        at,
                        at.getFileName() == null ? "Project" : at.getFileName().toString());
        // the keyring may ask for a password; later nobody should have to wait for it
        core.secrets().fetch(core.locals().of(opened.folder()));
        return new Desk(opened, interfaceThread, clock, user, core, environment);
    }

    /** What makes load on many machines; empty where load is made by this program alone. */
    public Optional<FleetSource> fleet() {
        return fleet;
    }

    /** Says what makes load on many machines. */
    public void onFleet(FleetSource source) {
        fleet = Optional.of(source);
    }

    /** Where what belongs to the user is kept. */
    UserFolders user() {
        return user;
    }

    /** The parts of the core, put together for this user. */
    Core core() {
        return core;
    }

    public Tasks tasks() {
        return tasks;
    }

    public Clock clock() {
        return clock;
    }

    public Expressions expressions() {
        return core.expressions();
    }

    public EventLoops loops() {
        return core.loops();
    }

    /** What the mocks of the project need around them. */
    public MockSurroundings mocks(MockRecorder recorder, MockListener listener) {
        return core.mocks(project(), recorder, listener);
    }

    /** What the relays of the project need around them. */
    public TapSurroundings taps() {
        return core.taps(
                Optional.of(project()),
                ledger::offerMade,
                () -> core.caller().connect().tls());
    }

    /** Keys of this machine for the project's mocks. */
    public LocalKeys keys() {
        return core.keys(project());
    }

    public CaseCaller caller() {
        return core.caller();
    }

    public ProjectStore store() {
        return core.store();
    }

    public Ledger ledger() {
        return ledger;
    }

    public RunHistory history() {
        return history;
    }

    public ReadOnlyObjectProperty<Project> projectProperty() {
        return project.getReadOnlyProperty();
    }

    public Project project() {
        return project.get();
    }

    /** What the project looks like to runs. */
    public ProjectBench bench() {
        return core.bench(project.get(), local, core.hosts(local));
    }

    /** A runner over the project as it is now. */
    public SuiteRunner runner() {
        return core.runner(bench(), ledger, clock);
    }

    public ObjectProperty<Station> stationProperty() {
        return station;
    }

    /** Goes to a station. */
    public void go(Station to) {
        station.set(to);
        if (to == Station.CALL && !warmed) {
            warmed = true;
            boolean tls = project().mayGoOverTls(project().environments());
            // by the time that a request is read and sent, the first call is as quick as any
            tasks.run(
                    () -> {
                        core.http().warmUp(40);
                        if (tls) {
                            core.http().warmUpTls(20);
                        }
                        return null;
                    },
                    nothing -> {},
                    problem -> {});
        }
    }

    /** The operation that the stations look at. */
    public ObjectProperty<OperationPlace> placeProperty() {
        return place;
    }

    public ObservableList<Notice> notices() {
        return notices;
    }

    /** Tells the user of a problem. */
    public void tell(Problem problem) {
        if (problem.kind() != Problem.Kind.STOPPED) {
            tell(Notice.bad(problem.getMessage()));
        }
    }

    /** Tells of a problem; where the user's word is all that is missing, it can be given and what failed tried again. */
    public void tell(Problem problem, Runnable again) {
        String place = problem.where().orElse("");
        switch (problem.kind()) {
            case SECRET_WITHHELD ->
                tell(Notice.bad(problem.what() + ".", "Give it to " + place, () -> {
                    local = locals.allowHost(project.get().folder(), place);
                    again.run();
                }));
            case LISTENING_REFUSED ->
                tell(Notice.bad(problem.what() + ".", "Allow it on this machine", () -> {
                    local = locals.allowListening(project.get().folder(), place);
                    again.run();
                }));
            case LOAD_UNCONFIRMED ->
                tell(Notice.bad(problem.what() + ".", "It may be: load " + place, () -> {
                    local = locals.confirmLoad(project.get().folder(), place);
                    again.run();
                }));
            default -> tell(problem);
        }
    }

    private void tellMoved(Path formerly) {
        tell(Notice.bad(
                "This project was at " + formerly
                        + " when it was opened last. Its secrets, and what was allowed there, are" + " not used here.",
                "It is mine, use them",
                () -> local = locals.adopt(project.get().folder())));
    }

    /** What the user of this machine has allowed the project. */
    public LocalProject local() {
        return local;
    }

    /** Lets the project's secrets go to a host, or no longer. */
    public void secretHost(String host, boolean allowed) {
        Path folder = project.get().folder();
        local = allowed ? locals.allowHost(folder, host) : locals.refuseHost(folder, host);
    }

    /** Tells the user something; the latest five stay. */
    public void tell(Notice notice) {
        notices.removeIf(n -> n.text().equals(notice.text()));
        notices.add(notice);
        while (notices.size() > 5) {
            notices.remove(0);
        }
    }

    private void tell(LostCases lost) {
        tell(new Notice(
                lost.sentence(), true, lost.likest().map(o -> new Notice.Action("Move to " + o, () -> move(lost)))));
    }

    private void move(LostCases lost) {
        change(lost::moved);
        place(lost.contract().name(), lost.likest().orElseThrow()).ifPresent(p -> {
            place.set(null);
            place.set(p);
        });
    }

    /** Every operation of every contract that can be called. */
    public List<OperationPlace> places() {
        List<OperationPlace> found = new ArrayList<>();
        for (KeptContract contract : project.get().contracts()) {
            contract.contract()
                    .operations()
                    .forEach((key, ports) -> found.add(new OperationPlace(contract, key, ports)));
        }
        return found;
    }

    /** The operation of that key in that contract. */
    public Optional<OperationPlace> place(String contract, String key) {
        return places().stream()
                .filter(p -> p.contract().name().equals(contract) && p.key().equals(key))
                .findFirst();
    }

    /** Changes the project; what is another then is saved. */
    public void change(UnaryOperator<Project> change) {
        Project before = project.get();
        Project after = change.apply(before);
        project.set(after);
        List<Change> changes = Change.between(before, after);
        if (!changes.isEmpty()) {
            saver.save(changes);
        }
    }

    /** Where the work on the project was left. */
    Properties left() {
        return left;
    }

    /** How the views of this project were left, by names of their own: which face, which column. Kept with where one was. */
    public ObservableMap<String, String> views() {
        return views;
    }

    /** What other programs do to the project. */
    public OtherPrograms elsewhere() {
        return elsewhere;
    }

    /** What was done to the project as a whole, to be taken back. */
    public ProjectSteps steps() {
        return steps;
    }

    /** Hears of parts that became others by no edit of the station that shows them, when the project has them. */
    void onTook(Consumer<List<ChangedPart>> action) {
        taking.add(action);
    }

    /** Tells the stations of parts that are others now. */
    void took(List<ChangedPart> parts) {
        if (!parts.isEmpty()) {
            taking.forEach(a -> a.accept(parts));
        }
    }

    /** The project is another in the folder already: nothing is saved. */
    void taken(Project changed) {
        project.set(changed);
    }

    /** The one that writes to the project's folder. */
    public Saver saver() {
        return saver;
    }

    /** Does work on the project's folder in turn with what is saved, then {@code done} or {@code failed} here. */
    public <T> void inTurn(Callable<T> work, Consumer<T> done, Consumer<Problem> failed) {
        tasks.await(saver.submit(work), done, failed);
    }

    /** Uses another environment. */
    public void use(String environment) {
        change(p -> p.in(environment));
    }

    /** The contracts as a whole. */
    public ContractsModel contracts() {
        return contracts;
    }

    /** Fetches a contract and keeps it in the project; progress and problems are shown. */
    public void importContract(String address) {
        contracts.read(address, "");
    }

    /** The environment's address of a port, or the contract's; empty when there is none. */
    public String endpoint(KeptContract contract, Port port) {
        return project.get()
                .current()
                .endpoint(contract.name(), port.name())
                .or(port::address)
                .orElse("");
    }

    /** The projects that were opened last. */
    public RecentProjects recent() {
        return recent;
    }

    /** How the user has set views up. */
    public Habits habits() {
        return habits;
    }

    /** How the window looks. */
    public Appearance appearance() {
        return appearance;
    }

    /** How another project is opened; the consumer hears why it cannot be. */
    public void onOpenProject(BiConsumer<Path, Consumer<Problem>> action) {
        opener = action;
    }

    /** Opens the project in a folder, made when the folder holds none, in a window of its own. */
    public void openProject(Path folder) {
        opener.accept(folder, this::tell);
    }

    /** Makes a second project with the same files in an empty folder, and opens it in a window of its own. */
    public void duplicate(Path folder) {
        Path from = project.get().folder();
        boolean secrets = project.get().settings().variables().stream().anyMatch(Variable::secret);
        // what was changed a moment ago is in the copy, too
        inTurn(
                () -> ProjectCopy.of(from, folder, new StopSignal()),
                files -> {
                    tell(Notice.plain("Copied " + Counted.of(files, "file") + " to " + folder + "."
                            + (secrets ? " The values of secrets stay with this project." : "")));
                    openProject(folder);
                },
                this::tell);
    }

    /** How the demo is opened. */
    public void onDemo(Consumer<Consumer<Problem>> action) {
        demo = Optional.of(action);
    }

    /** Whether the demo can be opened from here. */
    public boolean hasDemo() {
        return demo.isPresent();
    }

    /** Opens the demo, with its live services, in a window of its own. */
    public void openDemo() {
        demo.ifPresent(d -> d.accept(this::tell));
    }

    /** Does something before the desk is closed. */
    public void onClose(Runnable action) {
        closing.add(action);
    }

    /** Masks the secrets of the project, and all that is a credential by its nature. */
    public Redactor redactor() {
        Project now = project.get();
        if (masking == null || maskingFor != now.settings() || maskingOf != now.cases()) {
            maskingFor = now.settings();
            maskingOf = now.cases();
            masking = core.redactor(now);
        }
        return masking;
    }

    /** Whether what is shown of messages has its credentials masked. */
    public BooleanProperty maskedProperty() {
        return masked;
    }

    /** A whole message as it is shown: masked, unless the user wants to see all of it. */
    public String shown(String wire) {
        return masked.get() ? redactor().wire(wire) : wire;
    }

    /** The XML of a message, or what is said of one, as it is shown: masked, unless the user wants to see all of it. */
    public String shownMessage(String xml) {
        return masked.get() ? redactor().message(xml) : xml;
    }

    /** Whether the desktop has a keyring, where secrets can be kept. */
    public boolean hasKeyring() {
        return core.secrets().hasKeyring();
    }

    /** Whether this machine has a value for a secret of the project. */
    public boolean hasSecret(String secret) {
        return core.secrets().value(local, secret).isPresent();
    }

    /** Whether a secret of the project is kept there. */
    public boolean isInKeyring(String secret) {
        return core.secrets().isInKeyring(local, secret);
    }

    /** The secrets of the user. */
    public Secrets secrets() {
        return core.secrets();
    }

    /** Gives the project, the environment in use and the secrets of both other values; each secret stays where it is kept. */
    public void keepVariables(List<Variable> ofProject, List<Variable> ofEnvironment, Map<String, String> newSecrets) {
        keepVariables(ofProject, ofEnvironment, newSecrets, Map.of());
    }

    /**
     * Gives the project, the environment in use and the secrets of both other values.
     *
     * @param places for each secret by its name, whether it is to be in the desktop's keyring
     */
    public void keepVariables(
            List<Variable> ofProject,
            List<Variable> ofEnvironment,
            Map<String, String> newSecrets,
            Map<String, Boolean> places) {
        change(p -> {
            Project with = p.with(p.settings().withVariables(ofProject));
            return ofEnvironment.isEmpty() && p.current().variables().isEmpty()
                    ? with
                    : with.withEnvironmentVariables(ofEnvironment);
        });
        boolean moves =
                places.entrySet().stream().anyMatch(e -> core.secrets().isInKeyring(local, e.getKey()) != e.getValue());
        if (!newSecrets.isEmpty() || moves) {
            Path folder = project.get().folder();
            inTurn(
                    () -> {
                        LocalProject owner = locals.entered(folder);
                        newSecrets.forEach((name, value) -> core.secrets().keep(owner, name, value));
                        places.forEach((name, in) -> core.secrets().move(owner, name, in));
                        return owner;
                    },
                    owner -> {
                        local = owner;
                        masking = null;
                    },
                    this::tell);
        }
    }

    /** Does something when the desk ends, off the interface thread, after what was changed is saved. */
    public void onEnd(Runnable action) {
        ending.add(action);
    }

    /** Takes over what is still being typed. On the interface thread, before {@link #close}. */
    public void settle() {
        closing.forEach(Runnable::run);
        closing.clear();
    }

    /**
     * Ends everything. What was changed is saved first, before anything that it needs is taken away. It waits for the disk, so
     * the window calls {@link #settle} on its own thread and this elsewhere; never on the interface thread.
     */
    @Override
    public void close() {
        settle();
        contracts.stop();
        watch.close();
        saver.close();
        // what the last of that work came to may change the project once more
        tasks.taken();
        mark.close();
        ending.forEach(Runnable::run);
        tasks.close();
        ledger.close();
        core.close();
    }
}
