package dev.mockbell.desktop;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Properties;
import javafx.geometry.Rectangle2D;
import javafx.stage.Screen;
import javafx.stage.Stage;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Where the window was left. */
public interface WindowPlace {
    /** Nothing is remembered. */
    WindowPlace NONE = new WindowPlace() {};

    /**
     * Where a window is.
     *
     * @param maximized whether it fills the screen; the rest is where it was before
     */
    record Bounds(double x, double y, double width, double height, boolean maximized) {
        /** Those of a window. */
        public static Bounds of(Stage stage) {
            return new Bounds(stage.getX(), stage.getY(), stage.getWidth(), stage.getHeight(), stage.isMaximized());
        }
    }

    /** Puts the window where it was. On the interface thread, before it is shown. */
    default void restore(Stage stage) {}

    /** Remembers where it is. Waits for the disk. */
    default void keep(Bounds bounds) {}

    /**
     * Remembers in a file; without one, and where the window was is on no screen any more, it takes what the screen has.
     *
     * @param file read right away
     */
    static WindowPlace remembered(Path file) {
        return new Remembered(file, Remembered.read(file));
    }

    /** In a file of properties. */
    record Remembered(Path file, Properties read) implements WindowPlace {
        private static final Logger LOG = LoggerFactory.getLogger(WindowPlace.class);

        private static Properties read(Path file) {
            Properties found = new Properties();
            if (Files.isRegularFile(file)) {
                try (Reader reader = Files.newBufferedReader(file)) {
                    found.load(reader);
                } catch (IOException | IllegalArgumentException e) {
                    LOG.debug("the window opens at its usual place", e);
                }
            }
            return found;
        }

        private double number(String name) {
            try {
                return Double.parseDouble(read.getProperty(name, "NaN"));
            } catch (NumberFormatException e) {
                return Double.NaN;
            }
        }

        @Override
        public void restore(Stage stage) {
            double x = number("x");
            double y = number("y");
            double width = number("width");
            double height = number("height");
            boolean seen = width >= stage.getMinWidth()
                    && height >= stage.getMinHeight()
                    && !Screen.getScreensForRectangle(x, y, width, height).isEmpty();
            if (seen) {
                stage.setX(x);
                stage.setY(y);
                stage.setWidth(width);
                stage.setHeight(height);
            } else {
                fit(stage);
            }
            if (Boolean.parseBoolean(read.getProperty("maximized"))) {
                stage.setMaximized(true);
            }
        }

        /** A screen that the usual size does not fit on is filled; its frame would push parts of the window out otherwise. */
        private static void fit(Stage stage) {
            Rectangle2D screen = Screen.getPrimary().getVisualBounds();
            if (screen.getWidth() < 1_300 || screen.getHeight() < 860) {
                stage.setMaximized(true);
            }
        }

        @Override
        public void keep(Bounds bounds) {
            Properties now = new Properties();
            Bounds known = bounds.maximized() ? before(bounds) : bounds;
            now.setProperty("x", Double.toString(known.x()));
            now.setProperty("y", Double.toString(known.y()));
            now.setProperty("width", Double.toString(known.width()));
            now.setProperty("height", Double.toString(known.height()));
            now.setProperty("maximized", Boolean.toString(bounds.maximized()));
            StringBuilder text = new StringBuilder();
            now.stringPropertyNames().stream()
                    .sorted()
                    .forEach(n -> text.append(n)
                            .append('=')
                            .append(now.getProperty(n))
                            .append('\n'));
            try {
                AtomicFile.writePrivate(file, text.toString());
            } catch (Problem problem) {
                LOG.warn("the window's place is not remembered", problem);
            }
        }

        private Bounds before(Bounds now) {
            double width = number("width");
            return Double.isNaN(width)
                    ? now
                    : new Bounds(number("x"), number("y"), width, number("height"), now.maximized());
        }
    }
}
