package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.suite.Suite;
import javafx.beans.InvalidationListener;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** A load plan at the left, its run at the right. */
public final class LoadView extends StackPane implements StationView {
    private final LoadModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final LoadPlanPane plan;
    private final LoadFigures figures;
    private final Node station;

    public LoadView(Models models) {
        this.model = models.load();
        this.desk = models.desk();
        this.plan = new LoadPlanPane(model, desk);
        this.figures = new LoadFigures(model, failure -> {
            models.traffic().filterProperty().set(LedgerFilter.ALL.withText(failure.note()));
            desk.go(Station.TRAFFIC);
        });
        setId("load-station");
        station = build();
        InvalidationListener all = o -> Refocus.now(this, this::show);
        model.planProperty().addListener((InvalidationListener) o -> Refocus.around(plan, this::show));
        model.runningProperty().addListener(all);
        model.resultProperty().addListener(all);
        model.seconds().addListener((InvalidationListener) o -> showLive());
        model.failures().addListener((InvalidationListener) o -> figures.showFailures());
        desk.projectProperty().addListener((InvalidationListener) o -> {
            if (model.planProperty().get() == null) {
                show();
            }
        });
        show();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        model.startOrStop();
    }

    @Override
    public String acts() {
        return "start or stop the load";
    }

    private Node build() {
        HBox.setHgrow(figures, Priority.ALWAYS);
        HBox columns = new HBox(10, plan, figures);
        VBox.setVgrow(columns, Priority.ALWAYS);
        VBox box = new VBox(head, columns);
        box.getStyleClass().add("station");
        head.getStyleClass().setAll("station-head");
        return box;
    }

    private void show() {
        LoadPlan p = model.planProperty().get();
        if (p == null) {
            Button make = Parts.button("Make a load plan", "For a suite of the project", () -> {}, "primary");
            make.setOnAction(e -> suites(make).show(make, Side.BOTTOM, 0, 2));
            getChildren()
                    .setAll(Parts.empty(
                            "Load runs the steps of a suite at a rate or by many users, and measures from the moment each was due.",
                            make));
            return;
        }
        if (!getChildren().contains(station)) {
            getChildren().setAll(station);
        }
        showHead(p);
        plan.show(p);
        showLive();
        figures.showFailures();
    }

    private ContextMenu suites(Node from) {
        ContextMenu menu = new ContextMenu();
        for (Suite suite : desk.project().suites()) {
            MenuItem item = new MenuItem(suite.title());
            item.setOnAction(e -> model.add(suite));
            menu.getItems().add(item);
        }
        if (menu.getItems().isEmpty()) {
            MenuItem none = new MenuItem("There is no suite yet: make one in Check");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        return menu;
    }

    private void showHead(LoadPlan p) {
        Button choose = Parts.button(p.title() + " ▾", "Choose or make a plan", () -> {}, "quiet", "title");
        choose.setOnAction(e -> plans(choose).show(choose, Side.BOTTOM, 0, 2));
        head.getChildren().setAll(choose);
        boolean running = model.runningProperty().get();
        LoadRun done = model.resultProperty().get();
        if (running) {
            Label label = Parts.text("running", "tag", "bronze");
            label.setId("load-running");
            head.getChildren().add(label);
        } else if (done != null) {
            boolean judged = !done.limits().isEmpty();
            String words = done.stopped()
                    ? "stopped"
                    : !judged ? "no limits to judge it by" : done.passed() ? "limits kept" : "limits not kept";
            Label label = Parts.text(words, "tag", !judged ? "second" : done.passed() ? "fine" : "failed");
            label.setId("load-verdict");
            head.getChildren().add(label);
        }
        Button report = Parts.button(
                "Write report", "CSV and HTML of the last run, into the project's reports folder", model::report);
        Button run = Parts.button(
                running ? "Stop now" : "Start  Ctrl ↵",
                running ? "Stop; what was measured is kept" : "Make the load (Ctrl+Enter)",
                model::startOrStop,
                running ? "danger" : "primary");
        run.setId("load-start");
        head.getChildren()
                .addAll(
                        Parts.spring(),
                        Parts.text(
                                "against "
                                        + (p.endpoint().isEmpty()
                                                ? desk.project().current().name()
                                                : p.endpoint()),
                                "third"),
                        report,
                        run);
    }

    private ContextMenu plans(Node from) {
        ContextMenu menu = new ContextMenu();
        for (LoadPlan other : desk.project().loads()) {
            MenuItem item = new MenuItem(other.title());
            item.setOnAction(e -> model.open(other));
            menu.getItems().add(item);
        }
        Menu add = new Menu("New plan for");
        add.getItems().addAll(suites(from).getItems());
        menu.getItems().add(add);
        return menu;
    }

    private void showLive() {
        LoadPlan p = model.planProperty().get();
        if (p != null) {
            figures.show(p);
            plan.showStanding(p, Standing.of(model));
        }
    }
}
