package dev.mockbell.desktop.view.check;

import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Insets;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The register: steps down, runs across; below it what became of the step looked at. */
public final class CheckView extends StackPane implements StationView {
    private final Models models;
    private final CheckModel model;
    private final Desk desk;
    private final Grid<Integer> register = new Grid<>(27);
    private final ObservableList<Integer> rows = FXCollections.observableArrayList();
    private final HBox head = new HBox();
    private final VBox details = new VBox();

    public CheckView(Models models) {
        this.models = models;
        this.model = models.check();
        this.desk = models.desk();
        setId("check-station");
        register.setId("register");
        register.setItems(rows);
        register.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null) {
                model.stepProperty().set(now);
            }
        });
        InvalidationListener all = o -> Refocus.now(this, this::show);
        model.suiteProperty().addListener(all);
        model.runs().addListener(all);
        model.runningProperty().addListener(all);
        desk.projectProperty().addListener(all);
        model.stepProperty().addListener((InvalidationListener) o -> {
            register.list()
                    .getSelectionModel()
                    .select(Integer.valueOf(model.stepProperty().get()));
            showDetails();
        });
        model.runProperty().addListener((InvalidationListener) o -> showDetails());
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
        columns(suite);
        int step = model.stepProperty().get();
        List<Integer> indices = java.util.stream.IntStream.range(
                        0, suite.steps().size())
                .boxed()
                .collect(Collectors.toList());
        if (!indices.equals(rows)) {
            rows.setAll(indices);
        } else {
            register.refresh();
        }
        register.list().getSelectionModel().select(Integer.valueOf(step));
        register.setPlaceholder(Parts.empty("This suite has no steps yet."));
        VBox top = Parts.panel(
                Parts.head("Register", Parts.text("one column a run, newest first", "second", "table-text")),
                Parts.tall(register),
                stepsFoot());
        VBox.setVgrow(top, javafx.scene.layout.Priority.ALWAYS);
        ScrollPane scroll = new ScrollPane(details);
        scroll.setFitToWidth(true);
        VBox bottom = Parts.panel(Parts.tall(scroll));
        bottom.setMinHeight(230);
        bottom.setMaxHeight(230);
        VBox station = new VBox(head, top, bottom);
        station.getStyleClass().add("station");
        getChildren().setAll(station);
        showDetails();
    }

    private void showHead(Suite suite) {
        Button choose = Parts.button(suite.title() + " ▾", "Choose or make a suite", () -> {}, "quiet", "title");
        choose.setId("choose-suite");
        choose.setOnAction(e -> suites().show(choose, Side.BOTTOM, 0, 2));
        long checks = suite.steps().stream()
                .flatMap(s -> s.sends().flatMap(desk.project()::kept).stream())
                .mapToLong(c -> c.checks().size())
                .sum();
        Label facts = Parts.text("suite · " + suite.steps().size() + " steps · " + checks + " checks", "second");
        head.getChildren().setAll(choose, facts);
        boolean running = model.runningProperty().get();
        if (running) {
            head.getChildren().add(Parts.text("running", "tag", "bronze"));
        } else if (!model.runs().isEmpty()) {
            Run last = model.runs().get(0);
            long bad = last.checks() - last.checksPassed();
            Label label = last.passed()
                    ? Parts.text("last run passed", "tag", "fine")
                    : Parts.text(
                            bad > 0 ? "last run failed: " + bad + (bad == 1 ? " check" : " checks") : "last run failed",
                            "tag",
                            "failed");
            label.setId("last-run");
            head.getChildren().add(label);
        }
        Button run = Parts.button(
                running ? "Stop" : "Run suite  Ctrl ↵",
                "Run all steps (Ctrl+Enter)",
                model::runOrStop,
                running ? "danger" : "primary");
        run.setId("run-suite");
        Button reports = Parts.button(
                "Write reports",
                "JUnit XML and HTML of the newest run, into the project's reports folder",
                model::report);
        reports.setId("write-reports");
        head.getChildren()
                .addAll(
                        Parts.spring(),
                        Parts.text("against " + desk.project().current().name(), "third"),
                        reports,
                        run);
        head.getStyleClass().setAll("station-head");
    }

    private ContextMenu suites() {
        ContextMenu menu = new ContextMenu();
        for (Suite suite : desk.project().suites()) {
            MenuItem item = new MenuItem(suite.title());
            item.setOnAction(e -> model.open(suite));
            menu.getItems().add(item);
        }
        MenuItem add = new MenuItem("New suite…");
        add.setOnAction(e -> askName());
        menu.getItems().add(add);
        return menu;
    }

    private void askName() {
        TextField field = new TextField("New suite");
        field.setId("ask-suite");
        Runnable done = () -> {
            if (!field.getText().isBlank()) {
                Overlay.close(this);
                model.add(field.getText().strip());
            }
        };
        field.setOnAction(e -> done.run());
        Overlay.show(
                this,
                new VBox(
                        10,
                        Parts.text("Name of the suite", "strong"),
                        field,
                        Parts.button("Keep", "Enter", done, "primary")),
                420);
        field.selectAll();
    }

    private void columns(Suite suite) {
        register.clearColumns();
        register.column("Step", 180, i -> {
                    Label number = Parts.text(String.valueOf(i + 1), "third", "table-text");
                    return new HBox(
                            8, number, Parts.text(step(i).map(Step::name).orElse(""), "strong", "table-text"));
                })
                .column(
                        "Sends",
                        190,
                        i -> quiet(kept(i).map(c -> c.operation() + " · " + c.title())
                                .orElse("the case is gone")))
                .growing(
                        "Checks",
                        i -> quiet(kept(i).map(c ->
                                        c.checks().stream().map(Check::brief).collect(Collectors.joining(" · ")))
                                .orElse("")))
                .column("Captures", 120, i -> {
                    String names = kept(i).map(c -> c.captures().stream()
                                    .map(x -> "$" + x.name())
                                    .collect(Collectors.joining(", ")))
                            .orElse("");
                    return Parts.text(names.isEmpty() ? "–" : names, "mono");
                })
                .number(
                        "ms",
                        60,
                        i -> Parts.text(
                                cell(0, i)
                                        .filter(r -> r.millis() > 0)
                                        .map(r -> Numbers.whole(Math.round(r.millis())))
                                        .orElse(""),
                                "mono"));
        for (int r = 0; r < model.runs().size(); r++) {
            int index = r;
            register.centred(Numbers.clockShort(model.runs().get(r).started()), 54, i -> mark(index, i));
        }
    }

    private Optional<Step> step(int index) {
        Suite suite = model.suiteProperty().get();
        return suite != null && index < suite.steps().size()
                ? Optional.of(suite.steps().get(index))
                : Optional.empty();
    }

    private Optional<Case> kept(int index) {
        return step(index).flatMap(Step::sends).flatMap(desk.project()::kept);
    }

    private static Label quiet(String words) {
        Label label = Parts.text(words, "second", "table-text");
        label.setMinWidth(0);
        Parts.tip(label, words);
        return label;
    }

    private Optional<StepResult> cell(int run, int step) {
        return run < model.runs().size() && step < model.runs().get(run).steps().size()
                ? Optional.of(model.runs().get(run).steps().get(step))
                : Optional.empty();
    }

    private Node mark(int run, int step) {
        Mark mark = cell(run, step).map(r -> Numbers.mark(r.verdict())).orElse(Mark.STALE);
        Node node = mark.node();
        node.setMouseTransparent(true);
        StackPane box = new StackPane(node);
        box.setOnMousePressed(e -> {
            model.runProperty().set(run);
            model.stepProperty().set(step);
        });
        Parts.tip(box, mark.words());
        return box;
    }

    private Node stepsFoot() {
        Button add = Parts.button("+ Add a step", "Choose a case", () -> {}, "quiet", "link");
        add.setId("add-step");
        add.setOnAction(e -> caseMenu().show(add, Side.TOP, 0, 0));
        HBox foot = Parts.foot(add);
        int step = model.stepProperty().get();
        if (step(step).isPresent()) {
            foot.getChildren()
                    .addAll(
                            Parts.button(
                                    "Move up",
                                    "Run this step earlier",
                                    () -> model.moveStep(model.stepProperty().get(), -1),
                                    "quiet"),
                            Parts.button(
                                    "Move down",
                                    "Run this step later",
                                    () -> model.moveStep(model.stepProperty().get(), 1),
                                    "quiet"),
                            Parts.button(
                                    "Take out",
                                    "Take this step out; it can be put back",
                                    () -> model.removeStep(model.stepProperty().get()),
                                    "quiet"));
        }
        foot.getChildren().add(Parts.spring());
        for (Run run : model.runs()) {
            Label sum = Parts.text(run.checksPassed() + "/" + run.checks(), "second", "table-text");
            sum.setMinWidth(54);
            sum.setAlignment(javafx.geometry.Pos.CENTER);
            foot.getChildren().add(sum);
        }
        // the sums stand under the columns of their runs
        foot.setStyle("-fx-padding: 0 1 0 12; -fx-spacing: 0");
        return foot;
    }

    private ContextMenu caseMenu() {
        ContextMenu menu = new ContextMenu();
        desk.project().cases().stream()
                .collect(Collectors.groupingBy(Case::operation, java.util.TreeMap::new, Collectors.toList()))
                .forEach((operation, cases) -> {
                    Menu group = new Menu(operation);
                    for (Case kept : cases) {
                        MenuItem item = new MenuItem(kept.title());
                        item.setOnAction(e -> model.addStep(kept));
                        group.getItems().add(item);
                    }
                    menu.getItems().add(group);
                });
        if (menu.getItems().isEmpty()) {
            MenuItem none = new MenuItem("There are no cases yet: keep one in Call");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        return menu;
    }

    private void showDetails() {
        details.getChildren().clear();
        int s = model.stepProperty().get();
        int r = model.runProperty().get();
        Optional<StepResult> result = model.result();
        if (result.isEmpty()) {
            details.getChildren().add(Parts.empty("Run the suite to see here what passed and what failed, in words."));
            return;
        }
        StepResult of = result.get();
        String when = Numbers.clockShort(model.runs().get(r).started());
        HBox top = Parts.head(
                "Step " + (s + 1) + " at " + when + " · " + of.name(),
                Parts.spring(),
                Parts.text(Numbers.millis(of.millis()) + " ms", "second"));
        VBox list = new VBox(7);
        list.setPadding(new Insets(10, 12, 10, 12));
        if (!of.problem().isEmpty()) {
            list.getChildren().add(wrapped(Mark.FAILED, of.problem()));
        }
        for (CheckResult check : of.checks()) {
            String words = check.passed() && !check.found().isEmpty() && !"true".equals(check.found())
                    ? check.title() + " · found " + check.found()
                    : check.sentence();
            list.getChildren().add(wrapped(Numbers.mark(check.verdict()), words));
        }
        of.captures().forEach((name, value) -> list.getChildren().add(Parts.text("$" + name + " = " + value, "mono")));
        HBox actions = new HBox(8);
        if (of.exchange() > 0) {
            Button open = Parts.button(
                    "Open exchange", "See it in Traffic", () -> models.traffic().open(of.exchange()));
            open.setId("open-exchange");
            actions.getChildren().add(open);
        }
        kept(s).ifPresent(c -> actions.getChildren()
                .add(Parts.button(
                        "Open case",
                        "Edit it in Call",
                        () -> desk.place(c.contract(), c.operation()).ifPresent(p -> {
                            desk.placeProperty().set(p);
                            models.call().open(c);
                            desk.go(dev.mockbell.desktop.model.Station.CALL);
                        }))));
        list.getChildren().add(actions);
        details.getChildren().addAll(top, list);
    }

    private static Label wrapped(Mark mark, String words) {
        Label label = Parts.marked(mark, words);
        label.setWrapText(true);
        return label;
    }
}
