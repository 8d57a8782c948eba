package dev.mockbell.desktop.part;

import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.Parent;

/**
 * Makes the content of a pane anew without taking the keyboard from the field in it. Leaving one field for another keeps what
 * was typed, and so changes what the pane shows just while the other is on its way to the keyboard.
 */
public final class Refocus {
    private Refocus() {}

    /** Runs what makes the content anew, once the gesture under way is over; fields are known again by their ids. */
    public static void around(Parent pane, Runnable anew) {
        Platform.runLater(() -> {
            Optional<String> focused = Optional.ofNullable(pane.getScene())
                    .map(s -> s.getFocusOwner())
                    .filter(owner -> isWithin(pane, owner))
                    .map(Node::getId);
            anew.run();
            focused.map(id -> pane.lookup("#" + id))
                    .filter(field -> !field.isFocused())
                    .ifPresent(Node::requestFocus);
        });
    }

    private static boolean isWithin(Parent pane, Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (at == pane) {
                return true;
            }
        }
        return false;
    }
}
