package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Capture;
import dev.mockbell.desktop.part.Parts;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What a case takes out of its answers, with the value that it took. It stays when another answer comes. */
final class CaptureRow extends VBox {
    /** Of a value. */
    private static final int MOST_SHOWN = 300;

    private final Label value = Parts.text("", "third", "table-text");

    CaptureRow(Capture capture, Runnable edit, Runnable remove) {
        Label name = Parts.text("$" + capture.name(), "mono");
        name.setMinWidth(Region.USE_PREF_SIZE);
        Label from = Parts.text("← " + capture.path().replaceFirst("^/[^/]+/", ""), "table-text", "second");
        from.setMinWidth(0);
        HBox first = new HBox(
                5,
                name,
                from,
                Parts.spring(),
                Parts.button("Edit", "Its name, and what it takes", edit, "tiny"),
                Parts.button("×", "Take this capture away", remove, "tiny"));
        first.setAlignment(Pos.CENTER_LEFT);
        value.managedProperty().bind(value.visibleProperty());
        getChildren().addAll(first, value);
    }

    /** Shows what was taken; empty for nothing. */
    void show(Optional<String> taken) {
        value.setVisible(taken.isPresent());
        value.setText(Parts.line(taken.orElse(""), MOST_SHOWN));
    }
}
