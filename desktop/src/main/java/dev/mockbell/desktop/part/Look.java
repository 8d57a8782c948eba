package dev.mockbell.desktop.part;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import javafx.scene.Scene;
import javafx.scene.text.Font;

/** The bundled typefaces and the one stylesheet. */
public final class Look {
    private static final String BASE = "/dev/mockbell/desktop/";

    private Look() {}

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
