package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.XmlFolds;
import dev.mockbell.xml.TagScan;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.collections.FXCollections;
import javafx.event.EventHandler;
import javafx.scene.Scene;
import javafx.scene.control.TextField;
import javafx.scene.input.InputEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/**
 * Brings to speed what shows an answer, while a window that has come up is left alone: out of sight, but in the window's own
 * scene, whose style rules are looked up by then, rows and text grow line by line, and stations take their turns with what they
 * will show first. Otherwise the first answer would wait on the interface thread for classes to be read and for code that has
 * never run. None of the steps is done while somebody types or moves the pointer.
 */
public final class Practice {
    private static final int LINES = 24;
    private static final int ROUNDS = 3;
    private static final double LINE = 26;
    private static final double WIDTH = 600;
    private static final Duration PAUSE = Duration.millis(40);
    private static final long QUIET = 300_000_000;

    private final Scene scene;
    private final Pane window;
    private final StackPane stage = new StackPane();
    private final Deque<Runnable> steps = new ArrayDeque<>();
    private final Timeline turns = new Timeline();
    private final EventHandler<InputEvent> touch = e -> touched();
    private long touchedAt = System.nanoTime();
    private int rounds;
    private boolean running;

    private Practice(Scene scene, Pane window) {
        this.scene = scene;
        this.window = window;
        stage.setManaged(false);
        stage.setVisible(false);
        turns.getKeyFrames().add(new KeyFrame(PAUSE, e -> turn()));
        turns.setCycleCount(Animation.INDEFINITE);
        begin();
    }

    /**
     * Begins in a window, and ends by itself. On the interface thread.
     *
     * @param window all that the window's scene shows
     */
    public static Practice in(Pane window) {
        return new Practice(window.getScene(), window);
    }

    /** Takes more to be practised, each step in a turn of its own, after what has been begun. */
    public void add(List<Runnable> more) {
        steps.addAll(more);
        if (!running && !more.isEmpty()) {
            begin();
        }
    }

    private void begin() {
        running = true;
        window.getChildren().add(stage);
        scene.addEventFilter(InputEvent.ANY, touch);
        turns.play();
    }

    private void end() {
        running = false;
        turns.stop();
        scene.removeEventFilter(InputEvent.ANY, touch);
        window.getChildren().remove(stage);
        stage.getChildren().clear();
    }

    private void touched() {
        touchedAt = System.nanoTime();
    }

    private void turn() {
        boolean there = window.getScene() == scene
                && scene.getWindow() != null
                && scene.getWindow().isShowing();
        if (steps.isEmpty() && rounds < ROUNDS) {
            rounds++;
            grow(Practice::rows);
            grow(Practice::text);
        }
        if (steps.isEmpty() || !there) {
            end();
        } else if (System.nanoTime() - touchedAt > QUIET) {
            steps.remove().run();
        }
    }

    private void grow(Supplier<Region> made) {
        steps.add(() -> {
            // no room for more than a line to begin with
            stage.resize(WIDTH, LINE);
            stage.getChildren().setAll(made.get());
        });
        for (int i = 1; i <= LINES; i++) {
            double height = i * LINE;
            steps.add(() -> stage.resize(WIDTH, height));
        }
        steps.add(() -> {
            if (stage.getChildren().get(0) instanceof XmlArea text) {
                text.margins();
            }
        });
    }

    private static Region rows() {
        Grid<Integer> grid = new Grid<Integer>(LINE)
                .unrolled()
                .growing("Element", i -> Parts.text("line " + i, "table-text"))
                .growing("Value", Practice::value)
                .yielding("Previous", 92, 330, i -> Parts.text("same", "third", "table-text"));
        grid.setItems(FXCollections.observableArrayList(
                IntStream.range(0, LINES).boxed().toList()));
        HBox bar = new HBox(
                8,
                Parts.text("rows", "third", "table-text"),
                new TextField(),
                Parts.button("rows", "", () -> {}, "quiet", "dense"));
        bar.getStyleClass().add("find-bar");
        return new VBox(bar, Parts.tall(Parts.wider(grid, 0)));
    }

    private static HBox value(int line) {
        HBox box = new HBox(6, Parts.text("value " + line, "mono"));
        if (line % 3 == 0) {
            box.getChildren().add(Parts.link("as table", "", () -> {}));
        }
        return box;
    }

    private static Region text() {
        String text = "<all>\n" + "  <line of=\"text\">1</line>\n".repeat(LINES) + "</all>";
        XmlArea area = new XmlArea(false);
        TagScan scan = TagScan.of(text);
        new XmlFolds(area, () -> scan);
        area.show(text);
        return area;
    }
}
