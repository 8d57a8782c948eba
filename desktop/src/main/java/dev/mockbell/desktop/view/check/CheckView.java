package dev.mockbell.desktop.view.check;

import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import java.util.List;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The station Check: the register, the known values of the step looked at, and what became of it. */
public final class CheckView extends StackPane implements StationView {
    private static final double BOTTOM = 236;

    private final CheckModel model;
    private final Desk desk;
    private final StepActions actions;
    private final Register register;
    private final KnownPane known;
    private final ResultPane result;
    private final HBox head = new HBox();
    private final HBox bottom = new HBox(10);
    private final Button choose = Parts.button("", "Choose or make a suite", () -> {}, "quiet", "title");
    private final Label facts = Parts.text("", "second");
    private final Label last = Parts.text("", "tag");
    private final Label again = Parts.text("", "tag", "bronze");
    private final Label beside = Parts.text("", "tag", "bronze");
    private final Label against = Parts.text("", "third");
    private final Button run;
    private final HBox foot = Parts.foot();
    private final HBox ofStep = new HBox();
    private final HBox sums = new HBox();
    private final VBox knownPanel;
    private final VBox resultPanel;
    private final VBox station;
    private StepResult below;

    public CheckView(Models models) {
        this.model = models.check();
        this.desk = models.desk();
        this.actions = new StepActions(models, this);
        this.register = new Register(model, desk, actions::show);
        this.known = new KnownPane(model, desk);
        this.result = new ResultPane(models, actions);
        setId("check-station");
        register.grid().setId("register");
        bottom.setMinHeight(BOTTOM);
        bottom.setMaxHeight(BOTTOM);
        this.knownPanel = Parts.panel(Parts.tall(known));
        this.resultPanel = Parts.panel(Parts.tall(result));
        Parts.wide(knownPanel);
        Parts.wide(resultPanel);
        this.run = Parts.button("", "Run all steps, or stop the run (Ctrl+Enter)", model::runOrStop);
        this.station = station();
        fillHead();
        fillFoot();
        InvalidationListener all = o -> Refocus.now(this, this::show);
        model.turnsProperty().addListener(all);
        desk.projectProperty().addListener(all);
        model.beatsProperty().addListener((InvalidationListener) o -> {
            register.grid().refresh();
            // what stands below is made anew only when it has become another
            if (model.runningProperty().get() && model.result().orElse(null) != below) {
                showBottom();
            }
        });
        model.countsProperty().addListener((InvalidationListener) o -> Refocus.now(this, () -> {
            if (model.suiteProperty().get() != null) {
                showHead(model.suiteProperty().get());
                showFoot();
            }
        }));
        model.pathProperty().addListener((InvalidationListener) o -> {
            register.choose();
            showFoot();
            showBottom();
        });
        model.runProperty().addListener((InvalidationListener) o -> showBottom());
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        show();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        model.runOrStop();
    }

    @Override
    public String acts() {
        return "run the suite, or stop it";
    }

    @Override
    public boolean undo(boolean redo, boolean typing) {
        return !typing && (redo ? model.edits().redo() : model.edits().undo());
    }

    /** The keys of the register; while someone types they are the field's. */
    private void key(KeyEvent e) {
        if (e.getTarget() instanceof TextInputControl || model.suiteProperty().get() == null) {
            return;
        }
        StepPath at = model.chosen().orElse(null);
        Runnable does = null;
        if (e.isControlDown() && e.getCode() == KeyCode.Y) {
            does = model.edits()::redo;
        } else if (at != null && e.getCode() == KeyCode.DELETE) {
            does = () -> model.edits().remove(at);
        } else if (at != null && e.isControlDown() && e.getCode() == KeyCode.D) {
            does = () -> model.edits().duplicate(at);
        } else if (at != null && e.isAltDown() && (e.getCode() == KeyCode.UP || e.getCode() == KeyCode.DOWN)) {
            does = () -> model.edits().move(at, e.getCode() == KeyCode.UP ? -1 : 1);
        } else if (at != null && e.getCode() == KeyCode.F2) {
            does = () -> model.step().ifPresent(s -> actions.edit(at, s));
        }
        if (does != null) {
            does.run();
            e.consume();
        }
    }

    private void show() {
        Suite suite = model.suiteProperty().get();
        if (suite == null) {
            VBox empty = Parts.empty(
                    "A suite runs cases one after the other and carries captured values along. The register keeps every run.",
                    Parts.button("Make a suite", "Give it a name", this::askName, "primary"));
            getChildren().setAll(empty);
            return;
        }
        showHead(suite);
        register.show(suite);
        showFoot();
        // once it stands it stays: put in anew, all of it would be styled anew at each run
        if (!getChildren().contains(station)) {
            getChildren().setAll(station);
        }
        showBottom();
    }

    private VBox station() {
        register.grid().setPlaceholder(Parts.empty("This suite has no steps yet."));
        HBox views = Parts.segments(
                List.of("Runs", "Durations"), v -> v, "Runs", v -> register.showDurations(v.equals("Durations")));
        VBox top = Parts.panel(
                Parts.head(
                        "Register",
                        Parts.text("one column a run, newest first", "second", "table-text"),
                        Parts.spring(),
                        views),
                Parts.tall(register.grid()),
                foot);
        VBox.setVgrow(top, Priority.ALWAYS);
        VBox all = new VBox(head, top, bottom);
        all.getStyleClass().add("station");
        return all;
    }

    private void showBottom() {
        below = model.result().orElse(null);
        result.show();
        Step step = model.step().orElse(null);
        boolean rows = step instanceof Step.Call call && call.known().isPresent();
        if (rows) {
            known.show(model.chosen().orElseThrow(), (Step.Call) step);
        }
        List<Node> panels = rows ? List.of(knownPanel, resultPanel) : List.of(resultPanel);
        if (!bottom.getChildren().equals(panels)) {
            bottom.getChildren().setAll(panels);
        }
    }

    /** What stands in the head and the foot is made once; a run changes words and colours of it. */
    private void fillHead() {
        choose.setId("choose-suite");
        choose.setOnAction(e -> suites().show(choose, Side.BOTTOM, 0, 2));
        last.setId("last-run");
        run.setId("run-suite");
        Button more = Parts.button("▾", "Run only a part, or over and over", () -> {});
        more.setId("run-more");
        more.setOnAction(e -> runs().show(more, Side.BOTTOM, 0, 2));
        Button reports = Parts.button(
                "Write reports",
                "JUnit XML and HTML of the newest run, into the project's reports folder",
                model.details()::report);
        reports.setId("write-reports");
        head.getChildren().addAll(choose, facts, last, again, beside, Parts.spring(), against, reports, run, more);
        head.getStyleClass().setAll("station-head");
    }

    private void showHead(Suite suite) {
        choose.setText(suite.title() + " ▾");
        facts.setText(model.size()
                .map(z -> "suite · " + z.steps() + (z.steps() == 1 ? " step · " : " steps · ") + z.checks()
                        + (z.checks() == 1 ? " check" : " checks"))
                .orElse("suite"));
        boolean running = model.runningProperty().get();
        Run newest = model.runs().isEmpty() ? null : model.runs().get(0);
        Parts.shown(last, newest != null);
        if (running) {
            last.setText("running");
        } else if (newest != null) {
            last.setText(words(newest));
        }
        Parts.classed(last, "bronze", running);
        Parts.classed(last, "fine", !running && newest != null && newest.passed());
        Parts.classed(last, "failed", !running && newest != null && !newest.passed());
        int every = model.repeatingProperty().get();
        Parts.shown(again, every > 0);
        again.setText("again every " + every + " s");
        long others = model.countRunning() - (running ? 1 : 0);
        Parts.shown(beside, others > 0);
        beside.setText(others == 1 ? "1 other suite running" : others + " other suites running");
        against.setText("against " + desk.project().current().name());
        run.setText(running ? "Stop" : "Run suite  Ctrl ↵");
        Parts.classed(run, "danger", running);
        Parts.classed(run, "primary", !running);
    }

    private String words(Run newest) {
        if (newest.passed()) {
            return "last run passed";
        }
        long bad = model.tally(newest).map(t -> t.checks() - t.passed()).orElse(0L);
        return bad > 0 ? "last run failed: " + bad + (bad == 1 ? " check" : " checks") : "last run failed";
    }

    private ContextMenu runs() {
        ContextMenu menu = new ContextMenu();
        model.chosen()
                .ifPresent(at -> menu.getItems()
                        .addAll(
                                item("Only step " + at.text(), () -> model.runOne(at)),
                                item("From step " + at.text(), () -> model.runFrom(at)),
                                item("Up to step " + at.text(), () -> model.runUpTo(at))));
        menu.getItems().add(item("Only what failed", model::runFailed));
        menu.getItems().add(new SeparatorMenuItem());
        menu.getItems().add(item("Several suites…", () -> SeveralForm.ask(this, model, desk)));
        if (model.countRunning() > 0) {
            menu.getItems().add(item("Stop all that run", model::stopAll));
        }
        menu.getItems().add(new SeparatorMenuItem());
        if (model.repeatingProperty().get() > 0) {
            menu.getItems().add(item("Do not run it again", () -> model.repeat(0)));
        } else {
            for (int seconds : List.of(10, 60, 300, 900)) {
                menu.getItems()
                        .add(item(
                                "Keep running, every " + (seconds < 60 ? seconds + " s" : seconds / 60 + " min"),
                                () -> model.repeat(seconds)));
            }
        }
        return menu;
    }

    private ContextMenu suites() {
        ContextMenu menu = new ContextMenu();
        for (Suite suite : desk.project().suites()) {
            String words = suite.title() + (model.isRunning(suite) ? "  ·  running" : "");
            menu.getItems().add(item(words, () -> model.open(suite)));
        }
        menu.getItems().add(new SeparatorMenuItem());
        menu.getItems().add(item("New suite…", this::askName));
        if (model.suiteProperty().get() != null) {
            menu.getItems()
                    .addAll(
                            item("Rename this suite…", this::askTitle),
                            item("Duplicate this suite", model::copy),
                            item("Delete this suite", model::drop));
        }
        return menu;
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setMnemonicParsing(false);
        item.setOnAction(e -> action.run());
        return item;
    }

    private void askTitle() {
        Form form = new Form();
        TextField field =
                Form.field("ask-suite", "Title", model.suiteProperty().get().title());
        form.row("Title", field);
        Asking.ask(
                this,
                "Rename the suite",
                form,
                "suite",
                () -> Asking.needed(field.getText(), "The title of the suite"),
                model::rename);
        field.requestFocus();
        field.selectAll();
    }

    private void askName() {
        Form form = new Form();
        TextField field = Form.field("ask-suite", "New suite", "");
        form.row("Name", field);
        Asking.ask(
                this,
                "A new suite",
                form,
                "suite",
                () -> Asking.needed(field.getText(), "The name of the suite"),
                model::add);
        field.requestFocus();
        field.selectAll();
    }

    private void fillFoot() {
        Button add = Parts.button(
                "+ Add a step",
                "A call, a pause, a group, a repetition, a choice, another suite",
                () -> {},
                "quiet",
                "link");
        add.setId("add-step");
        add.setOnAction(e -> actions.showAdd(add));
        ofStep.getChildren()
                .addAll(
                        ofChosen(
                                "Move up",
                                "Run this step earlier (Alt+Up)",
                                at -> model.edits().move(at, -1)),
                        ofChosen(
                                "Move down",
                                "Run this step later (Alt+Down)",
                                at -> model.edits().move(at, 1)),
                        ofChosen(
                                "Edit…",
                                "What this step does (F2)",
                                at -> model.step().ifPresent(s -> actions.edit(at, s))),
                        ofChosen(
                                "Take out",
                                "Take this step out; it can be put back (Delete)",
                                at -> model.edits().remove(at)));
        ofStep.setAlignment(Pos.CENTER_LEFT);
        sums.setAlignment(Pos.CENTER_LEFT);
        foot.getChildren().addAll(add, ofStep, Parts.spring(), sums);
        // the sums stand under the columns of their runs
        foot.setStyle("-fx-padding: 0 1 0 12; -fx-spacing: 0");
    }

    private Node ofChosen(String words, String tip, Consumer<StepPath> action) {
        return Parts.button(words, tip, () -> model.chosen().ifPresent(action), "quiet");
    }

    private void showFoot() {
        Parts.shown(ofStep, model.chosen().isPresent());
        register.showSums(sums);
    }
}
