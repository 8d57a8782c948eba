package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadComparison.Found;
import dev.mockbell.load.LoadComparison.Interval;
import dev.mockbell.load.LoadComparison.Line;
import dev.mockbell.load.LoadComparison.Verdict;
import dev.mockbell.load.LoadRun;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/**
 * Runs beside each other: how their times went, what differs from the first more than chance gives, and what is another in their
 * plans.
 */
final class ComparisonPane extends VBox {
    private static final double CHART = 190;
    private static final double FIGURE = 92;
    private static final double INTERVAL = 124;
    private static final double JUDGED = 128;

    private final LoadModel model;
    private final LoadComparison compared;
    private final Label sure = Parts.text("", "second", "table-text");

    ComparisonPane(LoadModel model, LoadComparison compared) {
        super(10);
        this.model = model;
        this.compared = compared;
        setId("load-comparison");
        CompareChart chart = new CompareChart(compared);
        chart.setMinHeight(CHART);
        chart.setMaxHeight(CHART);
        VBox top = Parts.panel(Parts.head("The 95th percentile, second by second"), runs(), chart);
        VBox bottom = Parts.panel(Parts.tall(table()), words(), Parts.foot(Parts.spring(), back()));
        VBox.setVgrow(bottom, Priority.ALWAYS);
        getChildren().addAll(top, bottom);
    }

    /** A line each run: its colour, which it is, and what can be done with it here. */
    private Node runs() {
        FlowPane runs = new FlowPane(10, 4);
        runs.getStyleClass().add("compared-runs");
        for (int i = 0; i < compared.runs().size(); i++) {
            LoadRun run = compared.runs().get(i);
            Node sample = Series.values()[i].sample();
            Button named = Parts.button(
                    title(run),
                    i == 0 ? "The others are held against this one" : "Hold the others against this one",
                    () -> model.holdAgainst(run),
                    i == 0 ? "strong" : "second",
                    "quiet",
                    "table-text");
            named.setGraphic(sample);
            named.setId("load-compared-run-" + i);
            Button out = Parts.button("×", "Leave this run out", () -> model.leaveOut(run), "quiet");
            out.setAccessibleText("Leave the run of " + Moments.toTheSecond(run.started()) + " out");
            HBox chip = new HBox(named, out);
            chip.setAccessibleRole(AccessibleRole.NODE);
            chip.getStyleClass().add("compared-run");
            runs.getChildren().add(chip);
        }
        return runs;
    }

    private Grid<Line> table() {
        Grid<Line> grid = new Grid<>(26);
        grid.setId("load-compared");
        grid.growing("Of", l -> Parts.text(l.of(), "table-text"))
                .column("", 96, l -> Parts.text(l.what() + ", " + l.unit(), "mono"));
        boolean two = compared.runs().size() == 2;
        for (int i = 0; i < compared.runs().size(); i++) {
            int run = i;
            String head = Moments.toTheSecond(compared.runs().get(i).started());
            if (two || i == 0) {
                grid.number(head, FIGURE, l -> Parts.text(value(l, run), "mono"));
            } else {
                grid.column(head, JUDGED, l -> judged(l, run));
            }
            if (two) {
                grid.column("95 % sure of", INTERVAL, l -> Parts.text(interval(l, run), "mono", "second"));
            }
        }
        if (two) {
            grid.column("", 176, l -> verdict(l.found().get(1).verdict(), l.words(1)));
        } else {
            grid.list()
                    .getSelectionModel()
                    .selectedItemProperty()
                    .addListener((o, was, line) -> sure.setText(line == null ? "" : intervals(line)));
        }
        grid.items().setAll(compared.lines());
        grid.setPlaceholder(Parts.empty("They have no step in common."));
        if (!two && !compared.lines().isEmpty()) {
            grid.list().getSelectionModel().select(0);
        }
        return grid;
    }

    /** How sure the figures of the chosen line are, where the table has no room for it; and how the plans differ. */
    private VBox words() {
        VBox box = new VBox(2);
        box.getStyleClass().add("compared-words");
        sure.setId("load-compared-sure");
        if (compared.runs().size() > 2) {
            sure.setWrapText(true);
            box.getChildren().add(sure);
        }
        List<String> differing = new ArrayList<>();
        for (LoadRun other : compared.others()) {
            List<String> found = compared.base().plan().differences(other.plan());
            if (!found.isEmpty()) {
                String whose = compared.runs().size() == 2 ? "" : " of " + Moments.toTheSecond(other.started());
                differing.add("The plan" + whose + " differs. " + String.join("; ", found));
            }
        }
        Label plan = Parts.text(
                differing.isEmpty() ? "The plan is the same." : String.join("\n", differing), "second", "table-text");
        plan.setId("load-compared-plan");
        plan.setWrapText(true);
        plan.setMinHeight(Region.USE_PREF_SIZE);
        box.getChildren().add(plan);
        return box;
    }

    private Button back() {
        return Parts.button("Compare no more", "Back to the run (its figures stay)", model::compareNoMore);
    }

    private static String title(LoadRun run) {
        return Moments.toTheSecond(run.started()) + ", "
                + Numbers.whole(run.total().done()) + " done";
    }

    private static String value(Line line, int run) {
        return line.found()
                .get(run)
                .interval()
                .map(i -> number(line, i.value()))
                .orElse("–");
    }

    private static String number(Line line, double value) {
        return line.unit().equals("ms") ? Numbers.millis(value) : String.format(Locale.ROOT, "%.2f", value);
    }

    private static String interval(Line line, int run) {
        return line.found().get(run).interval().map(ComparisonPane::interval).orElse("–");
    }

    private static String interval(Interval i) {
        return String.format(Locale.ROOT, "%.2f – %.2f", i.low(), i.high());
    }

    private String intervals(Line line) {
        List<String> each = new ArrayList<>();
        for (int i = 0; i < compared.runs().size(); i++) {
            each.add(Moments.toTheSecond(compared.runs().get(i).started()) + "  " + interval(line, i));
        }
        return line.of() + ", " + line.what() + ", 95 % sure of (" + line.unit() + "):  " + String.join("   ", each);
    }

    private static Label judged(Line line, int run) {
        Found found = line.found().get(run);
        boolean told = found.verdict() == Verdict.WORSE || found.verdict() == Verdict.BETTER;
        Label label = verdict(found.verdict(), value(line, run) + (told ? "  " + line.words(run) : ""));
        label.setAccessibleText(value(line, run) + ", " + line.words(run));
        Parts.tip(label, line.words(run));
        return label;
    }

    private static Label verdict(Verdict verdict, String words) {
        Mark mark = switch (verdict) {
            case WORSE -> Mark.FAILED;
            case BETTER -> Mark.PASSED;
            case BASE, ALIKE -> Mark.NOT_RUN;
            case UNKNOWN -> Mark.STALE;
        };
        return Parts.marked(mark, words, "table-text");
    }
}
