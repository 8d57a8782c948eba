package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Names;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.LoadCsv;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The load station: a plan, and the run of it, live. */
public final class LoadModel {
    private static final int MOST_FAILURES = 200;

    private final Desk desk;
    private final LoadEngine engine;
    private final ObjectProperty<LoadPlan> plan = new SimpleObjectProperty<>();
    private final ObservableList<LoadSecond> seconds = FXCollections.observableArrayList();
    private final ObservableList<Exchange> failures = FXCollections.observableArrayList();
    private final ObjectProperty<LoadRun> result = new SimpleObjectProperty<>();
    private final BooleanProperty running = new SimpleBooleanProperty();
    private StopSignal stop = new StopSignal();

    public LoadModel(Desk desk) {
        this.desk = desk;
        this.engine = new LoadEngine(desk.loops(), desk.expressions());
        desk.project().loads().stream().findFirst().ifPresent(plan::set);
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

    /** The finished run; null before the first and while one is under way. */
    public ObjectProperty<LoadRun> resultProperty() {
        return result;
    }

    public BooleanProperty runningProperty() {
        return running;
    }

    /** Shows another plan. */
    public void open(LoadPlan other) {
        plan.set(other);
        seconds.clear();
        failures.clear();
        result.set(null);
    }

    /** Makes a plan for a suite. */
    public void add(Suite suite) {
        String title = "Load on " + suite.title();
        String id = Names.free(title, n -> desk.project().load(n).isPresent());
        LoadPlan made = new LoadPlan(
                id,
                title,
                suite.id(),
                "",
                new LoadShape.Arrivals(10),
                30,
                10_000,
                List.of(new Limit(Limit.Measure.P95, 500), new Limit(Limit.Measure.FAILED, 1)));
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

    /** Starts the plan, or stops the run under way. */
    public void startOrStop() {
        if (running.get()) {
            stop.stop();
            return;
        }
        LoadPlan chosen = plan.get();
        if (chosen == null) {
            return;
        }
        Suite suite = desk.project().suite(chosen.suite()).orElse(null);
        if (suite == null) {
            desk.tell(Problem.input(
                    "The project has no suite “" + chosen.suite() + "”", null, "Choose one for the plan."));
            return;
        }
        StopSignal signal = new StopSignal();
        stop = signal;
        seconds.clear();
        failures.clear();
        result.set(null);
        running.set(true);
        LoadListener live = new LoadListener() {
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
        };
        var bench = desk.bench();
        desk.tasks()
                .run(
                        () -> engine.run(chosen, suite, bench, live, signal),
                        done -> {
                            running.set(false);
                            result.set(done);
                        },
                        problem -> {
                            running.set(false);
                            desk.tell(problem);
                        });
    }

    /** Writes the last run as CSV and HTML into the project's {@code reports} folder and says where. */
    public void report() {
        LoadRun run = result.get();
        if (run == null) {
            desk.tell(Notice.bad("There is no finished run to report yet."));
            return;
        }
        Path folder =
                desk.project().folder().resolve("reports").resolve(run.plan().id());
        String name = desk.project().name();
        desk.tasks()
                .run(
                        () -> {
                            AtomicFile.write(folder.resolve("steps.csv"), LoadCsv.steps(run));
                            AtomicFile.write(folder.resolve("seconds.csv"), LoadCsv.seconds(run));
                            AtomicFile.write(
                                    folder.resolve("report.html"),
                                    HtmlReport.ofLoads(name, List.of(run), ZoneId.systemDefault()));
                            return folder;
                        },
                        at -> desk.tell(Notice.plain("CSV and HTML are in " + at + ".")),
                        desk::tell);
    }
}
