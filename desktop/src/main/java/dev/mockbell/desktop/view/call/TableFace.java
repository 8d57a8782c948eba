package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.AnswerTable;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.table.Column;
import dev.mockbell.table.Shape;
import dev.mockbell.table.Table;
import dev.mockbell.table.TableWriter.Form;
import dev.mockbell.table.Type;
import java.io.File;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Repeated elements of the answer as a table: chosen, filtered, sorted, typed, copied, written. */
final class TableFace extends VBox {
    private static final int NUMBER = 44;
    private static final int COLUMN = 108;
    private static final int LONGEST = 200;

    private final CallModel call;
    private final AnswerTable model;
    private final Grid<Table.Row> grid = new Grid<>(24);
    private final Button rows = Parts.button("rows", "Which element's rows", () -> {}, "quiet", "dense");
    private final Label count = Parts.text("", "second", "table-text");
    private final TextField most = new TextField();
    private final TextField where = new TextField();
    private final Button columns = Parts.button("Columns", "Which columns are shown", () -> {}, "quiet", "dense");
    private final ContextMenu rowsMenu = new ContextMenu();
    private final ContextMenu columnsMenu = new ContextMenu();
    private final Label trouble = Parts.text("", "failed", "table-text");
    private final HBox bar = new HBox(8);
    private final Button copyRows = Parts.button("Copy rows", "For a spreadsheet (Ctrl+C)", this::copy);
    private final Button putInto = Parts.button("Put into… ▾", "A file, or a database", () -> {});
    private final ScrollPane wide = Parts.wider(grid, 0);
    private Table shown;
    private List<Column> laidOut = List.of();
    private List<String> headings = List.of();

    TableFace(CallModel call) {
        this.call = call;
        this.model = call.table();
        setId("table-face");
        rows.setId("table-rows");
        columns.setId("table-columns");
        rows.setOnAction(e -> rowsMenu.show(rows, Side.BOTTOM, 0, 0));
        columns.setOnAction(e -> columnsMenu.show(columns, Side.BOTTOM, 0, 0));
        columns.setMinWidth(USE_PREF_SIZE);
        most.setId("table-most");
        most.setPrefColumnCount(4);
        most.setPromptText("all");
        where.setId("table-where");
        where.setPromptText("bunks >= 10");
        count.setId("table-count");
        trouble.setId("table-trouble");
        count.setMinWidth(USE_PREF_SIZE);
        most.setOnAction(e -> takeMost());
        most.focusedProperty().addListener((o, was, now) -> takeMost());
        where.setOnAction(e -> takeWhere());
        where.focusedProperty().addListener((o, was, now) -> takeWhere());
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.getStyleClass().add("find-bar");
        bar.getChildren()
                .addAll(
                        Parts.text("rows of", "third", "table-text"),
                        rows,
                        count,
                        Parts.text("at most", "third", "table-text"),
                        most,
                        Parts.text("where", "third", "table-text"),
                        Parts.wide(where),
                        columns);
        trouble.setWrapText(true);
        trouble.setPadding(new javafx.geometry.Insets(4, 12, 4, 12));
        trouble.managedProperty().bind(trouble.textProperty().isNotEmpty());
        grid.setId("answer-table");
        grid.unrolled();
        grid.list().setOnKeyPressed(e -> {
            if (e.isShortcutDown() && e.getCode() == KeyCode.C) {
                copy();
                e.consume();
            }
        });
        layParts();
        offerPlaces();
        model.changesProperty().addListener((InvalidationListener) o -> {
            if (getScene() != null) {
                show();
            }
        });
    }

    /** The row that is pointed at. */
    Optional<Table.Row> pointed() {
        return Optional.ofNullable(grid.list().getSelectionModel().getSelectedItem());
    }

    /** Hears whenever another row is pointed at. */
    void onPointed(Runnable listener) {
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> listener.run());
    }

    void show() {
        Optional<Shape> shape = model.shape();
        if (model.isLooking()) {
            shown = null;
            layParts();
            trouble.setText("");
            rows.setText("… ▾");
            count.setText("…");
            grid.setItems(FXCollections.observableArrayList());
            return;
        }
        if (shape.isEmpty()) {
            shown = null;
            getChildren()
                    .setAll(Parts.empty(
                            call.calledProperty().get() == null
                                    ? "The answer's repeated elements appear here as a table."
                                    : "Nothing repeats in this answer. Type an XPath to what is to be the rows.",
                            path("")));
            return;
        }
        layParts();
        trouble.setText(model.trouble());
        rows.setText(last(shape.get().rows()) + " ▾");
        if (!most.isFocused()) {
            most.setText(shape.get().most() == 0 ? "" : "" + shape.get().most());
        }
        if (!where.isFocused()) {
            where.setText(shape.get().where());
        }
        offerRows(shape.get());
        Optional<Table> table = model.table();
        count.setText(table.map(TableFace::count).orElse(model.trouble().isEmpty() ? "…" : ""));
        if (table.isPresent() && table.get() != shown) {
            shown = table.get();
            lay(shown);
            // filling the list that there is would tell of each row
            grid.setItems(FXCollections.observableList(shown.rows()));
            offerColumns(shown);
        }
    }

    /** What stands already is not taken out and put in again, which would take the keyboard from it. */
    private void layParts() {
        if (!getChildren().contains(bar)) {
            getChildren().setAll(bar, trouble, Parts.tall(wide));
        }
    }

    private static String last(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    private static String count(Table table) {
        String all = Numbers.whole(table.total()) + (table.total() == 1 ? " row" : " rows");
        return table.kept() == table.total() ? all : Numbers.whole(table.kept()) + " of " + all;
    }

    private TextField path(String now) {
        TextField path = new TextField(now);
        path.setId("table-path");
        path.setPromptText("//closure");
        path.setOnAction(e -> model.rows(path.getText()));
        return path;
    }

    private void offerRows(Shape shape) {
        rowsMenu.getItems().clear();
        for (Table.Repeated each : model.repeated()) {
            MenuItem item = new MenuItem(each.path() + "   × " + Numbers.whole(each.count()));
            item.setOnAction(e -> model.rows(each.path()));
            rowsMenu.getItems().add(item);
        }
        CustomMenuItem typed = new CustomMenuItem(path(shape.rows()), false);
        rowsMenu.getItems().add(typed);
    }

    private void offerColumns(Table table) {
        List<Column> all = table.shape().columns();
        long some = all.stream().filter(Column::shown).count();
        columns.setText("Columns " + (some == all.size() ? "" + some : some + " of " + all.size()) + " ▾");
        columnsMenu.getItems().clear();
        for (Column each : all) {
            CheckMenuItem item = new CheckMenuItem(each.name());
            item.setSelected(each.shown());
            item.setOnAction(e -> model.change(s -> s.change(each.path(), c -> c.shown(item.isSelected()))));
            columnsMenu.getItems().add(item);
        }
        MenuItem every = new MenuItem("All of them");
        every.setOnAction(e -> model.change(
                s -> s.with(s.columns().stream().map(c -> c.shown(true)).toList())));
        columnsMenu.getItems().add(every);
    }

    private void lay(Table table) {
        List<Column> wanted = table.columns();
        List<String> titles = wanted.stream().map(c -> title(table, c)).toList();
        if (wanted.equals(laidOut) && titles.equals(headings)) {
            return;
        }
        laidOut = wanted;
        headings = titles;
        grid.setMinWidth(NUMBER + wanted.size() * COLUMN + 20.0);
        grid.clearColumns();
        grid.number("#", NUMBER, r -> Parts.text("" + r.number(), "third", "table-text"));
        for (Column column : wanted) {
            String title = title(table, column);
            if (column.type().isNumber()) {
                grid.number(title, COLUMN, r -> cell(r, column));
            } else if (column.type() == Type.TEXT) {
                // words are longer than dates; what room is left is theirs
                grid.growing(title, r -> cell(r, column));
            } else {
                grid.column(title, COLUMN, r -> cell(r, column));
            }
            grid.again((node, row) -> showCell((Label) node, row, column))
                    .heading(() -> model.sort(column), node -> menu(column).show(node, Side.BOTTOM, 0, 0));
        }
    }

    private static String title(Table table, Column column) {
        String arrow = table.shape()
                .sort()
                .filter(s -> s.path().equals(column.path()))
                .map(s -> s.down() ? " ↓" : " ↑")
                .orElse("");
        return column.name() + arrow + "  " + column.type().title() + (column.kept() ? " (kept)" : "");
    }

    private Node cell(Table.Row row, Column column) {
        Label label = new Label();
        label.setMinWidth(0);
        label.setOnMouseClicked(e -> {
            String value = ((Table.Row) label.getUserData()).value(column);
            if (e.getClickCount() == 2 && !Table.isNothing(value)) {
                call.inside().open(column.name(), value);
            }
        });
        label.setOnContextMenuRequested(e -> {
            Table.Row pointed = (Table.Row) label.getUserData();
            String value = pointed.value(column);
            if (!Table.isNothing(value)) {
                String path = Table.path(pointed, column);
                new ContextMenu(
                                item("Check this", () -> call.checks().addValue(path, value)),
                                item("Capture", () -> call.checks().captureAt(path)),
                                item("Copy", () -> Copying.text(value)))
                        .show(label, e.getScreenX(), e.getScreenY());
            }
            e.consume();
        });
        showCell(label, row, column);
        return label;
    }

    private static boolean showCell(Label label, Table.Row row, Column column) {
        String value = row.value(column);
        boolean nothing = Table.isNothing(value);
        String words = value == null ? "left out" : nothing ? "nil" : value.strip();
        label.setUserData(row);
        label.setText(Parts.start(words, LONGEST));
        Parts.classed(label, "mono", !nothing);
        Parts.classed(label, "third", nothing);
        Parts.classed(label, "italic", nothing);
        Parts.classed(label, "table-text", nothing);
        return true;
    }

    /** What can be done with a column. */
    private ContextMenu menu(Column column) {
        ContextMenu menu = new ContextMenu();
        TextField name = new TextField(column.name());
        name.setOnAction(e -> {
            menu.hide();
            if (!name.getText().isBlank()) {
                model.change(s ->
                        s.change(column.path(), c -> c.withName(name.getText().strip())));
            }
        });
        Menu types = new Menu("Type");
        for (Type type : Type.values()) {
            RadioMenuItem item = new RadioMenuItem(type.title());
            item.setSelected(type == column.type());
            item.setOnAction(e -> model.type(column, type));
            types.getItems().add(item);
        }
        MenuItem hide = new MenuItem("Leave this column out");
        hide.setOnAction(e -> model.change(s -> s.change(column.path(), c -> c.shown(false))));
        int at = shown.shape().columns().indexOf(column);
        MenuItem left = new MenuItem("To the left");
        left.setDisable(at <= 0);
        left.setOnAction(e -> model.change(s -> s.move(column.path(), at - 1)));
        MenuItem right = new MenuItem("To the right");
        right.setOnAction(e -> model.change(s -> s.move(column.path(), at + 1)));
        MenuItem sort = new MenuItem("Sort");
        sort.setOnAction(e -> model.sort(column));
        menu.getItems().addAll(new CustomMenuItem(name, false), types, sort, left, right, hide);
        return menu;
    }

    private void takeMost() {
        String text = most.getText().strip();
        if (!text.isEmpty() && !text.matches("\\d{1,9}")) {
            most.setText("");
            return;
        }
        int wanted = text.isEmpty() ? 0 : Integer.parseInt(text);
        if (model.shape().filter(s -> s.most() != wanted).isPresent()) {
            model.change(s -> s.most(wanted));
        }
    }

    private void takeWhere() {
        String text = where.getText().strip();
        if (model.shape().filter(s -> !s.where().equals(text)).isPresent()) {
            model.change(s -> s.where(text));
        }
    }

    private void copy() {
        model.text(Form.TABS, Copying::text);
    }

    /** What can be done with the rows, for the foot; the same each time, as it is now. */
    List<Node> actions() {
        boolean none = shown == null || shown.rows().isEmpty();
        copyRows.setDisable(none);
        putInto.setDisable(none);
        return List.of(copyRows, putInto);
    }

    private void offerPlaces() {
        ContextMenu into = new ContextMenu(
                item("a CSV file…", () -> file("rows.csv", Form.CSV)),
                item("a JSON file…", () -> file("rows.json", Form.JSON)),
                item("a database…", () -> DatabaseForm.ask(this, model)));
        putInto.setOnAction(e -> into.show(putInto, Side.TOP, 0, 0));
        putInto.setId("put-into");
        copyRows.setId("copy-rows");
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }

    private void file(String name, Form form) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Write the rows to");
        chooser.setInitialFileName(name);
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            model.write(form, file.toPath());
        }
    }
}
