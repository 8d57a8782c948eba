package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Share;
import dev.mockbell.load.Timed;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LoadHistory;
import dev.mockbell.project.LoadHistory.Kept;
import dev.mockbell.project.Names;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.report.LoadFiles;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.beans.value.ObservableValue;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The load station: a plan, and the run of it, live; and the runs that were kept. */
public final class LoadModel {
    /** So many runs can be told apart when they are drawn over each other. */
    public static final int MOST_COMPARED = 5;

    private static final int MOST_FAILURES = 200;
    private static final int RUNS = 30;
    private static final int KEPT_SECONDS = 5;

    private final Desk desk;
    private final WorkersModel workers;
    private final LoadEngine engine;
    private final LoadHistory history;
    private final ObjectProperty<LoadPlan> plan = new SimpleObjectProperty<>();
    private final ObservableList<LoadSecond> seconds = FXCollections.observableArrayList();
    private final ObservableList<Exchange> failures = FXCollections.observableArrayList();
    private final ObservableList<Kept> runs = FXCollections.observableArrayList();
    private final ObjectProperty<LoadRun> result = new SimpleObjectProperty<>();
    private final BooleanProperty running = new SimpleBooleanProperty();
    private final ObjectProperty<LoadComparison> comparison = new SimpleObjectProperty<>();

    /** The first is that which the others are held against. */
    private List<LoadRun> compared = List.of();

    private final StringProperty phase = new SimpleStringProperty("");
    private final DoubleProperty factor = new SimpleDoubleProperty(1);
    private boolean listed;
    private volatile CountDownLatch kept = new CountDownLatch(0);
    private LoadControl control = new LoadControl(new StopSignal());

    public LoadModel(Desk desk, WorkersModel workers) {
        this.desk = desk;
        this.workers = workers;
        this.engine =
                new LoadEngine(desk.loops(), desk.expressions(), desk.core().providers());
        this.history = new LoadHistory(desk.project().folder());
        desk.project().loads().stream().findFirst().ifPresent(this::open);
        desk.stationProperty().addListener((o, was, now) -> list());
        desk.onTook(all -> all.forEach(taken -> {
            boolean shown = taken.part().value() instanceof LoadPlan other
                    && plan.get() != null
                    && plan.get().id().equals(other.id());
            if (shown) {
                plan.set(taken.gone() ? null : (LoadPlan) taken.part().value());
            }
        }));
        desk.onClose(() -> control.stop().stop());
        // what a run has found by then is kept before anything is taken away
        desk.onEnd(this::awaitKept);
    }

    private void awaitKept() {
        try {
            kept.await(KEPT_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The plan looked at; null when there is none. */
    public ObjectProperty<LoadPlan> planProperty() {
        return plan;
    }

    /** What the run under way or the last one measured, second by second. */
    public ObservableList<LoadSecond> seconds() {
        return seconds;
    }

    /** Failures kept whole, by number on the ledger. */
    public ObservableList<Exchange> failures() {
        return failures;
    }

    /** The runs of the plan that were kept, the newest first. */
    public ObservableList<Kept> runs() {
        return runs;
    }

    /** The run looked at; null before the first and while one is under way. */
    public ObjectProperty<LoadRun> resultProperty() {
        return result;
    }

    public BooleanProperty runningProperty() {
        return running;
    }

    /** What the run under way does, in a word or three; empty when none is. */
    public StringProperty phaseProperty() {
        return phase;
    }

    /** At how many times the plan's levels the run under way goes. */
    public DoubleProperty factorProperty() {
        return factor;
    }

    /** Has the run under way go at so many times the plan's levels from now on, as far as its targets are confirmed for it. */
    public void factor(double other) {
        control.factor(other);
        factor.set(control.factor());
        if (other > control.highest()) {
            desk.tell(Notice.bad("Nobody has confirmed that the target may get more than "
                    + (int) LoadEngine.UNCONFIRMED + " requests a second."));
        }
    }

    /** Shows another plan. */
    public void open(LoadPlan other) {
        plan.set(other);
        seconds.clear();
        failures.clear();
        result.set(null);
        runs.clear();
        listed = false;
        list();
    }

    /** The runs are read where they are looked at: a start does without them. */
    private void list() {
        LoadPlan other = plan.get();
        if (listed || other == null || desk.stationProperty().get() != Station.LOAD) {
            return;
        }
        listed = true;
        desk.tasks()
                .run(
                        () -> history.list(other.id(), RUNS),
                        found -> {
                            if (plan.get() != null && plan.get().id().equals(other.id())) {
                                runs.setAll(found);
                            }
                        },
                        desk::tell);
    }

    /** Looks at a run that was kept. */
    public void look(Kept kept) {
        desk.tasks().run(() -> history.run(kept), this::look, desk::tell);
    }

    private void look(LoadRun run) {
        seconds.setAll(run.history());
        failures.clear();
        compareNoMore();
        result.set(run);
    }

    /** Makes a plan for a suite. */
    public void add(Suite suite) {
        String title = "Load on " + suite.title();
        String id = Names.free(title, n -> desk.project().load(n).isPresent());
        LoadPlan made = LoadPlan.of(id, title, suite.id(), LoadShape.arrivals(10, 30))
                .withLimits(List.of(new Limit(Limit.Measure.P95, 500), new Limit(Limit.Measure.FAILED, 1)));
        keep(made);
        open(made);
    }

    /** Changes the plan and saves it. */
    public void keep(LoadPlan changed) {
        if (changed.equals(plan.get())) {
            return;
        }
        plan.set(changed);
        desk.change(p -> p.withLoad(changed));
    }

    /** Takes the plan out of the project; it can be brought back. */
    public void drop() {
        LoadPlan gone = plan.get();
        plan.set(null);
        desk.steps()
                .tells("The load plan “" + gone.title() + "” is gone; its runs stay.", p -> p.withoutLoad(gone.id()));
        desk.project().loads().stream().findFirst().ifPresent(this::open);
    }

    /** What can be in a mix: suites by their short names, cases by theirs, each with its title. */
    public Map<Share, String> choices() {
        Map<Share, String> all = new LinkedHashMap<>();
        desk.project().suites().forEach(s -> all.put(Share.ofSuite(s.id()), s.title()));
        desk.project()
                .cases()
                .forEach(c -> all.put(new Share(Share.Kind.CASE, c.reference(), 1), c.operation() + ", " + c.title()));
        return all;
    }

    /** The names of what the plan times, as far as its suites are there. */
    public List<String> timed() {
        return Timed.names(plan.get(), desk.project()::suite, desk.project()::kept);
    }

    /** Tells the user of a problem. */
    public void tell(Problem problem) {
        desk.tell(problem);
    }

    /** Runs that are held against one of them; null for none. */
    public ObservableValue<LoadComparison> comparisonProperty() {
        return comparison;
    }

    /** Whether a run is among those that are compared. */
    public boolean isCompared(Kept run) {
        return compared.stream().anyMatch(r -> r.started().equals(run.started()));
    }

    /**
     * Compares another run too: at first with the one looked at, the earlier of the two being that which is held against; later with
     * all that are compared already. One that is among them is left out.
     */
    public void compare(Kept with) {
        Optional<LoadRun> among = compared.stream()
                .filter(r -> r.started().equals(with.started()))
                .findFirst();
        if (among.isPresent()) {
            leaveOut(among.get());
            return;
        }
        LoadRun now = result.get();
        desk.tasks()
                .run(
                        () -> history.run(with),
                        other -> {
                            if (result.get() != now || isCompared(with) || compared.size() >= MOST_COMPARED) {
                                // another run is looked at by now, or this one was chosen twice
                                return;
                            }
                            List<LoadRun> all = new ArrayList<>(compared);
                            if (all.isEmpty()) {
                                all.add(now);
                            }
                            LoadRun base =
                                    compared.isEmpty() && other.started().isBefore(now.started()) ? other : all.get(0);
                            all.add(other);
                            against(base, all);
                        },
                        desk::tell);
    }

    /** Holds all that are compared against this one of them. */
    public void holdAgainst(LoadRun base) {
        against(base, compared);
    }

    /** Compares one less. */
    public void leaveOut(LoadRun run) {
        List<LoadRun> left = compared.stream().filter(r -> r != run).toList();
        if (left.size() < 2) {
            compareNoMore();
        } else {
            against(left.get(0), left);
        }
    }

    /** Shows the run looked at alone. */
    public void compareNoMore() {
        compared = List.of();
        comparison.set(null);
    }

    private void against(LoadRun base, List<LoadRun> all) {
        List<LoadRun> others = all.stream()
                .filter(r -> r != base)
                .sorted(Comparator.comparing(LoadRun::started))
                .toList();
        List<LoadRun> wanted = new ArrayList<>(List.of(base));
        wanted.addAll(others);
        compared = wanted;
        desk.tasks()
                .run(
                        () -> LoadComparison.of(base, others),
                        made -> {
                            // what was chosen since is on its way
                            if (compared == wanted) {
                                comparison.set(made);
                            }
                        },
                        desk::tell);
    }

    /** What a part of a mix is called. */
    public String title(Share share) {
        return share.kind() == Share.Kind.SUITE
                ? desk.project().suite(share.of()).map(Suite::title).orElse("no suite “" + share.of() + "”")
                : desk.project().kept(share.of()).map(Case::title).orElse("no case “" + share.of() + "”");
    }

    /** Lets what is under way end, and nothing new come in. */
    public void stopGently() {
        control.stopGently();
        phase.set("ending");
    }

    /** Starts the plan, or stops the run under way. */
    public void startOrStop() {
        if (running.get()) {
            control.stop().stop();
            return;
        }
        LoadPlan chosen = plan.get();
        if (chosen == null) {
            return;
        }
        LoadControl own = new LoadControl(new StopSignal());
        control = own;
        factor.set(1);
        seconds.clear();
        failures.clear();
        result.set(null);
        compareNoMore();
        running.set(true);
        var bench = desk.bench();
        var local = desk.local();
        Supplier<LoadRun> made = workers.openProperty().get()
                ? workers.made(chosen, engine, new Live(), own)
                : () -> engine.run(chosen, bench, local::mayLoad, new Live(), own);
        CountDownLatch over = new CountDownLatch(1);
        kept = over;
        desk.tasks()
                .run(
                        () -> {
                            try {
                                return kept(made.get());
                            } finally {
                                over.countDown();
                            }
                        },
                        done -> {
                            ended();
                            result.set(done.run());
                            done.trouble().ifPresentOrElse(desk::tell, () -> runs.add(0, Kept.of(done.run())));
                            if (runs.size() > RUNS) {
                                runs.remove(RUNS, runs.size());
                            }
                        },
                        problem -> {
                            ended();
                            desk.tell(problem, this::startOrStop);
                        });
    }

    /** @param trouble why the run is shown and not kept */
    private record Done(LoadRun run, Optional<Problem> trouble) {}

    /** A run that cannot be kept is one all the same: its figures are not to be had again. */
    private Done kept(LoadRun run) {
        try {
            history.save(run);
            return new Done(run, Optional.empty());
        } catch (Problem notKept) {
            return new Done(
                    run,
                    Optional.of(Problem.of(
                            notKept.kind(),
                            "The run is shown, and cannot be kept: " + notKept.what(),
                            notKept.where().orElse(null),
                            notKept.advice().orElse(null),
                            notKept)));
        }
    }

    private void ended() {
        running.set(false);
        phase.set("");
    }

    /** Brings what a run tells to the interface thread. */
    private final class Live implements LoadListener {
        @Override
        public void phase(Phase now) {
            desk.tasks().later(() -> phase.set(now == Phase.MEASURING ? "running" : now.title()));
        }

        @Override
        public void second(LoadSecond second) {
            desk.tasks().later(() -> seconds.add(second));
        }

        @Override
        public void failure(Exchange exchange) {
            desk.ledger()
                    .offer(
                            exchange,
                            numbered -> desk.tasks().later(() -> {
                                if (failures.size() < MOST_FAILURES) {
                                    failures.add(numbered);
                                }
                            }));
        }
    }

    /** Writes the run looked at, as HTML, CSV, JSON and the limits as JUnit XML, into the project's {@code reports} folder and says where. */
    public void report() {
        LoadRun run = result.get();
        if (run == null) {
            desk.tell(Notice.bad("There is no finished run to report yet."));
            return;
        }
        Path project = desk.project().folder();
        String name = desk.project().name();
        desk.tasks()
                .run(
                        () -> {
                            Path folder =
                                    ProjectStore.report(project, run.plan().id());
                            LoadFiles.write(folder, name, run);
                            return folder;
                        },
                        at -> desk.tell(Notice.plain(
                                "The report (HTML, CSV, JSON, and the limits as JUnit XML) is in " + at + ".")),
                        desk::tell);
    }
}
