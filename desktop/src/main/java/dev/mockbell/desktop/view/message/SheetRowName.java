package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Toggle;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/** The first column of a sheet: how deep a row stands, its switch, its name, and which of several it is. */
final class SheetRowName extends HBox {
    private static final double STEP = 12;
    private static final int DEEPEST_SHOWN = 14;

    private final Consumer<SheetRow> flip;
    private final Region indent = new Region();
    private final Label name = Parts.text("", "table-text");
    private final Label number = Parts.text("", "third", "small");
    private Toggle toggle;
    private Line line;

    /**
     * A name without a row yet.
     *
     * @param flip puts a row in or leaves it out
     * @param fold hears of a click on a name that has rows below
     */
    SheetRowName(Consumer<SheetRow> flip, Consumer<SheetRow> fold, BiConsumer<SheetRow, ContextMenuEvent> menu) {
        super(4);
        this.flip = flip;
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(indent, name, number);
        name.setOnMouseClicked(e -> {
            if (!line.row().children().isEmpty() && e.getButton() == MouseButton.PRIMARY) {
                fold.accept(line.row());
            }
        });
        setOnContextMenuRequested(e -> {
            menu.accept(line.row(), e);
            e.consume();
        });
        Parts.tip(this, () -> {
            SheetRow row = line.row();
            return row.documentation().isEmpty() ? row.type() : row.type() + "\n" + row.documentation();
        });
    }

    /** Shows a row. */
    void show(Line of) {
        line = of;
        SheetRow row = of.row();
        indent.setMinWidth(Math.min(of.depth(), DEEPEST_SHOWN) * STEP);
        showToggle(row);
        boolean folds = !row.children().isEmpty();
        name.setText((folds ? of.open() ? "▾ " : "▸ " : "") + row.label());
        boolean place = row.kind() == Kind.CHOICE || row.kind() == Kind.TEXT || row.kind() == Kind.WILDCARD;
        Parts.classed(name, "strong", of.depth() == 0);
        Parts.classed(name, "third", row.state() == State.LEFT_OUT);
        Parts.classed(name, "bronze", place);
        String often = row.instruction();
        boolean one = row.index() == 0 && often.isEmpty();
        number.setText(one ? "" : often.isEmpty() ? row.index() + " of " + row.count() : often);
        Parts.shown(number, !one);
    }

    private void showToggle(SheetRow row) {
        boolean switched = row.optional() && row.count() <= 1;
        if (switched && toggle == null) {
            toggle = new Toggle(() -> flip.accept(line.row()));
            getChildren().add(1, toggle);
        }
        if (toggle != null) {
            Parts.shown(toggle, switched);
        }
        if (switched) {
            boolean out = row.state() == State.LEFT_OUT;
            toggle.show(!out, out ? "Put in (Space)" : "Leave out (Space)");
            toggle.setId("include-" + row.label());
        } else if (toggle != null) {
            toggle.setId(null);
        }
    }
}
