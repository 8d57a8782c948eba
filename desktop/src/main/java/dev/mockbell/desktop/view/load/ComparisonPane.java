package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadComparison.Interval;
import dev.mockbell.load.LoadComparison.Line;
import dev.mockbell.load.LoadRun;
import java.util.Locale;
import javafx.scene.control.Label;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Two runs beside each other: how their times went, what differs more than chance gives, and what is another in the plan. */
final class ComparisonPane extends VBox {
    private static final double CHART = 190;

    ComparisonPane(LoadComparison two, Runnable close) {
        super(10);
        setId("load-comparison");
        CompareChart chart = new CompareChart(two);
        chart.setMinHeight(CHART);
        chart.setMaxHeight(CHART);
        VBox top = Parts.panel(
                Parts.head(
                        "The 95th percentile, second by second",
                        Parts.text("before " + title(two.before()), "second", "table-text"),
                        Parts.spring(),
                        Parts.text("now " + title(two.now()), "strong", "table-text")),
                chart);
        Grid<Line> grid = new Grid<>(26);
        grid.growing("Of", l -> Parts.text(l.of(), "table-text"))
                .column("", 54, l -> Parts.text(l.what(), "mono"))
                .number(
                        "Before, ms",
                        92,
                        l -> Parts.text(Numbers.millis(l.before().value()), "mono"))
                .column("95 % sure of", 124, l -> interval(l.before()))
                .number("Now, ms", 92, l -> Parts.text(Numbers.millis(l.now().value()), "mono"))
                .column("95 % sure of", 124, l -> interval(l.now()))
                .column("", 176, ComparisonPane::verdict);
        grid.items().setAll(two.lines());
        grid.setId("load-compared");
        grid.setPlaceholder(Parts.empty("The two have no step in common."));
        Label plan = Parts.text(
                two.plan().isEmpty() ? "The plan is the same." : "The plan differs. " + String.join("; ", two.plan()),
                "second",
                "table-text");
        plan.setWrapText(true);
        VBox bottom = Parts.panel(
                Parts.tall(grid),
                Parts.foot(
                        Parts.wide(plan),
                        Parts.button("Compare no more", "Back to the run (its figures stay)", close)));
        VBox.setVgrow(bottom, Priority.ALWAYS);
        getChildren().addAll(top, bottom);
    }

    private static String title(LoadRun run) {
        return Numbers.clock(run.started()) + ", " + Numbers.whole(run.total().done()) + " done";
    }

    private static Label interval(Interval i) {
        return Parts.text(String.format(Locale.ROOT, "%.2f – %.2f", i.low(), i.high()), "mono", "second");
    }

    private static Label verdict(Line line) {
        return switch (line.verdict()) {
            case SLOWER -> Parts.marked(Mark.FAILED, "slower", "table-text");
            case FASTER -> Parts.marked(Mark.PASSED, "faster", "table-text");
            case ALIKE -> Parts.marked(Mark.NOT_RUN, "no more than chance", "table-text");
            case UNKNOWN -> Parts.marked(Mark.STALE, "too few to say", "table-text");
        };
    }
}
