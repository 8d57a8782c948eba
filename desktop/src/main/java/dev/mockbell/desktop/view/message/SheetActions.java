package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.TableText;
import dev.mockbell.sheet.Variant;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextArea;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What can be done to a row of the sheet, by menu and by key. */
final class SheetActions {
    private final Node within;
    private final MessageModel model;
    private final Consumer<String> tell;

    SheetActions(Node within, MessageModel model, Consumer<String> tell) {
        this.within = within;
        this.model = model;
        this.tell = tell;
    }

    /** Does what the key means for the row; whether it means anything. */
    boolean key(KeyEvent e, SheetRow row, boolean typing) {
        if (e.getCode() == KeyCode.F4 && row.editable()) {
            edit(row);
        } else if (e.isAltDown() && (e.getCode() == KeyCode.UP || e.getCode() == KeyCode.DOWN)) {
            model.edits().move(row, e.getCode() == KeyCode.UP ? -1 : 1);
        } else if (e.getCode() == KeyCode.INSERT && row.canRepeat()) {
            model.edits().repeat(row);
        } else if (e.isShortcutDown() && e.getCode() == KeyCode.D && isOne(row)) {
            model.edits().duplicate(row);
        } else if (!typing && e.getCode() == KeyCode.DELETE && row.state() != State.LEFT_OUT) {
            takeAway(row);
        } else if (!typing && e.isShortcutDown() && e.getCode() == KeyCode.C) {
            Copying.text(row.children().isEmpty() ? row.value() : model.xml(row));
        } else if (!typing && e.isShortcutDown() && e.getCode() == KeyCode.V) {
            paste(row);
        } else {
            return false;
        }
        return true;
    }

    private static boolean isOne(SheetRow row) {
        return !row.path().isEmpty() && row.kind() != Kind.ATTRIBUTE && row.kind() != Kind.TEXT;
    }

    private void takeAway(SheetRow row) {
        if (row.optional() && row.count() <= 1) {
            model.edits().leaveOut(row);
        } else if (row.removable()) {
            model.edits().remove(row);
        }
    }

    ContextMenu menu(SheetRow row) {
        ContextMenu menu = new ContextMenu();
        boolean out = row.state() == State.LEFT_OUT;
        if (row.optional()) {
            add(menu, out ? "Put in" : "Leave out", "Space", () -> {
                if (out) {
                    model.edits().include(row);
                } else {
                    model.edits().leaveOut(row);
                }
            });
        } else if (out && row.kind() != Kind.WILDCARD) {
            add(menu, "Put in", "", () -> model.edits().include(row));
        }
        if (row.canRepeat()) {
            add(menu, "Add one more", "Insert", () -> model.edits().repeat(row));
        }
        if (row.canRepeatGroup()) {
            add(menu, "Add one more of the group", "", () -> model.edits().repeatGroup(row));
        }
        if (!out && isOne(row) && row.count() > 0 && row.occurs().repeats()) {
            add(menu, "Duplicate", "Ctrl+D", () -> model.edits().duplicate(row));
        }
        if (row.index() > 0) {
            add(menu, "Move up", "Alt+Up", () -> model.edits().move(row, -1));
            add(menu, "Move down", "Alt+Down", () -> model.edits().move(row, 1));
        }
        if (!out && row.removable() && (!row.optional() || row.count() > 1)) {
            add(
                    menu,
                    row.problem().isPresent() || row.count() > 1 ? "Remove" : "Remove, though it is required",
                    "Delete",
                    () -> model.edits().remove(row));
        }
        if (row.occurs().repeats() && row.kind() != Kind.WILDCARD) {
            add(menu, "Fill rows from a table…", "", () -> pasteRows(row));
        }
        if (model.isTemplate() && !out && isOne(row) && row.kind() != Kind.REPEATS) {
            add(
                    menu,
                    "How often…",
                    "",
                    () -> ask(
                            "How often " + row.label() + " is written",
                            "for $name in XPATH – once for each, with $name and $position in its values; if XPATH – only then; nothing"
                                    + " – once.",
                            row.instruction(),
                            "Keep",
                            text -> model.edits().instruct(row, text)));
        }
        variants(menu, row);
        if (row.canBeNil()) {
            boolean nil = row.state() == State.NIL;
            add(menu, nil ? "Not nil" : "Nil", "", () -> model.edits().setNil(row, !nil));
        }
        if (row.editable()) {
            add(menu, "Empty", "", () -> model.edits().put(row, ""));
            add(menu, "Edit in full…", "F4", () -> edit(row));
        }
        if (!out && row.kind() == Kind.GROUP) {
            add(menu, "Add text", "", () -> model.edits().addText(row));
        }
        if (!out && isOne(row) && row.kind() != Kind.REPEATS) {
            add(menu, "Add attributes…", "", () -> addAttributes(row));
        }
        menu.getItems().add(new SeparatorMenuItem());
        if (!row.path().isEmpty()) {
            add(menu, "Copy path", "", () -> Copying.text(row.path()));
            add(menu, "Copy path with prefixes", "", () -> Copying.text(row.prefixedPath()));
            if (row.children().isEmpty()) {
                add(menu, "Copy value", "Ctrl+C", () -> Copying.text(row.value()));
            }
            add(menu, "Copy as XML", row.children().isEmpty() ? "" : "Ctrl+C", () -> Copying.text(model.xml(row)));
        }
        if (row.kind() != Kind.ATTRIBUTE && row.kind() != Kind.TEXT) {
            add(menu, "Paste XML…", "Ctrl+V", () -> pasteXml(row));
        }
        menu.getItems().add(new SeparatorMenuItem());
        add(menu, "Fold all", "", () -> model.foldAll(true));
        add(menu, "Open all", "", () -> model.foldAll(false));
        return menu;
    }

    private void variants(ContextMenu menu, SheetRow row) {
        List<Variant> all = model.variants(row);
        for (boolean types : new boolean[] {false, true}) {
            Menu group = new Menu(types ? "Type" : "Element");
            all.stream().filter(v -> v.isType() == types).forEach(v -> {
                RadioMenuItem item = new RadioMenuItem(v.title());
                item.setSelected(v.isNow());
                item.setOnAction(e -> model.edits().become(row, v));
                group.getItems().add(item);
            });
            if (!group.getItems().isEmpty()) {
                menu.getItems().add(group);
            }
        }
    }

    private void add(ContextMenu menu, String words, String keys, Runnable action) {
        MenuItem item = new MenuItem(keys.isEmpty() ? words : words + "   (" + keys + ")");
        item.setOnAction(e -> careful(action));
        menu.getItems().add(item);
    }

    private void careful(Runnable action) {
        try {
            action.run();
        } catch (Problem problem) {
            tell.accept(problem.getMessage());
        }
    }

    private void paste(SheetRow row) {
        String text = Clipboard.getSystemClipboard().getString();
        if (text == null) {
            return;
        }
        careful(() -> {
            if (text.stripLeading().startsWith("<")) {
                model.edits().paste(row, text);
            } else if (row.occurs().repeats() && text.strip().indexOf('\n') > 0) {
                model.edits().pasteRows(row, TableText.cells(text));
            } else if (row.editable()) {
                model.edits().put(row, text.strip());
            }
        });
    }

    /** Lets XML be pasted and put in at a row. */
    void pasteXml(SheetRow row) {
        ask(
                "XML for " + row.label(),
                "An element, or several. It goes where its name has a place.",
                clipboard("<"),
                "Put in",
                text -> model.edits().paste(row, text));
    }

    private void addAttributes(SheetRow row) {
        ask(
                "Attributes for " + row.label(),
                "As they are written in the tag. What the contract does not know is put in and marked.",
                "",
                "Put in",
                text -> model.edits().addAttributes(row, text));
    }

    private void pasteRows(SheetRow row) {
        ask(
                "Rows for " + row.label(),
                "Lines from a table or CSV. A first line of field names says which column is which.",
                clipboard(""),
                "Fill",
                text -> model.edits().pasteRows(row, TableText.cells(text)));
    }

    private static String clipboard(String start) {
        String text = Clipboard.getSystemClipboard().getString();
        return text != null && text.stripLeading().startsWith(start) && !start.isEmpty() ? text : "";
    }

    /** Edits a value in a window of its own. */
    void edit(SheetRow row) {
        ValueWindow.show(within, row, model, value -> model.edits().put(row, value));
    }

    private void ask(String title, String hint, String given, String yes, Consumer<String> then) {
        TextArea area = new TextArea(given);
        area.getStyleClass().add("mono");
        area.setPrefRowCount(12);
        area.setId("ask-text");
        VBox.setVgrow(area, Priority.ALWAYS);
        var wrong = Parts.text("", "failed", "table-text");
        wrong.setWrapText(true);
        Runnable done = () -> {
            try {
                then.accept(area.getText());
                Overlay.close(within);
            } catch (Problem problem) {
                wrong.setText(problem.getMessage());
            }
        };
        var button = Parts.button(yes, "", done, "primary");
        button.setId("ask-text-done");
        HBox foot = new HBox(8, wrong, Parts.spring(), button);
        Overlay.show(within, new VBox(8, Parts.text(title, "strong"), Parts.text(hint, "second"), area, foot), 620);
        area.requestFocus();
    }
}
