package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.Health;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Share;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.DoubleConsumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What a load plan asks for: its curve, its mix, its pauses, its limits and how they stand. */
final class LoadPlanPane extends VBox {
    private static final double WIDTH = 264;
    private static final double CURVE = 92;

    private final LoadModel model;
    private final VBox head = new VBox();
    private final CurveEditor curve;
    private final Label words = Parts.text("", "second", "table-text");
    private final VBox level = new VBox(8);
    private final VBox plan = new VBox();
    private static final String FOUND = "limit-found";
    private final VBox limits = new VBox(7);
    private final Label health = Parts.text("", "second", "table-text");
    private String told = "";

    LoadPlanPane(LoadModel model) {
        this.model = model;
        curve = new CurveEditor(shape -> change(p -> p.with(shape)));
        curve.setMinHeight(CURVE);
        curve.setMaxHeight(CURVE);
        words.setWrapText(true);
        words.setId("load-words");
        words.setMinHeight(USE_PREF_SIZE);
        health.setWrapText(true);
        health.setId("load-health");
        Parts.tip(health, () -> told);
        level.setPadding(new Insets(2, 12, 8, 12));
        limits.setPadding(new Insets(8, 12, 10, 12));
        getStyleClass().add("panel");
        VBox all = new VBox(head, curve, level, plan, Parts.innerHead("Limits"), limits);
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        getChildren().addAll(Parts.tall(scroll), Parts.foot(health));
        setMinWidth(WIDTH);
        setMaxWidth(WIDTH);
    }

    private void change(UnaryOperator<LoadPlan> by) {
        model.keep(by.apply(model.planProperty().get()));
    }

    /** Shows the plan. */
    void show(LoadPlan p) {
        // a run comes to another phase while somebody types in it
        if (Parts.isNews(plan, List.of(p, model.choices()))) {
            fill(p);
        }
    }

    private void fill(LoadPlan p) {
        HBox kinds = Parts.segments(
                List.of(LoadShape.Kind.values()),
                LoadShape.Kind::title,
                p.shape().kind(),
                k -> change(x -> x.with(x.shape().with(k))));
        head.getChildren().setAll(Parts.head("Shape", Parts.spring(), kinds));
        curve.show(p.shape());
        words.setText(p.shape().title());
        showLevel(p.shape());
        plan.getChildren().setAll(Parts.innerHead("Mix"), mix(p), Parts.innerHead("Between steps"), between(p));
    }

    /** One level has fields of its own; a curve has its points as a table. */
    private void showLevel(LoadShape shape) {
        level.getChildren().clear();
        if (shape.isConstant()) {
            boolean users = shape.kind() == LoadShape.Kind.USERS;
            level.getChildren()
                    .addAll(
                            number(
                                    users ? "Users" : "A second",
                                    users ? "load-users" : "load-rate",
                                    shape.first(),
                                    v -> change(p ->
                                            p.with(p.shape().withLevel(users ? Math.max(1, Math.rint(v)) : v)))),
                            number(
                                    "Seconds",
                                    "load-seconds",
                                    shape.seconds(),
                                    v -> change(p -> p.with(p.shape().withSeconds(Math.max(0.1, v))))));
        }
        Button points = Form.link(
                "Points…",
                "Type the curve: a line for each point, seconds and level",
                () -> LoadForms.points(this, model.planProperty().get().shape(), made -> change(p -> p.with(made))));
        points.setId("load-points");
        HBox.setHgrow(words, Priority.ALWAYS);
        HBox row = new HBox(4, words, points);
        row.setAlignment(Pos.TOP_LEFT);
        level.getChildren().add(0, row);
    }

    private VBox mix(LoadPlan p) {
        VBox box = new VBox(4);
        box.setPadding(new Insets(6, 12, 8, 12));
        double sum = p.mix().stream().mapToDouble(Share::weight).sum();
        for (int i = 0; i < p.mix().size(); i++) {
            int index = i;
            Share share = p.mix().get(i);
            Label name = Parts.text(model.title(share), "table-text");
            name.setMinWidth(0);
            TextField weight = Form.field("load-weight-" + i, Numbers.plain(share.weight()), "1");
            weight.setMaxWidth(52);
            weight.setAlignment(Pos.CENTER_RIGHT);
            Parts.tip(weight, "Its weight in the mix: " + Math.round(100 * share.weight() / sum) + " in 100");
            Form.onEnd(weight, () -> weight(index, weight.getText()));
            HBox row = new HBox(6, name, Parts.spring(), weight);
            row.setAlignment(Pos.CENTER_LEFT);
            if (p.mix().size() > 1) {
                row.getChildren()
                        .add(Parts.button(
                                "×",
                                "Take it out of the mix",
                                () -> change(x -> x.withMix(without(x.mix(), index))),
                                "tiny"));
            }
            box.getChildren().add(row);
        }
        Button add = Form.link("Add to the mix…", "A suite, or a case alone", () -> {});
        add.setId("load-mix-add");
        add.setOnAction(e -> choices(p).show(add, Side.BOTTOM, 0, 2));
        TextField endpoint = Form.field("load-endpoint", p.endpoint(), "where the environment says");
        Parts.tip(endpoint, "Where all of it is sent; nothing for where the environment or the contract says");
        Form.onEnd(endpoint, () -> change(x -> x.withEndpoint(endpoint.getText().strip())));
        box.getChildren().addAll(new HBox(add), endpoint);
        return box;
    }

    private static List<Share> without(List<Share> mix, int index) {
        List<Share> left = new ArrayList<>(mix);
        left.remove(index);
        return left;
    }

    private void weight(int index, String typed) {
        try {
            double weight = LoadForms.number(typed, "A weight");
            if (weight == 0) {
                throw Problem.input(
                        "What has the weight 0 would never come",
                        typed,
                        "Give more than 0, or take it out of the mix.");
            }
            change(p -> {
                List<Share> mix = new ArrayList<>(p.mix());
                mix.set(index, mix.get(index).withWeight(weight));
                return p.withMix(mix);
            });
        } catch (Problem problem) {
            model.tell(problem);
            // what was there comes back
            fill(model.planProperty().get());
        }
    }

    private ContextMenu choices(LoadPlan p) {
        ContextMenu menu = new ContextMenu();
        for (Map.Entry<Share, String> choice : model.choices().entrySet()) {
            if (p.mix().stream().anyMatch(s -> s.withWeight(1).equals(choice.getKey()))) {
                continue;
            }
            MenuItem item = new MenuItem(choice.getKey().kind().title() + ": " + choice.getValue());
            item.setMnemonicParsing(false);
            item.setOnAction(e -> change(x -> {
                List<Share> mix = new ArrayList<>(x.mix());
                mix.add(choice.getKey());
                return x.withMix(mix);
            }));
            menu.getItems().add(item);
        }
        if (menu.getItems().isEmpty()) {
            MenuItem none = new MenuItem("All suites and cases are in the mix");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        return menu;
    }

    private VBox between(LoadPlan p) {
        Label pauses = Parts.text("Pause: " + p.pauses().title(), "table-text");
        pauses.setId("load-pauses");
        pauses.setMinWidth(0);
        Button change = Form.link(
                "Change…",
                "How long is rested after each step",
                () -> LoadForms.pauses(this, model.planProperty().get(), made -> change(x -> made)));
        change.setId("load-pauses-change");
        Button more = Form.link(
                "Rows, connections, warm-up…",
                "Where variables come from, how connections are used, what counts.\nNow: " + LoadForms.words(p),
                () -> LoadForms.conduct(this, model.planProperty().get(), made -> change(x -> made)));
        more.setId("load-conduct");
        HBox first = new HBox(6, pauses, Parts.spring(), change);
        first.setAlignment(Pos.CENTER_LEFT);
        VBox box = new VBox(2, first, new HBox(more));
        box.setPadding(new Insets(6, 12, 8, 12));
        return box;
    }

    private HBox number(String name, String id, double value, DoubleConsumer keep) {
        TextField field = Form.field(id, Numbers.plain(value), "");
        field.setPrefWidth(90);
        field.setAccessibleText(name);
        field.setAlignment(Pos.CENTER_RIGHT);
        Form.onEnd(field, () -> {
            try {
                keep.accept(LoadForms.number(field.getText(), name));
            } catch (Problem problem) {
                model.tell(problem);
                field.setText(Numbers.plain(value));
            }
        });
        HBox box = new HBox(8, Parts.text(name), Parts.spring(), field);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    /** Shows how the limits stand, and what is to be said of the generator. */
    void showStanding(LoadPlan p, Standing now) {
        showLimits(p, now);
        curve.mark(model.runningProperty().get() ? now.seconds() : -1);
        health.getStyleClass().remove("fault");
        if (now.done() != null && !now.done().warnings().isEmpty()) {
            health.getStyleClass().add("fault");
            tell(now.done().warnings());
            return;
        }
        tell(List.of(now.last()
                .map(l -> words(l.health()))
                .orElse("The generator watches itself and says when its figures are not to be trusted.")));
    }

    /** There is room for two lines; all of it is there for who points at it. */
    private void tell(List<String> words) {
        health.setText(words.get(0));
        told = String.join("\n", words);
    }

    private static String words(Health h) {
        return "Generator: " + (h.cpu() >= 0 ? Math.round(h.cpu() * 100) + " % CPU, " : "")
                + String.format(
                        Locale.ROOT,
                        "latest start %.1f ms late, loops %.1f ms, collector %d ms, %d connections",
                        h.latestStartMillis(),
                        h.loopDelayMillis(),
                        h.collectorMillis(),
                        h.connections());
    }

    /** Rows and buttons are made for the limits that there are; how they stand changes each second. */
    private void showLimits(LoadPlan p, Standing now) {
        if (Parts.isNews(limits, p.limits())) {
            fillLimits(p);
        }
        for (int i = 0; i < p.limits().size(); i++) {
            Limit limit = p.limits().get(i);
            HBox row = (HBox) limits.getChildren().get(i);
            Limit.Outcome outcome = now.limits().stream()
                    .filter(o -> o.limit().equals(limit))
                    .findFirst()
                    .orElse(null);
            Parts.mark(
                    (Label) row.getChildren().get(0),
                    outcome == null ? Mark.STALE : outcome.kept() ? Mark.PASSED : Mark.FAILED);
            Label found = (Label) row.lookup("." + FOUND);
            found.setText(outcome == null ? "" : Numbers.millis(outcome.found()));
            Parts.classed(found, "failed", outcome != null && !outcome.kept());
            Parts.classed(found, "second", outcome == null || outcome.kept());
        }
    }

    private void fillLimits(LoadPlan p) {
        limits.getChildren().clear();
        for (Limit limit : p.limits()) {
            limits.getChildren().add(row(limit));
        }
        Button add = Parts.button("Add a limit", "A bound that decides whether the run passes", () -> {});
        add.setId("load-limit-add");
        add.setOnAction(e -> limitMenu(p).show(add, Side.BOTTOM, 0, 2));
        limits.getChildren().add(add);
    }

    private Node row(Limit limit) {
        Label title = Parts.marked(Mark.STALE, limit.title(), "table-text");
        title.setMinWidth(0);
        Parts.tip(
                title,
                limit.title()
                        + (limit.stops()
                                ? ". The run ends when it is broken for more than " + limit.tolerance() + " s."
                                : "."));
        Label found = Parts.text("", "mono", FOUND);
        found.setMinWidth(USE_PREF_SIZE);
        Button remove = Parts.button(
                "×",
                "Take this limit away",
                () -> change(x -> x.withLimits(
                        x.limits().stream().filter(l -> !l.equals(limit)).toList())),
                "tiny");
        HBox row = new HBox(6, title, Parts.spring(), found, remove);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private ContextMenu limitMenu(LoadPlan p) {
        ContextMenu menu = new ContextMenu();
        for (Limit.Measure measure : Limit.Measure.values()) {
            MenuItem item = new MenuItem(measure.title() + "…");
            item.setOnAction(e -> LoadForms.limit(
                    this,
                    model,
                    measure,
                    made -> change(x -> {
                        List<Limit> all = new ArrayList<>(x.limits());
                        all.removeIf(l -> l.measure() == made.measure() && l.of().equals(made.of()));
                        all.add(made);
                        return x.withLimits(all);
                    })));
            menu.getItems().add(item);
        }
        return menu;
    }
}
