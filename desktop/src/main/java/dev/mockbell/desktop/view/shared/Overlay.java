package dev.mockbell.desktop.view.shared;

import java.util.List;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;

/** Something laid over the window until Esc or a click beside it. */
public final class Overlay extends StackPane {
    private final Optional<Node> before;
    private final Runnable closed;

    /** @param before has the keyboard, and gets it back */
    private Overlay(Region content, double width, Optional<Node> before, Runnable closed) {
        this.before = before;
        this.closed = closed;
        getStyleClass().add("veil");
        setId("overlay");
        content.setMaxSize(width, Region.USE_PREF_SIZE);
        if (!content.getStyleClass().contains("finder")) {
            content.getStyleClass().add("finder");
        }
        StackPane.setAlignment(content, Pos.TOP_CENTER);
        StackPane.setMargin(content, new Insets(70, 20, 40, 20));
        getChildren().add(content);
        setOnMouseClicked(e -> {
            if (e.getTarget() == this) {
                close(this);
            }
        });
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                close(this);
                e.consume();
            }
        });
    }

    private static StackPane ground(Node within) {
        return (StackPane) within.getScene().getRoot();
    }

    /** Lays {@code content} over the window that shows {@code within}. */
    public static void show(Node within, Region content, double width) {
        show(within, content, width, () -> {});
    }

    /** As {@link #show(Node, Region, double)}; {@code closed} is run when it is taken away, by whatever. */
    public static void show(Node within, Region content, double width, Runnable closed) {
        close(within);
        Optional<Node> before = Optional.ofNullable(within.getScene().getFocusOwner());
        Overlay overlay = new Overlay(content, width, before, closed);
        ground(within).getChildren().add(overlay);
        Node first = content.lookup(".text-field");
        if (first == null) {
            first = content.lookup(".list-view");
        }
        if (first != null) {
            first.requestFocus();
        }
    }

    /** Takes away whatever lies over the window. */
    public static void close(Node within) {
        if (within.getScene() != null) {
            for (Node node : List.copyOf(ground(within).getChildren())) {
                if (node instanceof Overlay overlay) {
                    ground(within).getChildren().remove(overlay);
                    // else the toolkit gives the keyboard to whatever comes first in the window
                    overlay.before
                            .filter(b -> b.getScene() == within.getScene())
                            .ifPresent(Node::requestFocus);
                    overlay.closed.run();
                }
            }
        }
    }
}
