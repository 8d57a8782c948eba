package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.model.WorkersModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.project.LoadHistory.Kept;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.List;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** A load plan at the left, its run at the right. */
public final class LoadView extends StackPane implements StationView {
    private static final double STEP = 1.25;

    private final LoadModel model;
    private final WorkersModel workers;
    private final Desk desk;
    private final HBox head = new HBox();
    private final StackPane right = new StackPane();
    private final Label sofar = Parts.text("", "second", "table-text");
    private final Button run;
    private final Button gently;
    private final LoadPlanPane plan;
    private final LoadFigures figures;
    private final Node station;

    public LoadView(Models models) {
        this.model = models.load();
        this.workers = models.workers();
        this.desk = models.desk();
        this.run = run();
        this.gently = gently();
        this.plan = new LoadPlanPane(model);
        this.figures = new LoadFigures(model, workers, failure -> {
            models.traffic().filterProperty().set(LedgerFilter.ALL.withText(failure.note()));
            desk.go(Station.TRAFFIC);
        });
        setId("load-station");
        station = build();
        InvalidationListener all = o -> Refocus.now(this, this::show);
        model.planProperty().addListener((InvalidationListener) o -> Refocus.around(plan, this::show));
        model.runningProperty().addListener(all);
        model.resultProperty().addListener(all);
        model.phaseProperty().addListener(all);
        model.factorProperty().addListener(all);
        workers.openProperty().addListener(all);
        workers.workers().addListener((InvalidationListener) o -> showCrew());
        model.comparisonProperty().addListener((InvalidationListener) o -> showComparison());
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
        right.getChildren().setAll(figures);
        HBox.setHgrow(right, Priority.ALWAYS);
        HBox columns = new HBox(10, plan, right);
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
        choose.setId("load-plans");
        choose.setOnAction(e -> plans(choose).show(choose, Side.BOTTOM, 0, 2));
        List<Node> all = new ArrayList<>(List.of(choose));
        boolean running = model.runningProperty().get();
        LoadRun done = model.resultProperty().get();
        if (running) {
            Label label = Parts.text(model.phaseProperty().get(), "tag", "bronze");
            label.setId("load-running");
            all.add(label);
        } else if (done != null) {
            boolean judged = !done.limits().isEmpty();
            String words = done.stopped()
                    ? "stopped"
                    : !judged ? "no limits to judge it by" : done.passed() ? "limits kept" : "limits not kept";
            Label label = Parts.text(words, "tag", !judged ? "second" : done.passed() ? "fine" : "failed");
            label.setId("load-verdict");
            all.add(label);
        }
        sofar.setText("");
        all.addAll(List.of(sofar, Parts.spring()));
        if (running) {
            all.addAll(List.of(pace(), gently));
        } else {
            all.addAll(List.of(against(p), runs()));
            if (workers.isThere()) {
                all.add(crew());
            }
        }
        run.setText(running ? "Stop now" : "Start  Ctrl ↵");
        run.setAccessibleHelp(running ? "Stop; what was measured is kept" : "Make the load (Ctrl+Enter)");
        Parts.classed(run, "danger", running);
        Parts.classed(run, "primary", !running);
        all.add(run);
        // what stops a run stays where it is while the run comes to its next phase
        Parts.keep(head, all);
    }

    private Button run() {
        Button button = Parts.button("", "", model::startOrStop);
        Parts.tip(button, button::getAccessibleHelp);
        button.setId("load-start");
        return button;
    }

    private Label against(LoadPlan p) {
        Label label = Parts.text(
                "against " + (p.endpoint().isEmpty() ? desk.project().current().name() : p.endpoint()), "third");
        label.setMinWidth(0);
        return label;
    }

    /** Faster or slower while it runs. */
    private HBox pace() {
        Label times = Parts.text("× " + Numbers.plain(model.factorProperty().get()), "mono");
        times.setId("load-factor");
        Button slower = Parts.button("−", "Go on at fewer times the plan's level", () -> pace(1 / STEP));
        Button faster = Parts.button("+", "Go on at more times the plan's level", () -> pace(STEP));
        slower.setId("load-slower");
        faster.setId("load-faster");
        HBox box = new HBox(4, slower, times, faster);
        box.setAlignment(Pos.CENTER);
        return box;
    }

    private void pace(double by) {
        model.factor(Math.round(model.factorProperty().get() * by * 100) / 100.0);
    }

    private Button gently() {
        Button gently =
                Parts.button("Stop gently", "Nothing new comes in; what is under way is waited for", model::stopGently);
        gently.setId("load-gently");
        return gently;
    }

    private Button runs() {
        Button runs = Parts.button("Runs ▾", "Look at an earlier run, compare up to five, write a report", () -> {});
        runs.setId("load-runs");
        runs.setOnAction(e -> runMenu().show(runs, Side.BOTTOM, 0, 2));
        return runs;
    }

    /** The rows follow each second; the head says how many there are. */
    private void showCrew() {
        figures.showWorkers();
        if (lookup("#load-crew") instanceof Button crew) {
            crew.setText(crewWords());
        }
    }

    private String crewWords() {
        int count = workers.workers().size();
        return !workers.openProperty().get() ? "Made here ▾" : count == 1 ? "1 worker ▾" : count + " workers ▾";
    }

    /** Who makes the load. */
    private Button crew() {
        Button crew = Parts.button(
                crewWords(),
                "Who makes the load: this window, or workers on this machine and others. The window's code is compiled for a quick"
                        + " start; for more than some hundred requests a second a worker of this machine has truer times.",
                () -> {});
        crew.setId("load-crew");
        crew.setOnAction(e -> crewMenu().show(crew, Side.BOTTOM, 0, 2));
        return crew;
    }

    private ContextMenu crewMenu() {
        RadioMenuItem alone = new RadioMenuItem("Made by this window");
        RadioMenuItem together = new RadioMenuItem("Made by workers, who join here");
        ToggleGroup who = new ToggleGroup();
        boolean open = workers.openProperty().get();
        for (RadioMenuItem item : List.of(alone, together)) {
            item.setToggleGroup(who);
            item.setSelected((item == together) == open);
            item.setOnAction(e -> workers.gather(item == together));
        }
        MenuItem start = new MenuItem("Start a worker on this machine");
        start.setOnAction(e -> workers.startHere());
        MenuItem invite = new MenuItem("Invite other machines…");
        invite.setOnAction(e -> LoadForms.invite(
                this,
                workers,
                desk.project().name(),
                i -> workers.invite(
                        i.file(),
                        i.host(),
                        i.days(),
                        command -> desk.tell(Notice.plain("The invitation is in " + i.file()
                                + ". On the other machine: " + command + " --host ITS-ADDRESS")))));
        Menu lost = new Menu("When a worker is lost");
        ToggleGroup then = new ToggleGroup();
        for (WhenLost choice : WhenLost.values()) {
            RadioMenuItem item = new RadioMenuItem(choice.title());
            item.setToggleGroup(then);
            item.setSelected(choice == workers.whenLostProperty().get());
            item.setOnAction(e -> workers.whenLostProperty().set(choice));
            lost.getItems().add(item);
        }
        ContextMenu menu = new ContextMenu();
        menu.getItems().addAll(alone, together, new SeparatorMenuItem(), start, invite, lost);
        return menu;
    }

    private ContextMenu runMenu() {
        ContextMenu menu = new ContextMenu();
        LoadRun now = model.resultProperty().get();
        MenuItem report = new MenuItem("Write a report of this run");
        report.setDisable(now == null);
        report.setOnAction(e -> model.report());
        Menu look = new Menu("Look at");
        Menu compare = new Menu("Compare with");
        LoadComparison shown = model.comparisonProperty().getValue();
        boolean full = shown != null && shown.runs().size() >= LoadModel.MOST_COMPARED;
        for (Kept run : model.runs()) {
            String words = Moments.toTheSecond(run.started()) + " · "
                    + Numbers.whole(run.done()) + " done, p95 "
                    + Numbers.millis(run.p95()) + " ms" + (run.passed() ? "" : ", limits not kept");
            if (now != null && run.started().equals(now.started())) {
                continue;
            }
            MenuItem item = new MenuItem(words);
            item.setOnAction(e -> model.look(run));
            look.getItems().add(item);
            if (now != null) {
                CheckMenuItem with = new CheckMenuItem(words);
                with.setSelected(model.isCompared(run));
                with.setDisable(full && !with.isSelected());
                with.setOnAction(e -> model.compare(run));
                compare.getItems().add(with);
            }
        }
        look.setDisable(look.getItems().isEmpty());
        compare.setDisable(compare.getItems().isEmpty());
        menu.getItems().addAll(report, look, compare);
        return menu;
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
        MenuItem drop = new MenuItem("Take this plan away");
        drop.setOnAction(e -> model.drop());
        menu.getItems().addAll(add, drop);
        return menu;
    }

    private void showComparison() {
        LoadComparison compared = model.comparisonProperty().getValue();
        right.getChildren().setAll(compared == null ? figures : new ComparisonPane(model, compared));
    }

    private void showLive() {
        LoadPlan p = model.planProperty().get();
        if (p != null) {
            figures.show(p);
            Standing standing = Standing.of(model);
            plan.showStanding(p, standing);
            long kept = standing.limits().stream().filter(Limit.Outcome::kept).count();
            sofar.setText(
                    model.runningProperty().get() && !standing.limits().isEmpty()
                            ? kept + " of " + standing.limits().size() + " limits kept so far"
                            : "");
        }
    }
}
