package dev.mockbell.desktop.model;

import dev.mockbell.check.Verdict;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.project.Names;
import dev.mockbell.report.ExchangeTexts;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    private final ObjectProperty<Suite> suite = new SimpleObjectProperty<>();
    private final ObservableList<Run> runs = FXCollections.observableArrayList();
    private final BooleanProperty running = new SimpleBooleanProperty();
    private final IntegerProperty step = new SimpleIntegerProperty(0);
    private final IntegerProperty run = new SimpleIntegerProperty(0);
    private StopSignal stop = new StopSignal();

    public CheckModel(Desk desk) {
        this.desk = desk;
        desk.project().suites().stream().findFirst().ifPresent(this::open);
    }

    public ObjectProperty<Suite> suiteProperty() {
        return suite;
    }

    /** The runs shown, newest first; the first grows while a run is under way. */
    public ObservableList<Run> runs() {
        return runs;
    }

    public BooleanProperty runningProperty() {
        return running;
    }

    /** The index of the step looked at. */
    public IntegerProperty stepProperty() {
        return step;
    }

    /** The index of the run looked at. */
    public IntegerProperty runProperty() {
        return run;
    }

    /** Shows a suite with its runs. */
    public void open(Suite opened) {
        suite.set(opened);
        step.set(0);
        run.set(0);
        desk.tasks().run(() -> desk.history().latest(opened.id(), COLUMNS), runs::setAll, desk::tell);
    }

    /** Makes a new, empty suite. */
    public void add(String title) {
        String id = Names.free(title, n -> desk.project().suite(n).isPresent());
        Suite made = new Suite(id, title, List.of());
        keep(made);
        open(made);
    }

    private void keep(Suite changed) {
        suite.set(changed);
        desk.change(p -> p.withSuite(changed));
    }

    /** Adds a case as the last step. */
    public void addStep(Case kept) {
        if (suite.get() == null) {
            add("Suite");
        }
        List<Step> steps = new ArrayList<>(suite.get().steps());
        steps.add(Step.call(kept.title(), kept.reference()));
        keep(suite.get().withSteps(steps));
        step.set(steps.size() - 1);
    }

    /** Takes a step out. */
    public void removeStep(int index) {
        Suite before = suite.get();
        List<Step> steps = new ArrayList<>(before.steps());
        steps.remove(index);
        keep(before.withSteps(steps));
        desk.tell(new Notice(
                "Took “" + before.steps().get(index).name() + "” out of the suite.",
                false,
                Optional.of(new Notice.Action("Put it back", () -> keep(before)))));
    }

    /** Moves a step up or down. */
    public void moveStep(int index, int by) {
        List<Step> steps = new ArrayList<>(suite.get().steps());
        int to = index + by;
        if (to >= 0 && to < steps.size()) {
            steps.add(to, steps.remove(index));
            keep(suite.get().withSteps(steps));
            step.set(to);
        }
    }

    /** Runs the suite, or stops the run under way. */
    public void runOrStop() {
        if (running.get()) {
            stop.stop();
            return;
        }
        Suite chosen = suite.get();
        if (chosen == null || chosen.steps().isEmpty()) {
            desk.tell(Notice.bad("There is nothing to run: the suite has no steps."));
            return;
        }
        StopSignal signal = new StopSignal();
        stop = signal;
        running.set(true);
        run.set(0);
        List<StepResult> soFar = new ArrayList<>();
        chosen.steps()
                .forEach(s -> soFar.add(new StepResult(s.name(), Verdict.NOT_RUN, 0, 0, List.of(), Map.of(), "")));
        String environment = desk.bench().environment();
        Instant started = Instant.now(desk.clock());
        runs.add(0, new Run(chosen.id(), chosen.title(), environment, started, 0, List.copyOf(soFar)));
        while (runs.size() > COLUMNS) {
            runs.remove(runs.size() - 1);
        }
        RunListener live = event -> {
            if (event instanceof RunEvent.StepFinished done
                    && done.path().part() == StepPath.Part.STEPS
                    && done.path().at().size() == 1) {
                desk.tasks().later(() -> {
                    soFar.set(done.path().last(), done.result());
                    runs.set(0, new Run(chosen.id(), chosen.title(), environment, started, 0, List.copyOf(soFar)));
                });
            }
        };
        var runner = desk.runner();
        desk.tasks()
                .run(
                        () -> {
                            Run done = runner.run(chosen, live, signal);
                            desk.saver().submit(() -> desk.history().add(done));
                            return done;
                        },
                        done -> {
                            running.set(false);
                            runs.set(0, done);
                            firstFailure(done).ifPresent(step::set);
                        },
                        problem -> {
                            running.set(false);
                            desk.tell(problem);
                        });
    }

    private static Optional<Integer> firstFailure(Run done) {
        for (int i = 0; i < done.steps().size(); i++) {
            if (done.steps().get(i).verdict() == Verdict.FAILED) {
                return Optional.of(i);
            }
        }
        return Optional.empty();
    }

    /** The result of the step and run that are looked at. */
    public Optional<StepResult> result() {
        int r = run.get();
        int s = step.get();
        return r >= 0 && r < runs.size() && s >= 0 && s < runs.get(r).steps().size()
                ? Optional.of(runs.get(r).steps().get(s))
                : Optional.empty();
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
