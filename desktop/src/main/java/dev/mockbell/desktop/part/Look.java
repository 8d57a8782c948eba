package dev.mockbell.desktop.part;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import javafx.collections.FXCollections;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.VBox;
import javafx.scene.text.Font;

/** The bundled typefaces and the one stylesheet. */
public final class Look {
    private static final String BASE = "/dev/mockbell/desktop/";

    private Look() {}

    /**
     * Dresses a scene that is never shown, with one of each common control in it: what a first window needs of typefaces,
     * style rules and skins is read by then. Costs little a second time. On the interface thread, which has nothing else to do
     * while a project is read.
     */
    public static void prepare() {
        VBox all = new VBox(
                new Label("a"),
                new Button("a"),
                new ToggleButton("a"),
                new TextField("a"),
                new CheckBox("a"),
                new MenuButton("a"),
                new SplitPane(new Label("a"), new ScrollPane(new Label("a"))),
                new ListView<>(FXCollections.observableArrayList("a")));
        apply(new Scene(all, 600, 400));
        all.applyCss();
        all.layout();
    }

    /** Dresses a scene. */
    public static void apply(Scene scene) {
        for (String file : List.of(
                "Inter_400Regular.ttf",
                "Inter_500Medium.ttf",
                "Inter_600SemiBold.ttf",
                "JetBrainsMono_400Regular.ttf",
                "JetBrainsMono_500Medium.ttf")) {
            try (InputStream in = Look.class.getResourceAsStream(BASE + "fonts/" + file)) {
                Font.loadFont(in, 13);
            } catch (IOException e) {
                throw new IllegalStateException("a bundled typeface cannot be read: " + file, e);
            }
        }
        scene.getStylesheets().add(Look.class.getResource(BASE + "mockbell.css").toExternalForm());
    }
}
