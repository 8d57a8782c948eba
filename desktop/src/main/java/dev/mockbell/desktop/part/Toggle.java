package dev.mockbell.desktop.part;

import javafx.scene.AccessibleAction;
import javafx.scene.AccessibleAttribute;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Rectangle;

/** A switch: on or off, by click or space. */
public final class Toggle extends Pane {
    private final Rectangle track = new Rectangle(20, 11);
    private final Circle knob = new Circle(4);
    private boolean selected;
    private final Runnable action;
    private String tip = "";

    /** @param action runs when it is switched; the owner then shows the new state */
    public Toggle(Runnable action) {
        this.action = action;
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
        setAccessibleRole(AccessibleRole.CHECK_BOX);
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
        selected = on;
        notifyAccessibleAttributeChanged(AccessibleAttribute.SELECTED);
        knob.setCenterX(on ? 14.5 : 5.5);
        Parts.classed(track, "on", on);
    }

    /** What a screen reader asks a check box for. */
    @Override
    public Object queryAccessibleAttribute(AccessibleAttribute attribute, Object... parameters) {
        return attribute == AccessibleAttribute.SELECTED
                ? (Object) selected
                : super.queryAccessibleAttribute(attribute, parameters);
    }

    @Override
    public void executeAccessibleAction(AccessibleAction wish, Object... parameters) {
        if (wish == AccessibleAction.FIRE) {
            action.run();
        } else {
            super.executeAccessibleAction(wish, parameters);
        }
    }
}
