package dev.mockbell.desktop.view;

import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.MessageModel.Line;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Toggle;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.SheetRow;
import dev.mockbell.message.SheetRow.Kind;
import dev.mockbell.message.SheetRow.State;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/** The sheet that is edited: a typed outline with a field in each row that has a value. */
final class SheetGrid {
    private final MessageModel model;
    private final Grid<Line> grid = new Grid<>(28);

    SheetGrid(MessageModel model) {
        this.model = model;
        grid.growing("Element", this::element)
                .column("Value", 150, this::value)
                .yielding("Type", 104, 470, l -> third(l.row().type()))
                .number("Occurs", 62, this::occurs)
                .flat();
        grid.setId("request-sheet");
        grid.setItems(model.lines());
        grid.list().setOnKeyPressed(e -> {
            Line line = grid.list().getSelectionModel().getSelectedItem();
            if (line == null) {
                return;
            }
            boolean fold = e.getCode() == KeyCode.LEFT && line.open() || e.getCode() == KeyCode.RIGHT && !line.open();
            if (fold && !line.row().children().isEmpty()) {
                model.fold(line.row());
                e.consume();
            } else if (e.getCode() == KeyCode.SPACE && line.row().optional()) {
                flip(line.row());
                e.consume();
            }
        });
    }

    Grid<Line> node() {
        return grid;
    }

    private static Label third(String words) {
        Label label = Parts.text(words, "third", "table-text");
        label.setMinWidth(0);
        return label;
    }

    private void flip(SheetRow row) {
        if (row.state() == State.LEFT_OUT) {
            model.include(row);
        } else {
            model.leaveOut(row);
        }
    }

    private Node element(Line line) {
        SheetRow row = line.row();
        HBox box = new HBox(4);
        box.setAlignment(Pos.CENTER_LEFT);
        Region indent = new Region();
        indent.setMinWidth(line.depth() * 12.0);
        box.getChildren().add(indent);
        if (row.optional() && row.kind() != Kind.CHOICE && row.count() <= 1) {
            box.getChildren()
                    .add(new Toggle(
                            row.state() != State.LEFT_OUT,
                            row.state() == State.LEFT_OUT ? "Put in" : "Leave out",
                            () -> flip(row)));
        }
        boolean folds = !row.children().isEmpty();
        Label name = Parts.text((folds ? line.open() ? "▾ " : "▸ " : "") + row.label(), "table-text");
        if (line.depth() == 0) {
            name.getStyleClass().add("strong");
        }
        if (row.state() == State.LEFT_OUT) {
            name.getStyleClass().add("third");
        }
        if (row.kind() == Kind.CHOICE) {
            name.getStyleClass().add("bronze");
        }
        if (folds) {
            name.setOnMouseClicked(e -> model.fold(row));
        }
        box.getChildren().add(name);
        if (row.index() > 0) {
            box.getChildren().add(Parts.text(row.index() + " of " + row.count(), "third", "small"));
        }
        ContractView.tip(box, row.documentation());
        menu(box, row);
        return box;
    }

    private void menu(Node node, SheetRow row) {
        ContextMenu menu = new ContextMenu();
        if (!row.path().isEmpty()) {
            menu.getItems().add(item("Copy path", () -> Copying.text(row.path())));
            menu.getItems().add(item("Copy value", () -> Copying.text(row.value())));
        }
        if (row.canRepeat()) {
            menu.getItems().add(item("Add one more", () -> model.repeat(row)));
        }
        if (row.count() > 1 && row.count() > row.occurs().min()) {
            menu.getItems().add(item("Remove this one", () -> model.remove(row)));
        }
        if (row.canBeNil()) {
            boolean nil = row.state() == State.NIL;
            menu.getItems().add(item(nil ? "Give it a value" : "Mark as nil", () -> model.setNil(row, !nil)));
        }
        if (!menu.getItems().isEmpty()) {
            node.setOnContextMenuRequested(e -> menu.show(node, e.getScreenX(), e.getScreenY()));
        }
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }

    private Node value(Line line) {
        SheetRow row = line.row();
        if (row.state() == State.LEFT_OUT) {
            return Parts.text(
                    row.problem().isPresent() ? "missing" : "left out",
                    row.problem().isPresent() ? "failed" : "third",
                    "italic",
                    "table-text");
        }
        if (row.state() == State.NIL) {
            return Parts.text("nil", "tag", "link");
        }
        if (row.kind() == Kind.CHOICE) {
            return choice(row);
        }
        if (!row.editable()) {
            return line.open() ? null : Parts.text(row.gist(), "third", "table-text");
        }
        if (!row.options().isEmpty() && !Braces.hasExpression(row.value())) {
            return options(row);
        }
        return field(row);
    }

    private Node choice(SheetRow row) {
        ComboBox<String> box = new ComboBox<>();
        box.getStyleClass().add("value");
        box.getItems().setAll(row.options());
        box.setValue(row.value());
        box.setMaxWidth(134);
        box.valueProperty().addListener((o, was, now) -> model.choose(row, now));
        return box;
    }

    private Node options(SheetRow row) {
        ComboBox<String> box = new ComboBox<>();
        box.getStyleClass().add("value");
        box.getItems().setAll(row.options());
        box.setEditable(false);
        box.setValue(row.value());
        box.setMaxWidth(134);
        box.setId("value-" + row.label());
        box.valueProperty().addListener((o, was, now) -> model.type(row, now));
        return box;
    }

    private Node field(SheetRow row) {
        TextField field = new TextField(row.value());
        field.getStyleClass().add("value");
        field.setId("value-" + row.label() + (row.index() > 0 ? "-" + row.index() : ""));
        field.setMaxWidth(134);
        mark(field, row.problem());
        field.textProperty().addListener((o, was, now) -> mark(field, model.type(row, now)));
        return field;
    }

    private static void mark(TextField field, Optional<String> problem) {
        field.getStyleClass().removeAll("wrong", "expression");
        if (Braces.hasExpression(field.getText())) {
            field.getStyleClass().add("expression");
        }
        problem.ifPresent(p -> field.getStyleClass().add("wrong"));
        field.setTooltip(problem.map(Tooltip::new).orElse(null));
    }

    private Node occurs(Line line) {
        SheetRow row = line.row();
        HBox box = new HBox(2, third(row.occurs().toString()));
        box.setAlignment(Pos.CENTER_RIGHT);
        boolean last = row.index() == 0 || row.index() == row.count();
        if (row.canRepeat() && last) {
            var add = Parts.button("+", "Add one more " + row.label(), () -> model.repeat(row), "tiny");
            add.setId("repeat-" + row.label());
            box.getChildren().add(add);
        }
        return box;
    }
}
