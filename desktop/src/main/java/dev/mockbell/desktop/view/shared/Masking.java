package dev.mockbell.desktop.view.shared;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import javafx.scene.Node;
import javafx.scene.control.Button;

/** The button beside a message that has credentials masked: it shows them, and hides them again. */
public final class Masking {
    private Masking() {}

    /** A switch between the very bytes and what hides secrets in them. */
    public static Node toggle(Desk desk) {
        Button button = Parts.button(
                "Show masked",
                "Show passwords, tokens and secrets as they went over the wire",
                () -> desk.maskedProperty().set(!desk.maskedProperty().get()),
                "quiet");
        button.setId("masking");
        button.textProperty()
                .bind(javafx.beans.binding.Bindings.when(desk.maskedProperty())
                        .then("Show masked")
                        .otherwise("Mask again"));
        button.managedProperty().bind(button.visibleProperty());
        button.setVisible(false);
        return button;
    }
}
