package dev.mockbell.desktop.part;

import javafx.scene.Cursor;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Rectangle;

/** A switch: on or off, by click or space. */
public final class Toggle extends Pane {
    private final Rectangle track = new Rectangle(20, 11);
    private final Circle knob = new Circle(4);
    private String tip = "";

    /** @param action runs when it is switched; the owner then shows the new state */
    public Toggle(Runnable action) {
        getStyleClass().add("toggle");
        track.setArcWidth(11);
        track.setArcHeight(11);
        track.getStyleClass().add("toggle-track");
        knob.getStyleClass().add("toggle-knob");
        knob.setCenterY(5.5);
        getChildren().addAll(track, knob);
        setMinSize(20, 11);
        setMaxSize(20, 11);
        setCursor(Cursor.HAND);
        setFocusTraversable(true);
        Parts.tip(this, () -> tip);
        setOnMouseClicked(e -> {
            action.run();
            e.consume();
        });
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.SPACE) {
                action.run();
                e.consume();
            }
        });
    }

    /** Shows a state, and says what a click does. */
    public void show(boolean on, String does) {
        tip = does;
        setAccessibleText(does);
        knob.setCenterX(on ? 14.5 : 5.5);
        Parts.classed(track, "on", on);
    }
}
