package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Refocus;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleConsumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** A load plan at the left, its run at the right. */
public final class LoadView extends StackPane implements StationView {
    private final Models models;
    private final LoadModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final VBox plan = new VBox();
    private final RateChart rates = new RateChart();
    private final ResponseMap map = new ResponseMap();
    private final HBox ratesHead = Parts.head("Arrivals and answers a second");
    private final HBox mapHead = Parts.head("Where the answers fell");
    private final Grid<StepFigures> steps = new Grid<>(26);
    private final Grid<Exchange> failures = new Grid<>(25);
    private final HBox failuresHead = Parts.head("Kept failures");
    private final VBox limits = new VBox(7);
    private final Label health = Parts.text("", "second", "table-text");
    private final Node station;

    public LoadView(Models models) {
        this.models = models;
        this.model = models.load();
        this.desk = models.desk();
        setId("load-station");
        station = build();
        InvalidationListener all = o -> show();
        model.planProperty().addListener((InvalidationListener) o -> Refocus.around(plan, this::show));
        model.runningProperty().addListener(all);
        model.resultProperty().addListener(all);
        model.seconds().addListener((InvalidationListener) o -> showLive());
        model.failures().addListener((InvalidationListener) o -> showFailures());
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
        steps.growing("Step", s -> Parts.text(s.name(), "table-text", "all".equals(s.name()) ? "strong" : "table-text"))
                .number("Done", 64, s -> Parts.text(Numbers.whole(s.done()), "mono"))
                .number("/s", 50, s -> Parts.text(Numbers.millis(s.perSecond()), "mono"))
                .number("Min", 50, s -> time(s, s.min()))
                .number("p50", 50, s -> time(s, s.p50()))
                .number("p90", 50, s -> time(s, s.p90()))
                .number("p95", 50, s -> time(s, s.p95()))
                .number("p99", 50, s -> time(s, s.p99()))
                .number("Max", 56, s -> time(s, s.max()))
                .number(
                        "Failed",
                        54,
                        s -> Parts.text(Numbers.whole(s.failed()), "mono", s.failed() > 0 ? "failed" : "mono"));
        steps.setId("load-steps");
        steps.setPlaceholder(Parts.empty("The figures of each step appear here."));
        failures.column("Time", 84, e -> Parts.text(Numbers.clock(e.started()), "mono", "third"))
                .growing("Failed because", e -> {
                    Label label = Parts.text(
                            e.note(), "table-text", e.outcome() == Exchange.Outcome.FAULT ? "fault" : "failed");
                    label.setMinWidth(0);
                    return label;
                });
        failures.headless();
        failures.setPlaceholder(Parts.empty("None so far."));
        failures.setItems(model.failures());
        failures.list().setOnMouseClicked(e -> {
            Exchange chosen = failures.list().getSelectionModel().getSelectedItem();
            if (chosen != null) {
                models.traffic().filterProperty().set(dev.mockbell.exchange.LedgerFilter.ALL.withText(chosen.note()));
                desk.go(dev.mockbell.desktop.model.Station.TRAFFIC);
            }
        });
        health.setWrapText(true);
        limits.setPadding(new Insets(10, 12, 10, 12));
        VBox left = Parts.panel(plan, Parts.innerHead("Limits"), limits, Parts.spring(), Parts.foot(health));
        left.setMinWidth(264);
        left.setMaxWidth(264);
        VBox top = Parts.panel(ratesHead, rates);
        rates.setMinHeight(112);
        rates.setMaxHeight(112);
        VBox middle = Parts.panel(mapHead, map);
        map.setMinHeight(126);
        map.setMaxHeight(126);
        VBox table = Parts.panel(Parts.tall(steps));
        HBox.setHgrow(table, Priority.ALWAYS);
        VBox kept = Parts.panel(failuresHead, Parts.tall(failures));
        kept.setMinWidth(270);
        kept.setMaxWidth(270);
        HBox bottom = new HBox(10, table, kept);
        VBox.setVgrow(bottom, Priority.ALWAYS);
        VBox right = new VBox(10, top, middle, bottom);
        HBox.setHgrow(right, Priority.ALWAYS);
        HBox columns = new HBox(10, left, right);
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
        showPlan(p);
        showLive();
        showFailures();
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
            Label label = Parts.text(
                    done.stopped() ? "stopped" : done.passed() ? "limits kept" : "limits not kept",
                    "tag",
                    done.passed() ? "fine" : "failed");
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
        javafx.scene.control.Menu add = new javafx.scene.control.Menu("New plan for");
        add.getItems().addAll(suites(from).getItems());
        menu.getItems().add(add);
        return menu;
    }

    private void showPlan(LoadPlan p) {
        HBox kinds = Parts.segments(
                ShapeFields.KINDS,
                ShapeFields.Kind::name,
                ShapeFields.KINDS.stream()
                        .filter(k -> k.name().equals(p.shape().accept(new ShapeFields.Name())))
                        .findFirst()
                        .orElse(null),
                k -> model.keep(model.planProperty().get().withShape(k.first())));
        VBox fields = new VBox(8);
        fields.setPadding(new Insets(10, 12, 10, 12));
        fields.getChildren()
                .addAll(p.shape()
                        .accept(new ShapeFields(
                                this::number,
                                shape -> model.keep(model.planProperty().get().withShape(shape)))));
        fields.getChildren()
                .add(number(
                        "Seconds",
                        "load-seconds",
                        p.seconds(),
                        v -> model.keep(model.planProperty().get().withSeconds((int) Math.max(1, v)))));
        VBox mix = new VBox(8);
        mix.setPadding(new Insets(10, 12, 10, 12));
        ComboBox<String> suite = new ComboBox<>();
        List<Suite> all = desk.project().suites();
        all.forEach(s -> suite.getItems().add(s.title()));
        suite.setValue(desk.project().suite(p.suite()).map(Suite::title).orElse(""));
        suite.setMaxWidth(Double.MAX_VALUE);
        suite.valueProperty()
                .addListener((o, was, now) -> all.stream()
                        .filter(s -> s.title().equals(now))
                        .findFirst()
                        .ifPresent(s -> model.keep(model.planProperty().get().withSuite(s.id()))));
        TextField endpoint = new TextField(p.endpoint());
        endpoint.setPromptText("where the environment says");
        endpoint.setId("load-endpoint");
        Runnable keep = () -> {
            String typed = endpoint.getText().strip();
            if (!typed.equals(model.planProperty().get().endpoint())) {
                model.keep(model.planProperty().get().withEndpoint(typed));
            }
        };
        endpoint.setOnAction(e -> keep.run());
        endpoint.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                keep.run();
            }
        });
        mix.getChildren().addAll(suite, Parts.text("Endpoint", "second", "table-text"), endpoint);
        plan.getChildren()
                .setAll(Parts.head("Shape", Parts.spring(), kinds), fields, Parts.innerHead("Carries out"), mix);
    }

    /** A response time of a step; nothing where there was none to measure. */
    private static Label time(StepFigures step, double millis) {
        return Parts.text(step.done() == 0 ? "–" : Numbers.millis(millis), "mono");
    }

    private HBox number(String name, String id, double value, DoubleConsumer keep) {
        TextField field =
                new TextField(value == Math.rint(value) ? String.valueOf((long) value) : String.valueOf(value));
        field.setId(id);
        field.setPrefWidth(90);
        field.setAlignment(Pos.CENTER_RIGHT);
        Runnable take = () -> {
            try {
                double typed = Double.parseDouble(field.getText().strip());
                if (!Double.isFinite(typed)) {
                    throw new NumberFormatException();
                }
                if (typed != value) {
                    keep.accept(typed);
                }
            } catch (NumberFormatException e) {
                desk.tell(Notice.bad("“" + field.getText() + "” is not a number."));
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                take.run();
            }
        });
        HBox box = new HBox(8, Parts.text(name), Parts.spring(), field);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private void showLive() {
        LoadPlan p = model.planProperty().get();
        if (p == null) {
            return;
        }
        List<LoadSecond> seconds = model.seconds();
        Optional<LoadSecond> last = seconds.isEmpty() ? Optional.empty() : Optional.of(seconds.get(seconds.size() - 1));
        LoadRun done = model.resultProperty().get();
        StepFigures total =
                done != null ? done.total() : last.map(LoadSecond::total).orElse(null);
        rates.show(seconds, p);
        Double bound = p.limits().stream()
                .filter(l -> l.measure() == Limit.Measure.P95)
                .map(Limit::bound)
                .findFirst()
                .orElse(null);
        map.show(seconds, p.seconds(), bound);
        ratesHead.getChildren().setAll(Parts.text("Arrivals and answers a second", "heading"), Parts.spring());
        mapHead.getChildren()
                .setAll(
                        Parts.text("Where the answers fell", "heading"),
                        Parts.text("time across, response time up, darker is more", "second", "table-text"),
                        Parts.spring());
        if (total != null) {
            Label counts = Parts.text(
                    Numbers.millis(total.perSecond()) + "/s   " + Numbers.whole(total.done()) + " done   "
                            + Numbers.whole(total.failed()) + " failed"
                            + last.filter(l -> done == null)
                                    .map(l -> "   " + l.inFlight() + " in flight")
                                    .orElse(""),
                    "strong",
                    "table-text",
                    "second");
            counts.setId("load-counts");
            ratesHead.getChildren().add(counts);
            mapHead.getChildren()
                    .add(Parts.text(
                            String.format(
                                    Locale.ROOT,
                                    "p50 %s   p95 %s   p99 %s ms",
                                    Numbers.millis(total.p50()),
                                    Numbers.millis(total.p95()),
                                    Numbers.millis(total.p99())),
                            "strong",
                            "table-text",
                            "second"));
            List<StepFigures> rows = new ArrayList<>(
                    done != null ? done.steps() : last.map(LoadSecond::steps).orElse(List.of()));
            rows.add(total);
            steps.items().setAll(rows);
        } else {
            steps.items().clear();
        }
        showLimits(p, total, done, last);
        health.getStyleClass().remove("fault");
        if (done != null && !done.warnings().isEmpty()) {
            health.getStyleClass().add("fault");
            health.setText(String.join(" ", done.warnings()));
            return;
        }
        health.setText(last.map(l -> "Generator: " + (l.cpu() >= 0 ? Math.round(l.cpu() * 100) + " % CPU, " : "")
                        + String.format(Locale.ROOT, "latest start %.1f ms late", l.latestStartMillis()))
                .orElse("The generator watches itself and says when its figures are not to be trusted."));
    }

    private void showLimits(LoadPlan p, StepFigures total, LoadRun done, Optional<LoadSecond> last) {
        limits.getChildren().clear();
        double seconds = done != null
                ? done.seconds()
                : last.map(l -> (double) l.second()).orElse(0.0);
        for (Limit limit : p.limits()) {
            Limit.Outcome outcome = total == null ? null : limit.judge(total, seconds);
            Mark mark = outcome == null ? Mark.STALE : outcome.kept() ? Mark.PASSED : Mark.FAILED;
            Label title = Parts.marked(mark, limit.title());
            Label found = Parts.text(
                    outcome == null ? "" : Numbers.millis(outcome.found()),
                    "mono",
                    outcome != null && !outcome.kept() ? "failed" : "second");
            Button remove = Parts.button(
                    "×",
                    "Take this limit away",
                    () -> model.keep(p.withLimits(
                            p.limits().stream().filter(l -> !l.equals(limit)).toList())),
                    "tiny");
            HBox row = new HBox(6, title, Parts.spring(), found, remove);
            row.setAlignment(Pos.CENTER_LEFT);
            limits.getChildren().add(row);
        }
        Button add = Parts.button("Add a limit", "A bound that decides whether the run passes", () -> {});
        add.setOnAction(e -> limitMenu(p).show(add, Side.BOTTOM, 0, 2));
        limits.getChildren().add(add);
    }

    private ContextMenu limitMenu(LoadPlan p) {
        ContextMenu menu = new ContextMenu();
        for (Map.Entry<Limit.Measure, String> kind : List.of(
                Map.entry(Limit.Measure.P50, "p50 in ms"),
                Map.entry(Limit.Measure.P90, "p90 in ms"),
                Map.entry(Limit.Measure.P95, "p95 in ms"),
                Map.entry(Limit.Measure.P99, "p99 in ms"),
                Map.entry(Limit.Measure.MAX, "Longest in ms"),
                Map.entry(Limit.Measure.FAILED, "Failed in per cent"),
                Map.entry(Limit.Measure.RATE, "Done a second, at least"))) {
            MenuItem item = new MenuItem(kind.getValue() + "…");
            item.setOnAction(e -> askBound(p, kind.getKey(), kind.getValue()));
            menu.getItems().add(item);
        }
        return menu;
    }

    private void askBound(LoadPlan p, Limit.Measure measure, String words) {
        TextField field = new TextField("300");
        Runnable keep = () -> {
            try {
                double bound = Double.parseDouble(field.getText().strip());
                List<Limit> all = new ArrayList<>(p.limits());
                all.removeIf(l -> l.measure() == measure);
                all.add(new Limit(measure, bound));
                Overlay.close(this);
                model.keep(p.withLimits(all));
            } catch (NumberFormatException e) {
                desk.tell(Notice.bad("“" + field.getText() + "” is not a number."));
            }
        };
        field.setOnAction(e -> keep.run());
        Overlay.show(
                this,
                new VBox(10, Parts.text(words, "strong"), field, Parts.button("Keep", "Enter", keep, "primary")),
                320);
        field.selectAll();
    }

    private void showFailures() {
        LoadRun done = model.resultProperty().get();
        long all = done != null
                ? done.total().failed()
                : model.seconds().isEmpty()
                        ? 0
                        : model.seconds()
                                .get(model.seconds().size() - 1)
                                .total()
                                .failed();
        failuresHead
                .getChildren()
                .setAll(
                        Parts.text("Kept failures", "heading"),
                        Parts.text(
                                model.failures().size() + " of "
                                        + Numbers.whole(
                                                Math.max(all, model.failures().size())),
                                "second",
                                "table-text"));
    }
}
