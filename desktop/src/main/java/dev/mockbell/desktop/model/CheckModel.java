package dev.mockbell.desktop.model;

import dev.mockbell.check.Verdict;
import dev.mockbell.contract.Contract;
import dev.mockbell.exchange.ExchangeTexts;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.MessagePath;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.report.RunLog;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Preflight;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunComparison;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.RunPlan;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.w3c.dom.Attr;

/** The check station: suites and the register of their runs. */
public final class CheckModel {
    private static final int COLUMNS = 7;

    /** So often, in milliseconds, what a run does is shown; many steps end within it. */
    private static final long BEAT = 100;

    private final Desk desk;
    private final SuiteEdits edits;
    private final ObjectProperty<Suite> suite = new SimpleObjectProperty<>();
    private final ObservableList<Run> runs = FXCollections.observableArrayList();
    private final BooleanProperty running = new SimpleBooleanProperty();
    private final ObjectProperty<StepPath> path = new SimpleObjectProperty<>();
    private final IntegerProperty run = new SimpleIntegerProperty(0);
    private final IntegerProperty beats = new SimpleIntegerProperty();
    private final IntegerProperty counts = new SimpleIntegerProperty();
    private final IntegerProperty turned = new SimpleIntegerProperty();
    private final IntegerProperty repeating = new SimpleIntegerProperty(0);
    private final Map<StepPath, StepResult> live = new ConcurrentHashMap<>();
    private final Set<StepPath> under = ConcurrentHashMap.newKeySet();
    /** By the suite itself: going through all its steps for each that is shown would take their square. */
    private final Derived<Same<Suite>, Map<StepPath, String>> troubles;

    private final Derived<Same<Run>, Run.Tally> tallies;
    private final Derived<Same<Suite>, Size> sizes;

    /** The last size that was worked out, and of which suite. */
    private Map.Entry<String, Size> counted;

    private RunLog log = new RunLog(ZoneId.systemDefault());
    private Run logged;
    private StopSignal stop = new StopSignal();

    public CheckModel(Desk desk) {
        this.desk = desk;
        this.edits = new SuiteEdits(this, desk);
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
        desk.project().suites().stream().findFirst().ifPresent(this::open);
    }

    public ObjectProperty<Suite> suiteProperty() {
        return suite;
    }

    /** What can be done to its steps. */
    public SuiteEdits edits() {
        return edits;
    }

    /** The runs shown, newest first; the first grows while a run is under way. */
    public ObservableList<Run> runs() {
        return runs;
    }

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

    /** After how many seconds the suite is run again, over and over; 0 when it is not. */
    public IntegerProperty repeatingProperty() {
        return repeating;
    }

    /** Shows a suite with its runs. */
    public void open(Suite opened) {
        suite.set(opened);
        edits.forget();
        path.set(opened.steps().isEmpty() ? null : StepPath.of(StepPath.Part.STEPS, 0));
        run.set(0);
        turned();
        desk.tasks()
                .run(
                        () -> desk.history().latest(opened.id(), COLUMNS),
                        latest -> {
                            runs.setAll(latest);
                            turned();
                        },
                        desk::tell);
    }

    /** Makes a new, empty suite. */
    public void add(String title) {
        String id = Names.free(title, n -> desk.project().suite(n).isPresent());
        Suite made = new Suite(id, title, List.of());
        keep(made);
        open(made);
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
        if (index < runs.size() && runs.get(index) == logged && running.get()) {
            return Optional.ofNullable(live.get(at));
        }
        return index < runs.size() ? runs.get(index).at(at) : Optional.empty();
    }

    /** Whether a step is under way now. */
    public boolean isUnder(StepPath at) {
        return running.get() && runs.contains(logged) && under.contains(at);
    }

    /**
     * How often a step has gone from passed to failed, or back, in the runs that are shown, without its case or contract having
     * changed as far as can be seen: its suite has the same steps throughout. 0 for one that is steady.
     */
    public int turns(StepPath at) {
        int turns = 0;
        Verdict last = null;
        for (int i = running.get() ? 1 : 0; i < runs.size(); i++) {
            Verdict verdict = runs.get(i).at(at).map(StepResult::verdict).orElse(null);
            if (verdict == Verdict.PASSED || verdict == Verdict.FAILED) {
                turns += last != null && last != verdict ? 1 : 0;
                last = verdict;
            }
        }
        return turns;
    }

    /** Runs the suite, or stops the run under way. */
    public void runOrStop() {
        if (running.get()) {
            repeating.set(0);
            stop.stop();
            turned();
            return;
        }
        run(RunPlan.ALL);
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
        repeating.set(seconds);
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
            repeating.set(0);
            desk.tell(Notice.bad("There is nothing to run: the suite has no steps."));
            return;
        }
        StopSignal signal = new StopSignal();
        stop = signal;
        live.clear();
        under.clear();
        running.set(true);
        run.set(0);
        String environment = desk.bench().environment();
        Run begun = new Run(chosen.id(), chosen.title(), environment, Instant.now(desk.clock()), 0, List.of());
        runs.add(0, begun);
        while (runs.size() > COLUMNS) {
            runs.remove(runs.size() - 1);
        }
        turned();
        RunLog own = new RunLog(ZoneId.systemDefault());
        log = own;
        logged = begun;
        AtomicBoolean due = new AtomicBoolean();
        RunListener listener = RunListener.all(List.of(own, event -> heard(event, due)));
        var runner = desk.runner();
        ExchangeTexts exchanges = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> {
                            Run done = runner.run(chosen, plan, listener, signal);
                            desk.saver().submit(() -> {
                                desk.history().add(done);
                                desk.history().keep(done, own.text(), exchanges);
                                return done;
                            });
                            return done;
                        },
                        done -> ended(chosen, done),
                        problem -> {
                            running.set(false);
                            repeating.set(0);
                            turned();
                            desk.tell(problem);
                        });
    }

    /** On the thread of the run: what there is to see is told a few times a second, not for every step. */
    private void heard(RunEvent event, AtomicBoolean due) {
        if (event instanceof RunEvent.StepStarted started) {
            under.add(started.path());
        } else if (event instanceof RunEvent.StepFinished done) {
            under.remove(done.path());
            live.put(done.path(), done.result());
        } else if (!(event instanceof RunEvent.RowFinished)) {
            return;
        }
        if (due.compareAndSet(false, true)) {
            desk.tasks().after(BEAT, due, () -> {
                due.set(false);
                beats.set(beats.get() + 1);
            });
        }
    }

    private void ended(Suite of, Run done) {
        Optional<Run> before = runs.stream().skip(1).findFirst();
        boolean shown = suite.get() != null && suite.get().id().equals(of.id());
        int at = runs.indexOf(logged);
        logged = done;
        if (at >= 0) {
            runs.set(at, done);
        } else if (shown) {
            // another suite was looked at meanwhile
            runs.add(0, done);
        }
        running.set(false);
        if (shown) {
            firstFailure(of, done).filter(p -> !p.equals(path.get())).ifPresent(path::set);
        }
        turned();
        if (repeating.get() > 0) {
            before.filter(b -> b.passed() != done.passed())
                    .ifPresent(b -> desk.tell(
                            done.passed()
                                    ? Notice.plain("“" + of.title() + "” passes again.")
                                    : Notice.bad("“" + of.title() + "” fails now; it passed before.")));
            desk.tasks().after(repeating.get() * 1_000L, repeating, () -> {
                if (repeating.get() > 0
                        && suite.get() != null
                        && suite.get().id().equals(of.id())) {
                    run(RunPlan.ALL);
                } else {
                    repeating.set(0);
                    turned();
                }
            });
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

    /** Hears what is another in the run that is looked at than in the one before it. */
    public void changes(Consumer<List<RunComparison.Change>> then) {
        int at = run.get();
        if (at + 1 >= runs.size()) {
            then.accept(List.of());
            return;
        }
        Suite of = suite.get();
        Run before = runs.get(at + 1);
        Run now = runs.get(at);
        desk.tasks().run(() -> RunComparison.of(of, before, now), then, desk::tell);
    }

    /** The log of the run that is looked at, as it stands or as it was kept; hears it when it is there. */
    public void log(Consumer<List<String>> then) {
        Run of = run.get() < runs.size() ? runs.get(run.get()) : null;
        if (of == null) {
            then.accept(List.of());
        } else {
            // many lines take a while to be written out
            RunLog own = of == logged ? log : null;
            desk.tasks()
                    .run(
                            () -> own == null
                                    ? desk.history().log(of).lines().toList()
                                    : own.lines().stream().map(own::text).toList(),
                            then,
                            desk::tell);
        }
    }

    /** The paths of the values that the request and the answer of an operation can have, as its contract says. */
    public record Paths(List<String> request, List<String> answer) {}

    /** Hears where columns of known values of a step can be bound to. */
    public void paths(Step.Call call, Consumer<Paths> then) {
        ProjectBench bench = desk.bench();
        desk.tasks()
                .run(
                        () -> {
                            Case kept = bench.kept(call.caseReference());
                            Contract contract = bench.contract(kept.contract());
                            var operation = kept.in(contract).operation();
                            return new Paths(
                                    leaves(MessageOutline.ofRequest(contract, operation)),
                                    MessageOutline.ofAnswer(contract, operation)
                                            .map(CheckModel::leaves)
                                            .orElse(List.of()));
                        },
                        then,
                        problem -> then.accept(new Paths(List.of(), List.of())));
    }

    private static List<String> leaves(MessageOutline outline) {
        String sample = SampleBuilder.text(outline, SampleBuilder.Detail.FULL);
        if (sample.isBlank()) {
            return List.of();
        }
        List<String> paths = new ArrayList<>();
        MessagePath.all(Xml.parse(sample, "sample", XmlLimits.MESSAGE).getDocumentElement())
                .forEach((node, at) -> {
                    boolean value = node instanceof Attr attr
                            ? !"http://www.w3.org/2000/xmlns/".equals(attr.getNamespaceURI())
                            : Xml.children(node).isEmpty();
                    if (value) {
                        paths.add(at);
                    }
                });
        Collections.sort(paths);
        return paths;
    }

    /** Both sides of an exchange of the run that is looked at, from the ledger or as it was kept with the run. */
    public void sides(long exchange, Consumer<Optional<ExchangeTexts.Both>> then) {
        Run of = run.get() < runs.size() ? runs.get(run.get()) : null;
        ExchangeTexts texts = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> texts.of(exchange)
                                .or(() -> of == null
                                        ? Optional.empty()
                                        : desk.history().kept(of, exchange)),
                        then,
                        desk::tell);
    }

    /** Writes the newest run as JUnit XML and HTML into the project's {@code reports} folder and says where. */
    public void report() {
        if (runs.isEmpty()) {
            desk.tell(Notice.bad("There is no run to report yet. Run the suite first."));
            return;
        }
        Run newest = runs.get(0);
        Path folder = desk.project().folder().resolve("reports");
        String name = desk.project().name();
        ExchangeTexts exchanges = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> {
                            AtomicFile.write(
                                    folder.resolve(newest.suite() + ".xml"),
                                    JUnitXml.of(List.of(newest), Map.of("project", name), exchanges));
                            AtomicFile.write(
                                    folder.resolve(newest.suite() + ".html"),
                                    HtmlReport.of(name, List.of(newest), List.of(), ZoneId.systemDefault(), exchanges));
                            return folder;
                        },
                        at -> desk.tell(Notice.plain("JUnit XML and HTML are in " + at + ".")),
                        desk::tell);
    }
}
