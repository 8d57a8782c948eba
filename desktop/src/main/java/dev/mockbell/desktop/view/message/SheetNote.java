package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.sheet.SheetRow;
import java.util.Optional;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** What the contract says of the row that is pointed at, below the sheet; shown and hidden by F1. */
final class SheetNote extends VBox {
    SheetNote() {
        super(3);
        setId("sheet-note");
        getStyleClass().add("sheet-note");
        setVisible(false);
        managedProperty().bind(visibleProperty());
    }

    void toggle() {
        setVisible(!isVisible());
    }

    void show(Optional<SheetRow> row) {
        if (!isVisible()) {
            return;
        }
        getChildren().clear();
        if (row.isEmpty()) {
            getChildren().add(Parts.text("Point at a row to read what the contract says of it.", "third"));
            return;
        }
        SheetRow r = row.get();
        getChildren().add(Parts.text(r.label(), "strong"));
        getChildren().add(line(r.type() + " · occurs " + r.occurs(), "second"));
        if (!r.options().isEmpty()) {
            getChildren().add(line(String.join(" | ", r.options()), "mono"));
        }
        if (!r.documentation().isEmpty()) {
            getChildren().add(line(r.documentation(), "second"));
        }
        r.problem().ifPresent(p -> {
            Label label = Parts.marked(Mark.FAILED, p, "failed");
            label.setWrapText(true);
            getChildren().add(label);
        });
        if (!r.path().isEmpty()) {
            getChildren().add(line(r.prefixedPath(), "mono"));
        }
    }

    private static Label line(String words, String style) {
        Label label = Parts.text(words, style, "table-text");
        label.setWrapText(true);
        return label;
    }
}
