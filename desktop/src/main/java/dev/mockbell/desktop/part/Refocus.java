package dev.mockbell.desktop.part;

import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;

/**
 * Makes the content of a pane anew without taking the keyboard from the field in it. Leaving one field for another keeps what
 * was typed, and so changes what the pane shows just while the other is on its way to the keyboard.
 */
public final class Refocus {
    private Refocus() {}

    /** Runs what makes the content anew, once the gesture under way is over; fields are known again by their ids. */
    public static void around(Parent pane, Runnable anew) {
        Platform.runLater(() -> now(pane, anew));
    }

    /** As {@link #around}, at once. What is not there any more leaves the keyboard to the window, not to the first thing in it. */
    public static void now(Parent pane, Runnable anew) {
        Optional<Node> focused =
                Optional.ofNullable(pane.getScene()).map(Scene::getFocusOwner).filter(owner -> isWithin(pane, owner));
        anew.run();
        focused.filter(owner -> owner.getScene() == null || !owner.isFocused()).ifPresent(owner -> {
            Node again = owner.getId() == null ? null : pane.lookup("#" + owner.getId());
            (again == null ? pane.getScene().getRoot() : again).requestFocus();
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
