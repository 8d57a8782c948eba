package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.StackPane;

/** The second column of a sheet: a field where there is a value, words where there is none. Each is made when first needed. */
final class SheetRowValue extends StackPane {
    private final BiConsumer<ValueField, Line> fill;
    private final Consumer<SheetRow> pasteXml;
    private Label words;
    private ValueField field;
    private Button any;
    private Line line;

    /**
     * A value without a row yet.
     *
     * @param fill makes a field one for a row that is typed in or chosen from
     * @param pasteXml hears of the wish to put XML in where any element may stand
     */
    SheetRowValue(BiConsumer<ValueField, Line> fill, Consumer<SheetRow> pasteXml) {
        this.fill = fill;
        this.pasteXml = pasteXml;
        setAlignment(Pos.CENTER_LEFT);
    }

    /** Shows a row. A field that is typed in stays as it is while its row does. */
    void show(Line of) {
        boolean same = of == line;
        line = of;
        SheetRow row = of.row();
        if (row.kind() == Kind.WILDCARD) {
            only(any());
        } else if (hasField(row)) {
            boolean typedIn =
                    same && field != null && field.isTypedIn() && field.text().equals(row.value());
            if (!typedIn) {
                fill.accept(field(), of);
            }
            only(field);
        } else {
            say(words());
            only(words);
        }
    }

    private static boolean hasField(SheetRow row) {
        return row.editable() || row.kind() == Kind.CHOICE && row.state() == State.PRESENT;
    }

    private void only(Node shown) {
        for (Node node : getChildren()) {
            Parts.shown(node, node == shown);
        }
    }

    private <T extends Node> T added(T node) {
        getChildren().add(node);
        return node;
    }

    private Button any() {
        if (any == null) {
            any = added(Parts.button(
                    "Paste XML…", "Any element may stand here", () -> pasteXml.accept(line.row()), "quiet", "link"));
        }
        return any;
    }

    private ValueField field() {
        if (field == null) {
            field = added(new ValueField("", now -> {}));
        }
        return field;
    }

    private Label words() {
        if (words == null) {
            words = added(new Label());
            words.setMinWidth(0);
            Parts.tip(
                    words,
                    () -> line.row().state() == State.PRESENT
                            ? line.row().problem().orElse("")
                            : "");
        }
        return words;
    }

    /** What a row without a field says in its place. */
    private void say(Label label) {
        SheetRow row = line.row();
        boolean out = row.state() == State.LEFT_OUT;
        boolean nil = row.state() == State.NIL;
        boolean wrong = row.problem().isPresent();
        boolean gist = !line.open() || row.kind() == Kind.REPEATS;
        label.setText(
                out
                        ? wrong ? "missing" : "left out"
                        : nil ? "nil" : row.problem().orElse(gist ? row.gist() : ""));
        Parts.classed(label, "failed", wrong && !nil);
        Parts.classed(label, "third", !wrong && !nil);
        Parts.classed(label, "italic", out);
        Parts.classed(label, "table-text", !nil);
        Parts.classed(label, "tag", nil);
        Parts.classed(label, "link", nil);
    }
}
