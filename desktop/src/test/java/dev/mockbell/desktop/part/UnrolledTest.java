package dev.mockbell.desktop.part;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.toolkit.Toolkit;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import java.util.function.IntSupplier;
import javafx.scene.Scene;
import javafx.scene.layout.Region;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What makes much for what is in view makes it in pieces, all of it in the end, and in one go where that is quick. */
class UnrolledTest {
    private static final double HEIGHT = 400;

    /** Takes so long for each pixel that comes into view. */
    private static final class Slow extends Region {
        private final long nanosAPixel;
        private final List<Double> heights = new ArrayList<>();
        private double made;

        Slow(long nanosAPixel) {
            this.nanosAPixel = nanosAPixel;
        }

        @Override
        protected void layoutChildren() {
            if (getHeight() > made) {
                heights.add(getHeight());
                long until = System.nanoTime() + (long) ((getHeight() - made) * nanosAPixel);
                while (System.nanoTime() < until) {
                    LockSupport.parkNanos(100_000);
                }
                made = getHeight();
            }
        }
    }

    private Stage stage;

    @BeforeAll
    static void start() {
        Toolkit.start();
    }

    @AfterEach
    void close() {
        Hand.run(stage::hide);
    }

    private Unrolled shown(Slow content) {
        Unrolled box = shown(content, () -> 100);
        new Hand(stage).await("all of it", box::isWhole);
        return box;
    }

    private Unrolled shown(Slow content, IntSupplier rows) {
        return Hand.on(() -> {
            Unrolled made = new Unrolled(content, rows);
            stage = new Stage();
            stage.setScene(new Scene(made, 300, HEIGHT));
            stage.show();
            return made;
        });
    }

    private static List<Double> heights(Slow content) {
        return Hand.on(() -> List.copyOf(content.heights));
    }

    @Test
    void whatTakesLongIsMadeInPieces() {
        Slow content = new Slow(400_000);
        shown(content);
        List<Double> heights = heights(content);
        assertThat(heights).isSorted().hasSizeGreaterThan(6).endsWith(HEIGHT);
        // a piece of 20 ms each would be 50 pixels; none becomes larger than the first
        for (int i = 1; i < heights.size(); i++) {
            assertThat(heights.get(i) - heights.get(i - 1)).isLessThanOrEqualTo(heights.get(0));
        }
    }

    @Test
    void whatIsQuickIsThereAfterAFewFrames() {
        Slow content = new Slow(0);
        shown(content);
        assertThat(heights(content)).hasSizeLessThan(6).endsWith(HEIGHT);
    }

    @Test
    void onceAllIsThereItFollowsItsRoomAtOnceUntilItBeginsAnew() {
        Slow content = new Slow(0);
        Unrolled box = shown(content);
        Hand.run(() -> {
            box.resize(300, 2 * HEIGHT);
            box.layout();
            assertThat(content.getHeight()).isEqualTo(2 * HEIGHT);
            box.again();
            box.layout();
            assertThat(content.getHeight()).isLessThan(HEIGHT);
        });
        new Hand(stage).await("all of it again", box::isWhole);
        assertThat(Hand.on(content::getHeight)).isGreaterThanOrEqualTo(HEIGHT);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2})
    void whereThereWasLittleItHasRoomForThatAndWhatComesIsMadeInPieces(int before) {
        AtomicInteger rows = new AtomicInteger(before);
        Slow content = new Slow(0);
        Unrolled box = shown(content, rows::get);
        // what says that there is nothing stands in the middle of all that there is; two rows of 26 fill no more
        double room = before == 0 ? HEIGHT : 52;
        new Hand(stage).await("its room", () -> heights(content).contains(room));
        assertThat(Hand.on(box::isWhole)).isTrue();
        Hand.run(() -> {
            rows.set(100);
            assertThat(box.isWhole()).isFalse();
            box.requestLayout();
            box.layout();
            // two rows of 26 stay in sight
            assertThat(content.getHeight()).isEqualTo(before == 0 ? 0 : 52);
        });
        new Hand(stage).await("all of it", box::isWhole);
        assertThat(Hand.on(content::getHeight)).isEqualTo(HEIGHT);
    }
}
