package dev.mockbell.desktop.view.check;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.KnownPaths;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.KnownValues.Column;
import dev.mockbell.suite.KnownValues.Use;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.xml.TextFile;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.collections.FXCollections;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The table of known values of a step: what is put in, what must come, and what came in the run that is looked at. */
final class KnownPane extends VBox {
    private static final int LONGEST = 16 << 20;

    private final CheckModel model;
    private final Desk desk;
    private final Grid<Integer> grid = new Grid<>(25);

    KnownPane(CheckModel model, Desk desk) {
        this.model = model;
        this.desk = desk;
        grid.setId("known-values");
        grid.flat();
        Parts.dropped(this, file -> read(file.toFile()));
    }

    /** Shows the table of a step. */
    void show(StepPath path, Step.Call step) {
        KnownValues known = step.known().orElseThrow();
        HBox head = Parts.head("Known values", Parts.spring());
        head.getChildren()
                .addAll(
                        action("+ row", "Add an empty row (its values are typed in)", () -> add(path, known)),
                        action(
                                "Paste",
                                "Cells of a spreadsheet or CSV, whose first row names the columns",
                                () -> paste(path)),
                        action("CSV…", "Read a CSV file in place of this table", this::choose),
                        action("Columns…", "What each column is for", () -> columns(path, known)),
                        action("Accept all", "Take what was found as what is expected", () -> accept(path, known)),
                        action(
                                "Take away",
                                "The step is called once again; the file stays",
                                () -> model.edits().dropKnown(path)));
        getChildren().setAll(head, Parts.tall(grid));
        if (!known.table().trouble().isEmpty()) {
            grid.setItems(FXCollections.observableArrayList());
            grid.clearColumns();
            grid.setPlaceholder(Parts.empty(known.table().trouble()));
            return;
        }
        grid.clearColumns();
        grid.number("", 30, r -> Parts.text(String.valueOf(r + 1), "third", "table-text"));
        for (int i = 0; i < known.table().columns().size(); i++) {
            int index = i;
            String name = known.table().columns().get(i);
            Optional<Column> bound =
                    known.columns().stream().filter(c -> c.name().equals(name)).findFirst();
            boolean expected = bound.filter(c -> c.use() == Use.IS).isPresent();
            grid.growing(
                    expected ? name + " expected" : bound.isPresent() ? name : "$" + name,
                    r -> cell(path, known, r, index));
            if (expected) {
                grid.growing(name + " found", r -> found(path, known, r, bound.get()));
            }
        }
        grid.centred(
                "",
                30,
                r -> row(r).map(x -> Numbers.mark(x.verdict()))
                        .orElse(Mark.STALE)
                        .node());
        List<Integer> rows = new ArrayList<>();
        for (int i = 0; i < known.table().rows().size(); i++) {
            rows.add(i);
        }
        grid.setPlaceholder(Parts.empty("The table has no rows yet."));
        if (!rows.equals(grid.items())) {
            grid.setItems(FXCollections.observableArrayList(rows));
        }
        grid.refresh();
    }

    private static Button action(String words, String tip, Runnable run) {
        return Parts.button(words, tip, run, "quiet", "table-text");
    }

    private Optional<StepResult> row(int index) {
        return model.result()
                .filter(r -> r.rounds() && index < r.inner().size())
                .map(r -> r.inner().get(index));
    }

    private Node cell(StepPath path, KnownValues known, int row, int column) {
        String value = known.table().rows().get(row).get(column);
        TextField field = Form.field("known-" + row + "-" + column, value, "");
        field.getStyleClass().add("mono");
        Form.onEnd(field, () -> model.edits().known(path, k -> k.with(k.table().with(row, column, field.getText()))));
        HBox box = new HBox(field);
        HBox.setHgrow(field, Priority.ALWAYS);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private Optional<CheckResult> check(int row, Column column) {
        return row(row).flatMap(r -> r.checks().stream()
                .filter(c -> c.where().equals(column.path()))
                .reduce((first, last) -> last)
                .or(() -> r.checks().stream()
                        .filter(c -> c.title().contains("ault"))
                        .findFirst()));
    }

    private Node found(StepPath path, KnownValues known, int row, Column column) {
        Optional<CheckResult> check = check(row, column);
        boolean bad = check.filter(c -> !c.passed()).isPresent();
        Label found = Parts.text(
                check.map(CheckResult::found)
                        .orElse(row(row).map(StepResult::problem).orElse("")),
                "mono",
                "table-text",
                bad ? "failed" : "second");
        found.setMinWidth(0);
        Parts.tip(found, found.getText());
        if (!bad) {
            return found;
        }
        found.setMinWidth(USE_PREF_SIZE);
        Button accept =
                Parts.button("take", "Take this as what is expected", () -> accept(path, known, row, column), "tiny");
        accept.setId("known-take-" + row);
        HBox box = new HBox(6, found, accept);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private void accept(StepPath path, KnownValues known, int row, Column column) {
        int index = known.table().columns().indexOf(column.name());
        check(row, column)
                .ifPresent(c -> model.edits()
                        .known(path, k -> k.with(k.table().with(row, index, KnownValues.cell(c.found())))));
    }

    private void accept(StepPath path, KnownValues known) {
        model.edits().known(path, k -> {
            KnownValues changed = k;
            for (Column column : known.columns()) {
                int index = known.table().columns().indexOf(column.name());
                for (int row = 0; row < known.table().rows().size() && column.use() == Use.IS; row++) {
                    Optional<CheckResult> bad = check(row, column)
                            .filter(c ->
                                    c.verdict() == Verdict.FAILED && c.where().equals(column.path()));
                    if (bad.isPresent()) {
                        changed = changed.with(changed.table()
                                .with(row, index, KnownValues.cell(bad.get().found())));
                    }
                }
            }
            return changed;
        });
    }

    private void add(StepPath path, KnownValues known) {
        List<List<String>> rows = new ArrayList<>(known.table().rows());
        rows.add(known.table().columns().stream().map(c -> "").toList());
        model.edits().known(path, k -> k.with(k.table().with(rows)));
    }

    private void paste(StepPath path) {
        String text = Clipboard.getSystemClipboard().getString();
        if (text == null || text.isBlank()) {
            desk.tell(dev.mockbell.desktop.model.Notice.bad("The clipboard holds no text."));
            return;
        }
        model.edits().knownOf(path, text);
    }

    private void choose() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Known values");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("CSV", "*.csv", "*.tsv", "*.txt"));
        File file = chooser.showOpenDialog(getScene().getWindow());
        if (file != null) {
            read(file);
        }
    }

    private void read(File file) {
        model.chosen()
                .ifPresent(path -> desk.tasks()
                        .run(
                                () -> TextFile.read(file.toPath(), "The table's file", LONGEST),
                                text -> model.edits().knownOf(path, text),
                                (Problem problem) -> desk.tell(problem)));
    }

    private static Runnable offer(ComboBox<String> use, ComboBox<String> at, KnownPaths.Paths found) {
        return () -> {
            String typed = at.getEditor().getText();
            int chosen = use.getSelectionModel().getSelectedIndex();
            at.setDisable(chosen == 0);
            at.getItems().setAll(chosen == 1 ? found.request() : chosen == 2 ? found.answer() : List.of());
            at.getEditor().setText(typed);
        };
    }

    /** Asks for what each column is for. */
    private void columns(StepPath path, KnownValues known) {
        Form form = new Form();
        List<ComboBox<String>> paths = new ArrayList<>();
        List<ComboBox<String>> uses = new ArrayList<>();
        for (String name : known.table().columns()) {
            Optional<Column> bound =
                    known.columns().stream().filter(c -> c.name().equals(name)).findFirst();
            ComboBox<String> use = new ComboBox<>();
            use.getItems().setAll("is a variable", Use.SETS.title(), Use.IS.title());
            use.getSelectionModel().select(bound.map(c -> c.use().ordinal() + 1).orElse(0));
            use.setId("column-use-" + name);
            ComboBox<String> at = new ComboBox<>();
            at.setEditable(true);
            at.setId("column-path-" + name);
            at.getEditor().setText(bound.map(Column::path).orElse(""));
            at.getEditor().setPromptText("choose, or write an XPath");
            at.setPrefWidth(330);
            form.row(name, use, at);
            uses.add(use);
            paths.add(at);
        }
        // what the contract has at either side, to be pointed at
        if (model.step().orElse(null) instanceof Step.Call call) {
            new KnownPaths(desk).of(call, found -> {
                for (int i = 0; i < uses.size(); i++) {
                    ComboBox<String> at = paths.get(i);
                    Runnable offer = offer(uses.get(i), at, found);
                    uses.get(i).setOnAction(e -> offer.run());
                    offer.run();
                }
            });
        }
        Asking.ask(
                this,
                "What each column is for",
                form,
                "columns",
                () -> {
                    List<Column> columns = new ArrayList<>();
                    for (int i = 0; i < uses.size(); i++) {
                        int use = uses.get(i).getSelectionModel().getSelectedIndex();
                        if (use > 0) {
                            columns.add(new Column(
                                    known.table().columns().get(i),
                                    Use.values()[use - 1],
                                    paths.get(i).getEditor().getText().strip()));
                        }
                    }
                    return columns;
                },
                columns -> model.edits().known(path, k -> new KnownValues(k.table(), columns)));
    }
}
