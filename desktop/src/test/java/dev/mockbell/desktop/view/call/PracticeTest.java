package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.Look;
import dev.mockbell.desktop.toolkit.Toolkit;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What is practised is out of sight, rests while somebody works, and leaves nothing behind. */
class PracticeTest {
    private StackPane window;
    private Stage stage;
    private Hand hand;

    @BeforeAll
    static void start() {
        Toolkit.start();
    }

    @BeforeEach
    void open() {
        stage = Hand.on(() -> {
            window = new StackPane(new Label("what is worked with"));
            Stage made = new Stage();
            Scene scene = new Scene(window, 500, 400);
            Look.apply(scene);
            made.setScene(scene);
            made.show();
            Practice.in(window);
            return made;
        });
        hand = new Hand(stage);
    }

    @AfterEach
    void close() {
        Hand.run(stage::hide);
    }

    private Node practised() {
        return window.getChildren().get(1);
    }

    @Test
    void rowsAndTextsAreMadeOutOfSightAndGoAgain() {
        hand.await("rows", () -> practised().lookup(".list-cell") != null);
        assertThat(Hand.on(() -> practised().isVisible() || practised().isManaged()))
                .isFalse();
        hand.await("lines of a text", () -> practised().lookup(".lineno") != null);
        hand.await("the end", () -> window.getChildren().size() == 1);
    }

    @Test
    void nothingIsDoneWhileSomebodyTypes() {
        hand.await("the first rows", () -> practised().lookup(".grid") != null);
        AtomicInteger most = new AtomicInteger();
        // the time before a key is pressed: it is taken some time between then and when that has been done
        long before = System.nanoTime();
        double height = Hand.on(() -> practised().getLayoutBounds().getHeight());
        // one step may have been on its way
        long allowed = 2;
        for (int i = 0; i < 40; i++) {
            long began = System.nanoTime();
            hand.press(KeyCode.A);
            // where others use the machine, a key may come so late that it is quiet before it, and steps are 40 ms
            // apart
            long millis = (System.nanoTime() - before) / 1_000_000;
            allowed += millis < 250 ? 0 : 1 + (millis - 250) / 40;
            before = began;
            most.accumulateAndGet(
                    (int) (double) Hand.on(() -> practised().getLayoutBounds().getHeight()), Math::max);
        }
        assertThat((double) most.get()).isLessThanOrEqualTo(height + allowed * 26);
    }

    @Test
    void itEndsWithTheWindow() {
        Hand.run(stage::hide);
        hand.await("the end", () -> window.getChildren().size() == 1);
    }
}
