package dev.mockbell.desktop.model;

import dev.mockbell.check.Verdict;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Preflight;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunPlan;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The check station: suites and the register of their runs. */
public final class CheckModel {
    private static final int COLUMNS = 7;

    private final Desk desk;
    private final SuiteEdits edits;
    private final RunDetails details;
    private final ObjectProperty<Suite> suite = new SimpleObjectProperty<>();
    private final ObservableList<Run> runs = FXCollections.observableArrayList();
    private final BooleanProperty running = new SimpleBooleanProperty();
    private final ObjectProperty<StepPath> path = new SimpleObjectProperty<>();
    private final IntegerProperty run = new SimpleIntegerProperty(0);
    private final IntegerProperty beats = new SimpleIntegerProperty();
    private final IntegerProperty counts = new SimpleIntegerProperty();
    private final IntegerProperty turned = new SimpleIntegerProperty();
    private final IntegerProperty repeating = new SimpleIntegerProperty(0);
    private final SuiteRuns making;
    /** After how many seconds a suite is run again, by its id. */
    private final Map<String, Integer> again = new HashMap<>();
    /** By the suite itself: going through all its steps for each that is shown would take their square. */
    private final Derived<Same<Suite>, Map<StepPath, String>> troubles;

    private final Derived<Same<Run>, Run.Tally> tallies;
    private final Derived<Same<Suite>, Size> sizes;

    /** The last size that was worked out, and of which suite. */
    private Map.Entry<String, Size> counted;

    public CheckModel(Desk desk) {
        this.desk = desk;
        this.edits = new SuiteEdits(this, desk);
        this.making = new SuiteRuns(desk, new Shown());
        this.details = new RunDetails(this, making, desk);
        this.troubles = new Derived<>(
                desk.tasks(), 2, s -> Preflight.of(s.thing(), desk.bench(), desk.expressions()), problem -> {});
        this.tallies = new Derived<>(desk.tasks(), 2 * COLUMNS, r -> r.thing().tally(), problem -> {});
        this.sizes = new Derived<>(desk.tasks(), 2, s -> Size.of(s.thing(), desk.project()), problem -> {});
        troubles.changesProperty().addListener((o, was, now) -> beats.set(beats.get() + 1));
        tallies.changesProperty().addListener((o, was, now) -> counted());
        sizes.changesProperty().addListener((o, was, now) -> counted());
        desk.projectProperty().addListener((o, was, now) -> {
            troubles.forget();
            sizes.forget();
        });
        desk.onTook(all -> all.forEach(taken -> {
            if (taken.part().value() instanceof Suite other && isShown(other.id())) {
                edits.forget();
                suite.set(taken.gone() ? null : other);
                if (taken.gone()) {
                    desk.project().suites().stream().findFirst().ifPresent(this::open);
                }
                turned();
            }
        }));
        desk.project().suites().stream().findFirst().ifPresent(this::open);
    }

    public ObjectProperty<Suite> suiteProperty() {
        return suite;
    }

    /** What can be done to its steps. */
    public SuiteEdits edits() {
        return edits;
    }

    /** What else is known of the run that is looked at. */
    public RunDetails details() {
        return details;
    }

    /** The runs shown, newest first; the first grows while a run is under way. */
    public ObservableList<Run> runs() {
        return runs;
    }

    /** Whether the suite that is looked at is under way. */
    public BooleanProperty runningProperty() {
        return running;
    }

    /** Where the step that is looked at stands; null for none. */
    public ObjectProperty<StepPath> pathProperty() {
        return path;
    }

    /** Counts up once for all that a gesture or an end of a run changes, but for the steps, which the project tells of. */
    public IntegerProperty turnsProperty() {
        return turned;
    }

    private void turned() {
        String id = suite.get() == null ? "" : suite.get().id();
        running.set(making.isRunning(id));
        repeating.set(again.getOrDefault(id, 0));
        turned.set(turned.get() + 1);
    }

    /** Counts up whenever results of a run under way have come, a few times a second. */
    public IntegerProperty beatsProperty() {
        return beats;
    }

    /** Where the step that is looked at stands, if it is there. */
    public Optional<StepPath> chosen() {
        return Optional.ofNullable(path.get())
                .filter(p -> suite.get() != null && suite.get().at(p).isPresent());
    }

    /** The index of the run looked at. */
    public IntegerProperty runProperty() {
        return run;
    }

    /** After how many seconds the suite that is looked at is run again, over and over; 0 when it is not. */
    public IntegerProperty repeatingProperty() {
        return repeating;
    }

    /** Shows a suite with its runs. */
    public void open(Suite opened) {
        suite.set(opened);
        edits.forget();
        path.set(opened.steps().isEmpty() ? null : StepPath.of(StepPath.Part.STEPS, 0));
        run.set(0);
        runs.clear();
        making.of(opened.id()).ifPresent(l -> runs.add(l.shown()));
        turned();
        desk.tasks()
                .run(
                        () -> desk.history().latest(opened.id(), COLUMNS),
                        latest -> {
                            if (isShown(opened.id())) {
                                show(latest);
                            }
                        },
                        desk::tell);
    }

    /** Shows the runs that were kept, behind the one that was made here and may not have been kept yet. */
    private void show(List<Run> kept) {
        Optional<Run> own = making.of(suite.get().id()).map(SuiteRuns.Live::shown);
        List<Run> all = new ArrayList<>();
        own.ifPresent(all::add);
        kept.stream()
                .filter(k -> own.filter(o -> o.started().equals(k.started())).isEmpty())
                .limit(COLUMNS - all.size())
                .forEach(all::add);
        runs.setAll(all);
        turned();
    }

    private boolean isShown(String id) {
        return suite.get() != null && suite.get().id().equals(id);
    }

    /** Makes a new, empty suite. */
    public void add(String title) {
        String id = Names.free(title, n -> desk.project().suite(n).isPresent());
        Suite made = new Suite(id, title, List.of());
        keep(made);
        open(made);
    }

    /** Makes a copy of the suite that is looked at, with tables of its own, and shows it. */
    public void copy() {
        Suite of = suite.get();
        String title = of.title() + " again";
        String id = Names.free(title, n -> desk.project().suite(n).isPresent());
        Suite made = of.copied(id, title);
        keep(made);
        open(made);
    }

    /** Gives the suite that is looked at another title; its file keeps its name. */
    public void rename(String title) {
        edits.change(s -> s.titled(title.strip()));
    }

    /** Takes the suite that is looked at out of the project; it can be brought back, and its runs stay. */
    public void drop() {
        Suite gone = suite.get();
        suite.set(null);
        desk.steps().tells("Deleted the suite “" + gone.title() + "”; its runs stay.", p -> p.withoutSuite(gone.id()));
        desk.project().suites().stream().findFirst().ifPresentOrElse(this::open, () -> {
            runs.clear();
            path.set(null);
            turned();
        });
    }

    void keep(Suite changed) {
        suite.set(changed);
        desk.change(p -> p.withSuite(changed));
    }

    /** Adds a case as the last step. */
    public void addStep(Case kept) {
        edits.addCase(kept);
    }

    /** Why a step cannot be run, which is known without running it; empty when it can. */
    public String trouble(StepPath at) {
        return Optional.ofNullable(suite.get())
                .flatMap(s -> troubles.of(new Same<>(s)))
                .map(t -> t.getOrDefault(at, ""))
                .orElse("");
    }

    /** How many steps a suite has, groups not counted, and checks in the cases that they call. */
    public record Size(long steps, long checks) {
        private static Size of(Suite suite, Project project) {
            return new Size(
                    suite.all().filter(s -> s.inner().isEmpty()).count(),
                    suite.all()
                            .flatMap(s -> s.sends().flatMap(project::kept).stream())
                            .mapToLong(c -> c.checks().size())
                            .sum());
        }
    }

    /** How large the suite is that is looked at, or was a moment ago; empty until it has been counted. */
    public Optional<Size> size() {
        Suite of = suite.get();
        if (of == null) {
            return Optional.empty();
        }
        sizes.of(new Same<>(of)).ifPresent(s -> counted = Map.entry(of.id(), s));
        return counted != null && counted.getKey().equals(of.id()) ? Optional.of(counted.getValue()) : Optional.empty();
    }

    /** How many checks of a run passed; empty until they have been counted. */
    public Optional<Run.Tally> tally(Run of) {
        return tallies.of(new Same<>(of));
    }

    /** Counts up when numbers have come that were asked for. */
    public IntegerProperty countsProperty() {
        return counts;
    }

    private void counted() {
        counts.set(counts.get() + 1);
    }

    /** What a run has at a path; of the one under way, what has come so far. */
    public Optional<StepResult> cell(int index, StepPath at) {
        if (index >= runs.size()) {
            return Optional.empty();
        }
        Run of = runs.get(index);
        return live(of).filter(l -> !l.isOver()).map(l -> l.at(at)).orElseGet(() -> of.at(at));
    }

    /** Whether a step is under way now. */
    public boolean isUnder(StepPath at) {
        return running.get()
                && !runs.isEmpty()
                && live(runs.get(0)).filter(l -> l.isUnder(at)).isPresent();
    }

    /** The run as it is, or was, made here. */
    private Optional<SuiteRuns.Live> live(Run of) {
        return making.live(of);
    }

    /**
     * How often a step has gone from passed to failed, or back, in the runs that are shown, without itself, its case, the contract
     * or the environment having changed. 0 for one that is steady.
     */
    public int turns(StepPath at) {
        int turns = 0;
        Run after = null;
        Verdict last = null;
        for (int i = running.get() ? 1 : 0; i < runs.size(); i++) {
            Run of = runs.get(i);
            Verdict verdict = of.at(at).map(StepResult::verdict).orElse(null);
            if (verdict == Verdict.PASSED || verdict == Verdict.FAILED) {
                turns += last != null && last != verdict && of.alike(after, at) ? 1 : 0;
                last = verdict;
                after = of;
            }
        }
        return turns;
    }

    /** Runs the suite, or stops the run under way. */
    public void runOrStop() {
        if (running.get()) {
            again.remove(suite.get().id());
            making.stop(suite.get().id());
            turned();
            return;
        }
        run(RunPlan.ALL);
    }

    /** Whether a suite is under way, the one that is looked at or another. */
    public boolean isRunning(Suite of) {
        return making.isRunning(of.id());
    }

    /** How many suites are under way. */
    public long countRunning() {
        return making.running();
    }

    /** Stops all suites that are under way. */
    public void stopAll() {
        again.clear();
        making.stopAll();
        turned();
    }

    /** Runs several suites, so many of them at a time, and says what came of them. */
    public void runSeveral(List<Suite> chosen, int atATime) {
        List<Suite> able =
                chosen.stream().filter(s -> s.all().findAny().isPresent()).toList();
        making.several(able, atATime, ended -> {
            if (ended.isEmpty()) {
                desk.tell(Notice.bad("There is nothing to run: these suites have no steps, or are under way already."));
                return;
            }
            List<String> failed = ended.stream()
                    .filter(l -> l.done().filter(Run::passed).isEmpty())
                    .map(l -> "“" + l.suite().title() + "”")
                    .toList();
            String of = ended.size() == 1 ? "1 suite was run" : ended.size() + " suites were run";
            desk.tell(
                    failed.isEmpty()
                            ? Notice.plain(of + ": all passed.")
                            : Notice.bad(of + ", " + failed.size() + " failed: " + String.join(", ", failed) + "."));
        });
    }

    /** Runs one step, with the values that it would have. */
    public void runOne(StepPath at) {
        run(RunPlan.one(at).with(edits.given()));
    }

    /** Runs a step and all behind it, with the values that they would have. */
    public void runFrom(StepPath at) {
        run(RunPlan.from(at).with(edits.given()));
    }

    /** Runs all up to a step. */
    public void runUpTo(StepPath at) {
        run(RunPlan.upTo(at));
    }

    /** Runs what failed in the newest run. */
    public void runFailed() {
        Set<StepPath> failed = runs.isEmpty() ? Set.of() : runs.get(0).failed(suite.get());
        if (failed.isEmpty()) {
            desk.tell(Notice.plain("Nothing failed in the newest run."));
            return;
        }
        run(RunPlan.only(failed).with(edits.given()));
    }

    /** Runs the suite over and over, so many seconds between one end and the next start; 0 ends that. */
    public void repeat(int seconds) {
        Suite of = suite.get();
        if (of == null) {
            return;
        }
        if (seconds > 0) {
            again.put(of.id(), seconds);
        } else {
            again.remove(of.id());
        }
        if (seconds > 0 && !running.get()) {
            run(RunPlan.ALL);
        } else {
            turned();
        }
    }

    private void run(RunPlan plan) {
        Suite chosen = suite.get();
        if (running.get()) {
            return;
        }
        if (chosen == null || chosen.all().findAny().isEmpty()) {
            if (chosen != null) {
                again.remove(chosen.id());
            }
            turned();
            desk.tell(Notice.bad("There is nothing to run: the suite has no steps."));
            return;
        }
        run(chosen, plan);
    }

    private void run(Suite of, RunPlan plan) {
        // what it is held against: its own last run here, or the newest that is shown of it
        Optional<Run> before = making.of(of.id())
                .flatMap(SuiteRuns.Live::done)
                .or(() -> isShown(of.id()) ? runs.stream().findFirst() : Optional.empty());
        making.start(of, plan, live -> {
            if (live.done().isEmpty()) {
                again.remove(of.id());
                turned();
            } else {
                repeated(of, before, live.done().get());
            }
        });
    }

    /** After a run of a suite that is run over and over: says when it has become another, and sets the next. */
    private void repeated(Suite of, Optional<Run> before, Run done) {
        int seconds = again.getOrDefault(of.id(), 0);
        if (seconds == 0) {
            return;
        }
        before.filter(b -> b.passed() != done.passed())
                .ifPresent(b -> desk.tell(
                        done.passed()
                                ? Notice.plain("“" + of.title() + "” passes again.")
                                : Notice.bad("“" + of.title() + "” fails now; it passed before.")));
        desk.tasks().after(seconds * 1_000L, "run again: " + of.id(), () -> {
            Optional<Suite> now =
                    desk.project().suite(of.id()).filter(s -> s.all().findAny().isPresent());
            if (again.containsKey(of.id()) && !making.isRunning(of.id())) {
                now.ifPresentOrElse(s -> run(s, RunPlan.ALL), () -> {
                    again.remove(of.id());
                    turned();
                });
            }
        });
    }

    /** Shows what runs of the suite that is looked at do; of others, only that they are under way. */
    private final class Shown implements SuiteRuns.Listener {
        @Override
        public void started(SuiteRuns.Live live) {
            if (isShown(live.suite().id())) {
                run.set(0);
                runs.add(0, live.shown());
                while (runs.size() > COLUMNS) {
                    runs.remove(runs.size() - 1);
                }
            }
            turned();
        }

        @Override
        public void beat(SuiteRuns.Live live) {
            if (isShown(live.suite().id())) {
                beats.set(beats.get() + 1);
            }
        }

        @Override
        public void ended(SuiteRuns.Live live) {
            if (isShown(live.suite().id())) {
                for (int i = 0; i < runs.size(); i++) {
                    if (live.is(runs.get(i))) {
                        runs.set(i, live.shown());
                    }
                }
                live.done()
                        .flatMap(done -> firstFailure(live.suite(), done))
                        .filter(p -> !p.equals(path.get()))
                        .ifPresent(path::set);
            }
            turned();
        }
    }

    private static Optional<StepPath> firstFailure(Suite of, Run done) {
        Set<StepPath> failed = new HashSet<>();
        List<StepPath> order = new ArrayList<>();
        of.each((at, step) -> {
            if (step.inner().isEmpty()
                    && done.at(at).filter(r -> r.verdict() == Verdict.FAILED).isPresent()
                    && failed.add(at)) {
                order.add(at);
            }
        });
        return order.stream().findFirst();
    }

    /** The step that is looked at. */
    public Optional<Step> step() {
        return chosen().flatMap(suite.get()::at);
    }

    /** The result of the step and run that are looked at. */
    public Optional<StepResult> result() {
        return chosen().flatMap(at -> cell(run.get(), at));
    }
}
