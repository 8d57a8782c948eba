package dev.mockbell.desktop.view.call;

import dev.mockbell.compare.Comparison;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.InsideModel.Chip;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.message.MessagePath;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import org.w3c.dom.Node;

/** The answer as rows: what came, what came before, what the baseline has, what is checked and captured of it. */
final class ResponseSheet {
    /** Of a value in a row. */
    private static final int MOST_SHOWN = 300;

    private final CallModel model;
    private final Runnable showTable;
    private final Grid<Line> grid = new Grid<>(26);
    private boolean baseline;
    private Map<Node, List<String>> noted = Map.of();

    /** @param showTable shows the table that was asked for */
    ResponseSheet(CallModel model, Runnable showTable) {
        this.model = model;
        this.showTable = showTable;
        columns();
        grid.setId("response-sheet");
        grid.unrolled();
        grid.setItems(model.response().lines());
        grid.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER && !e.isControlDown()) {
                pointed().ifPresent(this::openOrFold);
                e.consume();
            } else if (e.getCode() == KeyCode.C && e.isShortcutDown()) {
                pointed().ifPresent(r -> Copying.text(r.value()));
                e.consume();
            }
        });
        model.response().changesProperty().addListener((InvalidationListener) o -> refresh());
        note();
    }

    private void columns() {
        grid.clearColumns();
        grid.growing("Element", this::element)
                .again((node, line) -> showElement((Label) node, line))
                .growing("Value", this::value)
                .again((node, line) -> showValue((HBox) node, line))
                .yielding("Previous", 92, 330, l -> before(l, model.compared()::previous))
                .again((node, line) -> showBefore((Label) node, line, model.compared()::previous));
        if (baseline) {
            grid.yielding("Baseline", 92, 440, l -> before(l, model.compared()::withBaseline))
                    .again((node, line) -> showBefore((Label) node, line, model.compared()::withBaseline));
        }
    }

    /** Opens what hides the row at a path, and points at it. */
    void reveal(String path) {
        model.response().reveal(path, at -> {
            grid.list().getSelectionModel().clearAndSelect(at);
            grid.list().scrollTo(Math.max(0, at - 3));
        });
    }

    private void openOrFold(SheetRow row) {
        if (!row.children().isEmpty()) {
            model.response().fold(row);
        } else if (model.inside().chip(row).isPresent()) {
            model.inside().open(row);
        }
    }

    javafx.scene.Node node() {
        return grid;
    }

    void refresh() {
        boolean has = model.compared().baseline().isPresent();
        if (has != baseline) {
            baseline = has;
            columns();
        }
        note();
        if (grid.items() != model.response().lines()) {
            grid.setItems(model.response().lines());
        }
        grid.refresh();
    }

    /** What is checked and captured, found once for all rows: a path of a row costs what stands beside it in the message. */
    private void note() {
        Case current = model.currentProperty().get();
        Map<Node, List<String>> found = new IdentityHashMap<>();
        if (current != null) {
            current.captures()
                    .forEach(c -> at(c.path())
                            .ifPresent(n -> found.computeIfAbsent(n, x -> new ArrayList<>())
                                    .add("→ $" + c.name())));
            current.checks().stream()
                    .flatMap(c -> c.judgedPath().stream())
                    .distinct()
                    .forEach(p -> at(p).ifPresent(n ->
                            found.computeIfAbsent(n, x -> new ArrayList<>()).add("check")));
        }
        noted = found;
    }

    private Optional<Node> at(String path) {
        return Optional.ofNullable(model.calledProperty().get())
                .flatMap(c -> c.answer().content())
                .map(d -> d.getDocumentElement())
                .filter(e -> path.startsWith("/"))
                .flatMap(e -> MessagePath.node(e, path));
    }

    /** Hears whenever another row is pointed at. */
    void onPointed(Runnable listener) {
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> listener.run());
    }

    /** The row that is pointed at, when it stands for something in the message. */
    Optional<SheetRow> pointed() {
        return Optional.ofNullable(grid.list().getSelectionModel().getSelectedItem())
                .map(Line::row)
                .filter(r -> !r.path().isEmpty());
    }

    private javafx.scene.Node element(Line line) {
        Label name = Parts.text("", "table-text");
        name.setOnMouseClicked(e -> {
            SheetRow row = ((Line) name.getUserData()).row();
            if (!row.children().isEmpty()) {
                model.response().fold(row);
            }
        });
        Parts.tip(name, () -> ((Line) name.getUserData()).row().documentation());
        showElement(name, line);
        return name;
    }

    private static boolean showElement(Label name, Line line) {
        SheetRow row = line.row();
        name.setUserData(line);
        String fold = row.children().isEmpty() ? "" : line.open() ? "▾ " : "▸ ";
        String which = row.index() > 0 ? "  " + row.index() + " of " + row.count() : "";
        name.setText(fold + row.label() + which);
        name.setPadding(new Insets(0, 0, 0, line.depth() * 14.0));
        Parts.classed(name, "strong", line.depth() == 0);
        return true;
    }

    private javafx.scene.Node value(Line line) {
        Label value = new Label();
        value.setMinWidth(0);
        HBox box = new HBox(6, value);
        box.setAlignment(Pos.CENTER_LEFT);
        showValue(box, line);
        return box;
    }

    private boolean showValue(HBox box, Line line) {
        SheetRow row = line.row();
        boolean out = row.state() == SheetRow.State.LEFT_OUT;
        boolean folded = !row.children().isEmpty() && !line.open();
        Label value = (Label) box.getChildren().get(0);
        value.setText(
                out
                        ? "left out"
                        : row.state() == SheetRow.State.NIL ? "nil" : onOneLine(folded ? row.gist() : row.value()));
        Parts.classed(value, "mono", !out);
        Parts.classed(value, "third", out);
        Parts.classed(value, "italic", out);
        Parts.classed(value, "table-text", out);
        List<String> tags = row.target().node() == null
                ? List.of()
                : noted.getOrDefault(row.target().node(), List.of());
        boolean repeats = row.kind() == SheetRow.Kind.REPEATS || row.index() == 1 && row.count() > 1;
        Optional<Chip> chip =
                repeats || out || folded ? Optional.empty() : model.inside().chip(row);
        // what it holds says more than how that is written
        boolean known = chip.filter(Chip::known).isPresent();
        value.setVisible(!known);
        value.setManaged(!known && !value.getText().isEmpty());
        Beside beside = new Beside(row, tags, repeats, chip.map(Chip::words).orElse(""));
        if (box.getUserData() instanceof Beside there && there.isSame(beside)) {
            // a button that is being pressed is left where it is
            return true;
        }
        box.setUserData(beside);
        box.getChildren().remove(1, box.getChildren().size());
        tags.forEach(t -> box.getChildren().add(tag(t, t.equals("check") ? "fine" : "link")));
        if (repeats) {
            Button table = Parts.link("as table", "Its rows and columns", () -> table(row));
            table.setMinWidth(Region.USE_PREF_SIZE);
            table.getStyleClass().add("dense");
            table.setId("show-as-table");
            box.getChildren().add(table);
        }
        chip.ifPresent(c -> box.getChildren().add(chip(row, c.words())));
        return true;
    }

    /** What stands beside a row's value. */
    private record Beside(SheetRow row, List<String> tags, boolean repeats, String chip) {
        /** The very row: comparing rows would go through all below them. */
        boolean isSame(Beside other) {
            return row == other.row && tags.equals(other.tags) && repeats == other.repeats && chip.equals(other.chip);
        }
    }

    private Button chip(SheetRow row, String words) {
        Button chip =
                Parts.button(words, "Look into it (Enter)", () -> model.inside().open(row), "inside-chip");
        chip.setMinWidth(0);
        chip.setId("chip-" + row.label());
        return chip;
    }

    private void table(SheetRow row) {
        if (model.table().around(row)) {
            showTable.run();
        }
    }

    private static String onOneLine(String value) {
        return Parts.line(value, MOST_SHOWN);
    }

    private static Label tag(String words, String kind) {
        Label label = Parts.text(words, "tag", kind);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private Label before(Line line, Supplier<Optional<Comparison>> against) {
        Label label = new Label();
        label.setMinWidth(0);
        showBefore(label, line, against);
        return label;
    }

    private boolean showBefore(Label label, Line line, Supplier<Optional<Comparison>> against) {
        SheetRow row = line.row();
        Node node = row.target().node();
        String words = "";
        boolean quiet = true;
        Optional<Comparison> comparison = against.get();
        if (comparison.isPresent() && node != null && row.children().isEmpty()) {
            Optional<String> before = comparison.get().before(node);
            boolean more = before.isEmpty() && comparison.get().isMore(node);
            quiet = before.isEmpty();
            words = more ? "new" : before.map(ResponseSheet::onOneLine).orElse("same");
        }
        label.setText(words);
        Parts.classed(label, "third", quiet);
        Parts.classed(label, "table-text", quiet);
        Parts.classed(label, "mono", !quiet);
        Parts.classed(label, "fault", !quiet);
        return true;
    }
}
