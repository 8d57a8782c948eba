package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/** The answer as rows: what came, what came before, what is checked and captured of it. */
final class ResponseSheet {
    /** Of a value in a row. */
    private static final int MOST_SHOWN = 300;

    private final CallModel model;
    private final Grid<Line> grid = new Grid<>(26);

    ResponseSheet(CallModel model) {
        this.model = model;
        grid.growing("Element", this::element)
                .again((node, line) -> showElement((Label) node, line))
                .growing("Value", this::value)
                .again((node, line) -> showValue((HBox) node, line))
                .column("Previous", 92, this::before)
                .again((node, line) -> showBefore((Label) node, line));
        grid.setId("response-sheet");
        grid.setItems(model.response().lines());
        model.response().changesProperty().addListener((InvalidationListener) o -> grid.refresh());
    }

    Node node() {
        return grid;
    }

    void refresh() {
        grid.refresh();
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

    private Node element(Line line) {
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

    private Node value(Line line) {
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
        box.getChildren().remove(1, box.getChildren().size());
        Case current = model.currentProperty().get();
        boolean noted = current != null
                && !(current.captures().isEmpty() && current.checks().isEmpty());
        String path = noted ? row.path() : "";
        if (!path.isEmpty()) {
            current.captures().stream()
                    .filter(c -> c.path().equals(path))
                    .forEach(c -> box.getChildren().add(tag("→ $" + c.name(), "link")));
            if (current.checks().stream()
                    .anyMatch(c -> c.judgedPath().filter(path::equals).isPresent())) {
                box.getChildren().add(tag("check", "fine"));
            }
        }
        return true;
    }

    private static String onOneLine(String value) {
        String part = value.length() > MOST_SHOWN ? value.substring(0, MOST_SHOWN) + "…" : value;
        return part.strip().replaceAll("\\s+", " ");
    }

    private static Label tag(String words, String kind) {
        Label label = Parts.text(words, "tag", kind);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private Node before(Line line) {
        Label label = new Label();
        label.setMinWidth(0);
        showBefore(label, line);
        return label;
    }

    private boolean showBefore(Label label, Line line) {
        SheetRow row = line.row();
        Optional<String> before = row.children().isEmpty() ? model.previous(row) : Optional.empty();
        boolean same = before.filter(row.value()::equals).isPresent();
        label.setText(same ? "same" : before.map(ResponseSheet::onOneLine).orElse(""));
        Parts.classed(label, "third", same);
        Parts.classed(label, "table-text", same);
        Parts.classed(label, "mono", !same);
        Parts.classed(label, "fault", !same);
        return true;
    }
}
