package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.WorkersModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.geometry.Insets;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What a run gave: the rate, where the answers fell, the figures of each step, the failures that were kept. */
final class LoadFigures extends VBox {
    private static final double MIDDLE = 126;

    private final LoadModel model;
    private final WorkersModel workers;
    private final WorkersPane crew = new WorkersPane();
    private boolean showsCrew = true;
    private final RateChart rates = new RateChart();
    private final ResponseMap map = new ResponseMap();
    private final HBox ratesHead = Parts.head("Arrivals and answers a second");
    private final HBox mapHead = Parts.head("Where the answers fell");
    private final Grid<StepFigures> steps = new Grid<>(26);
    private final Grid<Exchange> failures = new Grid<>(25);
    private final Label spent = Parts.text("", "second", "table-text");
    private final Label counts = Parts.text("", "strong", "table-text", "second");
    private final Label percentiles = Parts.text("", "strong", "table-text", "second");
    private final VBox doubts = new VBox(2);
    private final HBox failuresHead = Parts.head("Kept failures");

    /** @param chosen hears of a kept failure that is to be looked at */
    LoadFigures(LoadModel model, WorkersModel workers, Consumer<Exchange> chosen) {
        super(10);
        this.model = model;
        this.workers = workers;
        steps.growing("Step", LoadFigures::name)
                .again((label, s) -> ((Label) label).getText().equals(s.name()) && s.kind() != StepFigures.Kind.GROUP);
        figure("Done", 64, s -> Numbers.whole(s.done()));
        figure("/s", 50, s -> Numbers.millis(s.perSecond()));
        figure("Min", 50, s -> time(s, s.min()));
        figure("p50", 50, s -> time(s, s.p50()));
        figure("p90", 50, s -> time(s, s.p90()));
        figure("p95", 50, s -> time(s, s.p95()));
        figure("p99", 50, s -> time(s, s.p99()));
        figure("Max", 56, s -> time(s, s.max()));
        steps.number("Failed", 54, s -> failed(new Label(), s)).again((label, s) -> failed((Label) label, s) == label);
        steps.setId("load-steps");
        steps.setPlaceholder(Parts.empty("The figures of each step appear here."));
        failures.column("Time", 84, e -> Parts.text(Moments.toTheSecond(e.started()), "mono", "third"))
                .growing("Failed because", e -> {
                    Label label = Parts.text(
                            e.note(), "table-text", e.outcome() == Exchange.Outcome.FAULT ? "fault" : "failed");
                    label.setMinWidth(0);
                    return label;
                });
        failures.setId("load-failures");
        failures.headless();
        failures.setPlaceholder(Parts.empty("None so far."));
        failures.setItems(model.failures());
        failures.list().setOnMouseClicked(e -> {
            Exchange failure = failures.list().getSelectionModel().getSelectedItem();
            if (failure != null) {
                chosen.accept(failure);
            }
        });
        counts.setId("load-counts");
        ratesHead.getChildren().addAll(Parts.spring(), counts);
        VBox top = Parts.panel(ratesHead, rates);
        rates.setMinHeight(112);
        rates.setMaxHeight(112);
        VBox middle = Parts.panel(mapHead, map, crew);
        map.setMinHeight(MIDDLE);
        map.setMaxHeight(MIDDLE);
        crew.setMinHeight(MIDDLE);
        crew.setMaxHeight(MIDDLE);
        spent.setId("load-spent");
        spent.setMinWidth(0);
        VBox table = Parts.panel(Parts.tall(steps), Parts.foot(spent));
        HBox.setHgrow(table, Priority.ALWAYS);
        VBox kept = Parts.panel(failuresHead, Parts.tall(failures));
        kept.setMinWidth(270);
        kept.setMaxWidth(270);
        HBox bottom = new HBox(10, table, kept);
        VBox.setVgrow(bottom, Priority.ALWAYS);
        doubts.setId("load-doubts");
        doubts.getStyleClass().addAll("panel", "hold-band");
        doubts.setPadding(new Insets(6, 12, 6, 12));
        Parts.shown(doubts, false);
        getChildren().addAll(doubts, top, middle, bottom);
    }

    private static Label name(StepFigures s) {
        Label label = Parts.text(s.name(), "table-text", s.kind() == StepFigures.Kind.STEP ? "table-text" : "strong");
        label.setMinWidth(0);
        if (s.kind() == StepFigures.Kind.GROUP) {
            Parts.tip(label, "A group, timed from its first step to its last");
        }
        return label;
    }

    /** Adds a column; it comes each second, so that its labels are used again. */
    private void figure(String title, double width, Function<StepFigures, String> words) {
        steps.number(title, width, s -> Parts.text(words.apply(s), "mono")).again((label, s) -> {
            ((Label) label).setText(words.apply(s));
            return true;
        });
    }

    private static Label failed(Label label, StepFigures step) {
        label.setText(Numbers.whole(step.failed()));
        Parts.classed(label, "mono", true);
        Parts.classed(label, "failed", step.failed() > 0);
        return label;
    }

    /** A response time of a step; nothing where there was none to measure. */
    private static String time(StepFigures step, double millis) {
        return step.done() == 0 ? "–" : Numbers.millis(millis);
    }

    /** Shows the run as it stands. */
    void show(LoadPlan p) {
        Standing now = Standing.of(model);
        List<LoadSecond> seconds = model.seconds();
        rates.show(seconds, p);
        Double bound = p.limits().stream()
                .filter(l -> l.measure() == Limit.Measure.P95 && l.of().isEmpty())
                .map(Limit::bound)
                .findFirst()
                .orElse(null);
        map.show(seconds, (int) Math.ceil(p.seconds()), bound);
        showMiddle(now);
        showDoubts(now);
        showSpent(now);
        StepFigures total = now.total();
        Parts.shown(counts, total != null);
        Parts.shown(percentiles, total != null);
        if (total != null) {
            counts.setText(Numbers.millis(total.perSecond()) + "/s   " + Numbers.whole(total.done()) + " done   "
                    + Numbers.whole(total.failed()) + " failed"
                    + now.last()
                            .filter(l -> now.done() == null)
                            .map(l -> "   " + l.inFlight() + " in flight")
                            .orElse(""));
            percentiles.setText(String.format(
                    Locale.ROOT,
                    "p50 %s   p95 %s   p99 %s ms",
                    Numbers.millis(total.p50()),
                    Numbers.millis(total.p95()),
                    Numbers.millis(total.p99())));
            List<StepFigures> rows = new ArrayList<>(now.steps());
            rows.add(total);
            steps.items().setAll(rows);
        } else {
            steps.items().clear();
        }
    }

    /** The map of answers, or the workers where several make the load. */
    private void showMiddle(Standing now) {
        boolean several = workers.openProperty().get()
                || now.done() != null && !now.done().workers().isEmpty();
        boolean rows = several && showsCrew;
        Parts.shown(map, !rows);
        Parts.shown(crew, rows);
        crew.show(model, workers);
        if (!Parts.isNews(mapHead, List.of(several, rows))) {
            return;
        }
        mapHead.getChildren().clear();
        if (several) {
            HBox seen = Parts.segments(
                    List.of(true, false), c -> c ? "Workers" : "Where the answers fell", rows, chosen -> {
                        showsCrew = chosen;
                        show(model.planProperty().get());
                    });
            seen.setId("load-middle");
            mapHead.getChildren().add(seen);
        } else {
            mapHead.getChildren().add(Parts.text("Where the answers fell", "heading"));
        }
        mapHead.getChildren()
                .addAll(
                        Parts.text(
                                rows
                                        ? "clock, p99 and loop in milliseconds"
                                        : "time across, response time up, darker is more",
                                "second",
                                "table-text"),
                        Parts.spring(),
                        percentiles);
    }

    /** Shows the workers as they are now. */
    void showWorkers() {
        crew.show(model, workers);
    }

    /** What makes the figures doubtful stands above them. */
    private void showDoubts(Standing now) {
        doubts.getChildren().clear();
        if (now.done() != null) {
            for (String warning : now.done().warnings()) {
                Label label = Parts.marked(Mark.FAULT, warning, "table-text");
                label.setWrapText(true);
                label.setMinHeight(USE_PREF_SIZE);
                doubts.getChildren().add(label);
            }
        }
        Parts.shown(doubts, !doubts.getChildren().isEmpty());
    }

    /** Where the time went. */
    private void showSpent(Standing now) {
        if (now.done() == null) {
            spent.setText("Where the time went is told when the run is over.");
            return;
        }
        String words = now.done().spent().stream()
                .filter(s -> s.count() > 0)
                .map(s -> s.stage().title() + " " + Numbers.millis(s.mean()) + " (p99 " + Numbers.millis(s.p99()) + ")")
                .collect(Collectors.joining(" · "));
        spent.setText(words.isEmpty() ? "Nothing was sent." : "On average, in ms: " + words);
        Parts.tip(spent, words.replace(" · ", "\n"));
    }

    /** Shows the failures that were kept. */
    void showFailures() {
        long all = Standing.of(model).failed();
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
