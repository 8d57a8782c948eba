package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.StepFigures;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.DoubleConsumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What a load plan asks for: its shape, what it carries out, its limits and how they stand. */
final class LoadPlanPane extends VBox {
    private final LoadModel model;
    private final Desk desk;
    private final VBox plan = new VBox();
    private final VBox limits = new VBox(7);
    private final Label health = Parts.text("", "second", "table-text");

    LoadPlanPane(LoadModel model, Desk desk) {
        this.model = model;
        this.desk = desk;
        health.setWrapText(true);
        limits.setPadding(new Insets(10, 12, 10, 12));
        getStyleClass().add("panel");
        getChildren().addAll(plan, Parts.innerHead("Limits"), limits, Parts.spring(), Parts.foot(health));
        setMinWidth(264);
        setMaxWidth(264);
    }

    /** Shows the plan. */
    void show(LoadPlan p) {
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

    /** Shows how the limits stand, and what is to be said of the generator. */
    void showStanding(LoadPlan p, Standing now) {
        showLimits(p, now);
        health.getStyleClass().remove("fault");
        if (now.done() != null && !now.done().warnings().isEmpty()) {
            health.getStyleClass().add("fault");
            health.setText(String.join(" ", now.done().warnings()));
            return;
        }
        health.setText(now.last()
                .map(l -> "Generator: " + (l.cpu() >= 0 ? Math.round(l.cpu() * 100) + " % CPU, " : "")
                        + String.format(Locale.ROOT, "latest start %.1f ms late", l.latestStartMillis()))
                .orElse("The generator watches itself and says when its figures are not to be trusted."));
    }

    private void showLimits(LoadPlan p, Standing now) {
        StepFigures total = now.total();
        limits.getChildren().clear();
        double seconds = now.seconds();
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
        field.setId("ask-bound");
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
}
