package dev.mockbell.desktop;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Look;
import dev.mockbell.desktop.view.Frame;
import dev.mockbell.desktop.view.Models;
import java.util.prefs.Preferences;
import javafx.scene.Scene;
import javafx.stage.Stage;

/** One window over one desk. Made and used on the interface thread. */
public final class MockBellWindow {
    private final Stage stage;
    private final Frame frame;
    private final Models models;

    private MockBellWindow(Stage stage, Frame frame, Models models) {
        this.stage = stage;
        this.frame = frame;
        this.models = models;
    }

    /** Shows a window of the usual size, or where it was left when {@code place} says so. */
    public static MockBellWindow open(Desk desk, Stage stage, WindowPlace place) {
        Models models = Models.of(desk);
        Frame frame = new Frame(models);
        Scene scene = new Scene(frame, 1280, 800);
        Look.apply(scene);
        stage.setTitle("Mock Bell – " + desk.project().name());
        stage.setScene(scene);
        stage.setMinWidth(1020);
        stage.setMinHeight(640);
        place.restore(stage);
        stage.setOnHidden(e -> {
            place.keep(stage);
            models.mocks().close();
            desk.close();
        });
        stage.show();
        frame.requestFocus();
        return new MockBellWindow(stage, frame, models);
    }

    public Stage stage() {
        return stage;
    }

    public Frame frame() {
        return frame;
    }

    public Models models() {
        return models;
    }

    /** Where the window was left. */
    public interface WindowPlace {
        /** Nothing is remembered. */
        WindowPlace NONE = new WindowPlace() {};

        /** Puts the window where it was. */
        default void restore(Stage stage) {}

        /** Remembers where it is. */
        default void keep(Stage stage) {}

        /** Remembers in the user's preferences. */
        static WindowPlace remembered() {
            return new Remembered(Preferences.userRoot().node("dev/mockbell/window"));
        }
    }

    private record Remembered(Preferences preferences) implements WindowPlace {
        @Override
        public void restore(Stage stage) {
            double width = preferences.getDouble("width", 0);
            if (width > 600) {
                stage.setX(preferences.getDouble("x", 0));
                stage.setY(preferences.getDouble("y", 0));
                stage.setWidth(width);
                stage.setHeight(preferences.getDouble("height", 800));
            }
        }

        @Override
        public void keep(Stage stage) {
            preferences.putDouble("x", stage.getX());
            preferences.putDouble("y", stage.getY());
            preferences.putDouble("width", stage.getWidth());
            preferences.putDouble("height", stage.getHeight());
        }
    }
}
