package dev.mockbell.desktop;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LeftOff;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Look;
import dev.mockbell.desktop.view.call.Practice;
import dev.mockbell.desktop.view.frame.Frame;
import java.util.concurrent.CompletableFuture;
import javafx.geometry.Rectangle2D;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.stage.Screen;
import javafx.stage.Stage;

/** One window over one desk. Made and used on the interface thread. */
public final class MockBellWindow {
    private final Stage stage;
    private final Frame frame;
    private final Models models;
    private final CompletableFuture<Void> closed = new CompletableFuture<>();

    private MockBellWindow(Stage stage, Frame frame, Models models) {
        this.stage = stage;
        this.frame = frame;
        this.models = models;
    }

    /**
     * Shows a window of the usual size, or where it was left when {@code place} says so.
     *
     * @param stage without content; or shown with some already, which gives way
     */
    public static MockBellWindow open(Desk desk, Stage stage, WindowPlace place) {
        Models models = Models.of(desk);
        LeftOff.of(models);
        Frame frame = new Frame(models);
        if (stage.getScene() == null) {
            dress(stage, frame, place);
        } else {
            stage.getScene().setRoot(frame);
        }
        stage.setTitle("Mock Bell – " + desk.project().name());
        MockBellWindow window = new MockBellWindow(stage, frame, models);
        // a field that is being typed in keeps its text when the keyboard leaves it
        stage.setOnHiding(e -> frame.requestFocus());
        // the system may want another theme by then
        stage.focusedProperty().addListener((o, was, now) -> desk.appearance().look());
        stage.setOnHidden(e -> window.end(desk, place));
        stage.show();
        frame.requestFocus();
        return window;
    }

    /** Brings to speed what is shown later, while the window is left alone. */
    public void practise() {
        Practice practice = Practice.in(frame);
        frame.onStation(view -> practice.add(view.practice()));
    }

    /** Gives a window its first content, its look, its least size and its place. */
    static void dress(Stage stage, Parent root, WindowPlace place) {
        Scene scene = new Scene(root, 1280, 800);
        Look.apply(scene);
        stage.setScene(scene);
        // where everything is shown twice as large a screen may have less
        Rectangle2D screen = Screen.getPrimary().getVisualBounds();
        stage.setMinWidth(Math.min(Frame.LEAST_WIDTH, screen.getWidth()));
        stage.setMinHeight(Math.min(Frame.LEAST_HEIGHT, screen.getHeight()));
        place.restore(stage);
    }

    /** What is being typed is taken over here; all that waits for the disk or the network happens elsewhere. */
    private void end(Desk desk, WindowPlace place) {
        desk.settle();
        WindowPlace.Bounds bounds = WindowPlace.Bounds.of(stage);
        Thread ending = new Thread(
                () -> {
                    try {
                        desk.close();
                        place.keep(bounds);
                    } finally {
                        closed.complete(null);
                    }
                },
                "ending");
        ending.start();
    }

    /** Done when the window is closed and everything is saved. */
    public CompletableFuture<Void> closed() {
        return closed;
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
}
