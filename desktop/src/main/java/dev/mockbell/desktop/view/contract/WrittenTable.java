package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.WrittenModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.written.Flaw;
import dev.mockbell.written.RowEdits;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenPart;
import dev.mockbell.written.WrittenRow;
import dev.mockbell.written.WrittenRow.Column;
import dev.mockbell.written.WrittenRow.Kind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntConsumer;
import javafx.application.Platform;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The table of operations and fields, edited in place by keyboard or mouse. */
final class WrittenTable extends VBox {
    private static final double STEP = 16;

    private final WrittenModel model;
    private final IntConsumer chosen;
    private final Grid<Integer> grid = new Grid<>(28);
    private final Set<String> folded = new HashSet<>();
    private final Map<Integer, String> flaws = new HashMap<>();
    /** The fields of names by their rows, as they were made last. */
    private final Map<Integer, ValueField> named = new HashMap<>();

    private int at;

    /** @param chosen hears of the row that is looked at */
    WrittenTable(WrittenModel model, IntConsumer chosen) {
        this.model = model;
        this.chosen = chosen;
        grid.column("Name", 190, this::name)
                .column("Type", 96, r -> cell(r, Column.TYPE))
                .column("How often", 152, r -> cell(r, Column.OFTEN))
                .growing("Limits", r -> cell(r, Column.LIMITS))
                .growing("What it means", r -> cell(r, Column.MEANS));
        grid.setId("written-table");
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && now != at) {
                at = now;
                chosen.accept(at);
            }
        });
        grid.setPlaceholder(Parts.empty(
                "Nothing is written yet.",
                Parts.button("Add an operation", "Its name, what it takes and gives", this::operation)));
        Button add = Parts.link("+ operation", "One more operation (Ctrl+Shift+O)", this::operation);
        add.setId("written-add-operation");
        Button part = Parts.link("+ part", "What it takes or gives, a fault, a header", () -> {});
        part.setId("written-add-part");
        part.setOnAction(e -> parts(part));
        HBox more = new HBox(4, add, part);
        more.setPadding(new Insets(2, 6, 2, 4));
        getChildren().addAll(Parts.tall(grid), more);
        addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
        show(0, null);
    }

    int at() {
        return at;
    }

    /** Whether a list of words is open, which Esc closes. */
    boolean isChoosing() {
        return getScene() != null
                && javafx.stage.Window.getWindows().stream()
                        .anyMatch(w -> w instanceof javafx.stage.PopupWindow p
                                && !(p instanceof javafx.scene.control.Tooltip)
                                && p.isShowing());
    }

    /** Shows the rows anew, with the keyboard in a cell of one of them; in none where no column is given. */
    void show(int row, Column column) {
        List<Integer> shown = new ArrayList<>();
        boolean hidden = false;
        for (int i = 0; i < model.rows().size(); i++) {
            WrittenRow one = model.rows().get(i);
            if (one.kind() == Kind.OPERATION) {
                hidden = folded.contains(one.name()) && !isOf(row, i);
                shown.add(i);
            } else if (!hidden) {
                shown.add(i);
            }
        }
        at = Math.max(0, Math.min(row, model.rows().size() - 1));
        named.clear();
        grid.items().setAll(shown);
        grid.refresh();
        if (shown.contains(at)) {
            grid.list().getSelectionModel().select(Integer.valueOf(at));
        }
        chosen.accept(at);
        if (column != null) {
            Platform.runLater(() -> {
                grid.list().scrollTo(Math.max(0, shown.indexOf(at) - 8));
                grid.layout();
                Optional.ofNullable(grid.lookup("#" + id(at, column))).ifPresent(Node::requestFocus);
            });
        }
    }

    private boolean isOf(int row, int operation) {
        return row > operation && row < model.rows().size() && RowEdits.operation(model.rows(), row) == operation;
    }

    private static String id(int row, Column column) {
        return "written-" + row + "-" + column.name().toLowerCase(java.util.Locale.ROOT);
    }

    /** Marks the rows that have a flaw. */
    void flaws(List<Flaw> found) {
        Map<Integer, String> now = new HashMap<>();
        found.forEach(f -> now.putIfAbsent(f.row(), f.text()));
        if (!now.equals(flaws)) {
            flaws.clear();
            flaws.putAll(now);
            named.forEach((row, field) -> mark(field, row, Column.NAME));
        }
    }

    private void mark(ValueField field, int row, Column column) {
        boolean here = column == Column.NAME;
        field.mark(here ? Optional.ofNullable(flaws.get(row)) : Optional.empty(), false, Optional.empty());
    }

    private Node name(int index) {
        WrittenRow row = row(index);
        HBox box = new HBox(4);
        box.setAlignment(Pos.CENTER_LEFT);
        switch (row.kind()) {
            case OPERATION -> {
                boolean isFolded = folded.contains(row.name());
                Button fold = Parts.link(isFolded ? "▸" : "▾", "Show its fields or hide them", () -> {
                    if (!folded.remove(row(index).name())) {
                        folded.add(row(index).name());
                    }
                    show(index, null);
                });
                fold.setId("written-fold-" + index);
                fold.setMinWidth(22);
                fold.setPadding(Insets.EMPTY);
                box.getChildren().addAll(fold, Parts.wide(field(index, Column.NAME, "operation")));
            }
            case PART -> {
                box.setPadding(new Insets(0, 0, 0, 14));
                boolean fault = row.part() == WrittenPart.Kind.FAILS;
                box.getChildren().add(Parts.text(row.part().title(), fault ? "fault" : "third", "table-text"));
                if (fault) {
                    box.getChildren().add(Parts.wide(field(index, Column.NAME, "fault")));
                }
            }
            case FIELD -> {
                box.setPadding(new Insets(0, 0, 0, 24 + row.depth() * STEP));
                box.getChildren().add(Parts.wide(field(index, Column.NAME, "field")));
            }
        }
        return box;
    }

    private WrittenRow row(int index) {
        return index < model.rows().size() ? model.rows().get(index) : WrittenRow.field(0, "", "", "", "", "");
    }

    private Node cell(int index, Column column) {
        WrittenRow row = row(index);
        if (row.kind() == Kind.OPERATION && column == Column.TYPE) {
            boolean oneWay = WrittenRow.ONE_WAY.equals(row.type());
            Button way = Parts.link(
                    oneWay ? "one-way" : "request and answer", "Whether an answer comes; press to change it", () -> {
                        model.set(index, Column.TYPE, oneWay ? "" : WrittenRow.ONE_WAY);
                        show(index, null);
                    });
            way.getStyleClass().add("table-text");
            way.setId("written-way-" + index);
            return way;
        }
        boolean own = row.isField() || row.kind() == Kind.OPERATION && column == Column.MEANS;
        return own ? field(index, column, prompt(index, column)) : Parts.text("");
    }

    private String prompt(int index, Column column) {
        return switch (column) {
            case TYPE -> RowEdits.end(model.rows(), index) > index + 1 ? "group" : "text";
            case OFTEN -> "once";
            default -> "";
        };
    }

    private ValueField field(int index, Column column, String prompt) {
        ValueField field = new ValueField(row(index).cell(column), text -> model.set(index, column, text));
        field.named(id(index, column));
        field.calm().prompting(prompt);
        field.onEntered(() -> {
            if (grid.items().contains(index)) {
                grid.list().getSelectionModel().select(Integer.valueOf(index));
            }
        });
        if (column == Column.TYPE) {
            field.offering(WrittenDocuments.types());
        } else if (column == Column.OFTEN) {
            field.offering(WrittenDocuments.often());
        }
        field.addEventFilter(KeyEvent.KEY_PRESSED, e -> inCell(e, index, column, field));
        field.heardAs(column.title() + " of " + row(index).name());
        if (column == Column.NAME) {
            named.put(index, field);
        }
        mark(field, index, column);
        return field;
    }

    /** Tab goes in and out in the column of names, where nothing else is to be gone to by it. */
    private void inCell(KeyEvent e, int index, Column column, ValueField field) {
        boolean plain = !e.isShortcutDown() && !e.isAltDown();
        if (column == Column.NAME
                && e.getCode() == KeyCode.TAB
                && plain
                && row(index).isField()) {
            int by = e.isShiftDown() ? -1 : 1;
            show(model.edit(index, (rows, i) -> RowEdits.deeper(rows, i, by)), column);
            e.consume();
        } else if (e.getCode() == KeyCode.ENTER && plain && !isChoosing()) {
            show(model.edit(index, RowEdits::fieldAfter), Column.NAME);
            e.consume();
        } else if (e.getCode() == KeyCode.RIGHT
                && plain
                && column == Column.NAME
                && field.field().getCaretPosition() == field.field().getLength()) {
            Optional.ofNullable(grid.lookup("#" + id(index, Column.TYPE))).ifPresent(Node::requestFocus);
            e.consume();
        } else if (column == Column.NAME && plain && (e.getCode() == KeyCode.UP || e.getCode() == KeyCode.DOWN)) {
            int to = grid.items().indexOf(index) + (e.getCode() == KeyCode.UP ? -1 : 1);
            if (to >= 0 && to < grid.items().size()) {
                show(grid.items().get(to), Column.NAME);
            }
            e.consume();
        }
    }

    private void keys(KeyEvent e) {
        if (!e.isShortcutDown() || model.rows().isEmpty()) {
            return;
        }
        switch (e.getCode()) {
            case UP, DOWN -> {
                boolean up = e.getCode() == KeyCode.UP;
                change(model.edit(at, (rows, i) -> RowEdits.moved(rows, i, up)), e);
            }
            case D -> change(model.edit(at, RowEdits::doubled), e);
            case DELETE, BACK_SPACE -> change(model.edit(at, RowEdits::without), e);
            case O -> {
                if (e.isShiftDown()) {
                    operation();
                    e.consume();
                }
            }
            default -> {
                // the others are not for the table
            }
        }
    }

    private void change(int to, KeyEvent e) {
        show(to, Column.NAME);
        e.consume();
    }

    private void operation() {
        show(model.edit(at, RowEdits::operationAfter), Column.NAME);
    }

    private void parts(Node under) {
        ContextMenu menu = new ContextMenu();
        menu.setId("written-parts");
        for (WrittenPart.Kind kind : WrittenPart.Kind.values()) {
            MenuItem item = new MenuItem(kind.title());
            item.setOnAction(e -> show(model.edit(at, (rows, i) -> RowEdits.part(rows, i, kind)), Column.NAME));
            menu.getItems().add(item);
        }
        menu.show(under, javafx.geometry.Side.TOP, 0, 0);
    }
}
