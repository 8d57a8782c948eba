package dev.mockbell.desktop.view.contract;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Effect;
import dev.mockbell.change.Half;
import dev.mockbell.change.Side;
import dev.mockbell.desktop.model.ChangesModel;
import dev.mockbell.desktop.model.ChangesModel.Compared;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.DocumentLines;
import dev.mockbell.report.ChangesReport;
import dev.mockbell.upkeep.Upkeep;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** A contract held against its source: what changed, whom it breaks, what it touches, and taking it over. */
final class ChangesPane extends VBox {
    private static final String DOCUMENTS = "Documents";

    private final ChangesModel model;
    private final Compared compared;
    private final Grid<Row> grid = new Grid<>(26);
    private final StackPane left = new StackPane();
    private final ChangeDetail detail;
    private final HBox counts = new HBox(6);

    /** A row of the list. */
    private sealed interface Row {
        record Heading(String operation, boolean isNew) implements Row {}

        record Item(ContractChange change) implements Row {}
    }

    ChangesPane(ChangesModel model) {
        this.model = model;
        this.compared = model.shownProperty().get();
        this.detail = new ChangeDetail(model, compared.upkeep());
        setId("changes");
        getStyleClass().add("station");
        columns();
        fill();
        VBox list = Parts.panel(head(), left);
        VBox.setVgrow(left, Priority.ALWAYS);
        list.setMinWidth(0);
        HBox.setHgrow(list, Priority.ALWAYS);
        left.getChildren().setAll(changes().isEmpty() ? nothing() : grid);
        VBox right = Parts.panel(Parts.tall(detail), foot());
        right.setMinWidth(530);
        right.setMaxWidth(530);
        HBox panels = new HBox(10, list, right);
        VBox.setVgrow(panels, Priority.ALWAYS);
        getChildren().addAll(top(), panels);
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now instanceof Row.Item item) {
                detail.show(item.change());
            }
        });
        step(1);
        if (changes().isEmpty()) {
            detail.showNothing();
        }
        // before the list, which takes it for the end of an edit
        addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                model.leave();
                e.consume();
            }
        });
    }

    /** Gives the list the keyboard. */
    void focus() {
        grid.list().requestFocus();
        if (changes().isEmpty()) {
            setFocusTraversable(true);
            setAccessibleRole(AccessibleRole.TEXT);
            setAccessibleText("What changed");
            requestFocus();
        }
    }

    private ContractChanges changes() {
        return compared.upkeep().changes();
    }

    private HBox top() {
        String when = "kept " + Moments.toTheMinute(compared.upkeep().kept().fetched()) + "  ↔  "
                + (compared.ofSource() ? "its source now, " : "another, read ") + Moments.toTheMinute(compared.when());
        Label words = Parts.text(when, "second");
        words.setMinWidth(0);
        Parts.tip(words, changes().is().source());
        Button report = Parts.button("Write a report", "A page to read, with all that is shown here", this::report);
        report.setId("changes-report");
        Button leave = Parts.button("Leave as it is", "The kept contract stays (Esc)", model::leave);
        leave.setId("changes-leave");
        Button take = Parts.button("Take it over", "Keep it as it is now (Ctrl+Enter)", model::takeOver, "primary");
        take.setId("changes-take");
        take.setDisable(changes().documents().isEmpty());
        showCounts();
        HBox top = new HBox(
                Parts.text(compared.upkeep().kept().title(), "title"),
                words,
                counts,
                Parts.spring(),
                report,
                leave,
                take);
        top.getStyleClass().add("station-head");
        return top;
    }

    private void showCounts() {
        Side side = model.sideProperty().get();
        long breaks = changes().count(side, Effect.BREAKS);
        long may = changes().count(side, Effect.MAY_BREAK);
        long fine = changes().changes().size() - breaks - may;
        String whom = side == Side.CALLERS ? "callers" : "the service";
        counts.setAlignment(Pos.CENTER_LEFT);
        counts.getChildren().clear();
        if (breaks > 0) {
            counts.getChildren()
                    .add(Parts.text(breaks + (breaks == 1 ? " breaks " : " break ") + whom, "tag", "failed"));
        }
        if (may > 0) {
            counts.getChildren().add(Parts.text(may + " may", "tag", "fault"));
        }
        if (fine > 0) {
            counts.getChildren().add(Parts.text(fine + (fine == 1 ? " does not" : " do not"), "tag", "fine"));
        }
        counts.getChildren().forEach(n -> ((Label) n).setMinWidth(USE_PREF_SIZE));
    }

    private HBox head() {
        List<String> views = List.of(Side.CALLERS.title(), Side.SERVICE.title(), DOCUMENTS);
        HBox segments = Parts.segments(views, v -> v, model.sideProperty().get().title(), this::choose);
        return Parts.head("What changed", Parts.spring(), segments);
    }

    private void choose(String view) {
        if (DOCUMENTS.equals(view)) {
            left.getChildren().setAll(new DocumentLines(changes().documents()));
            return;
        }
        model.sideProperty().set(Side.SERVICE.title().equals(view) ? Side.SERVICE : Side.CALLERS);
        left.getChildren().setAll(changes().isEmpty() ? nothing() : grid);
        grid.refresh();
        showCounts();
        detail.refresh();
    }

    private Node nothing() {
        return Parts.empty(ChangesReport.summary(changes(), Side.CALLERS));
    }

    private void columns() {
        grid.column("Where", 196, r -> where(((Row.Item) r).change()))
                .growing("Kept", r -> before(((Row.Item) r).change()))
                .growing("Now", r -> after(((Row.Item) r).change()))
                .column("Touches", 128, r -> touches(((Row.Item) r).change()))
                .grouped(r -> r instanceof Row.Heading, r -> heading((Row.Heading) r));
        grid.setId("changes-list");
    }

    private void fill() {
        List<Row> rows = new ArrayList<>();
        for (Map.Entry<String, List<ContractChange>> group :
                changes().byOperation().entrySet()) {
            boolean fresh = group.getValue().stream()
                    .anyMatch(c -> c.half() == Half.OPERATION && c.kind() == ContractChange.Kind.ADDED);
            rows.add(new Row.Heading(group.getKey().isEmpty() ? "Endpoints" : group.getKey(), fresh));
            group.getValue().forEach(c -> rows.add(new Row.Item(c)));
        }
        grid.items().setAll(rows);
    }

    private static Node heading(Row.Heading heading) {
        HBox box = new HBox(6, Parts.text(heading.operation(), "strong", "table-text", "second"));
        if (heading.isNew()) {
            box.getChildren().add(Parts.text("new", "tag", "fine"));
        }
        return box;
    }

    static Mark mark(Effect effect) {
        return switch (effect) {
            case BREAKS -> Mark.FAILED;
            case MAY_BREAK -> Mark.FAULT;
            case HOLDS -> Mark.PASSED;
            case TO_KNOW -> Mark.NOT_RUN;
        };
    }

    private Node where(ContractChange change) {
        Label label = Parts.marked(mark(change.on(model.sideProperty().get())), change.where(), "table-text");
        label.setMinWidth(0);
        Parts.tip(
                label,
                () -> change.where() + ": "
                        + change.on(model.sideProperty().get()).title());
        return label;
    }

    private static Node before(ContractChange change) {
        return cell(change.before(), ContractChange.NOT_THERE.equals(change.before()) ? "third" : "second");
    }

    private static Node after(ContractChange change) {
        boolean none = ContractChange.NOT_THERE.equals(change.after());
        return cell(change.after(), none ? "third" : "strong");
    }

    private static Label cell(String words, String look) {
        Label label = Parts.text(words, "table-text", look);
        label.setMinWidth(0);
        Parts.tip(label, words);
        return label;
    }

    private Node touches(ContractChange change) {
        Upkeep upkeep = compared.upkeep();
        return cell(upkeep.words(change), upkeep.by(change).isEmpty() ? "third" : "second");
    }

    private HBox foot() {
        Label words = Parts.text("Can be undone; the kept one is set aside", "third");
        words.setMinWidth(0);
        Button previous = Parts.button("Previous", "The change before (Up)", () -> step(-1));
        Button next = Parts.button("Next", "The change after (Down)", () -> step(1));
        next.setId("changes-next");
        return Parts.foot(words, Parts.spring(), previous, next);
    }

    /** Goes to the next change, over headings. */
    private void step(int by) {
        int at = grid.list().getSelectionModel().getSelectedIndex() + by;
        while (at >= 0 && at < grid.items().size() && grid.items().get(at) instanceof Row.Heading) {
            at += by;
        }
        if (at >= 0 && at < grid.items().size()) {
            grid.list().getSelectionModel().select(at);
            grid.list().scrollTo(Math.max(0, at - 4));
        }
    }

    private void report() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Write what changed");
        chooser.setInitialFileName("changes.html");
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            model.report(file.toPath());
        }
    }
}
