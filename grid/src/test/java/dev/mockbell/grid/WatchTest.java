package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.SplittableRandom;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;

/** How clocks are compared, and how silence is noticed. */
class WatchTest {
    private static final long TICK = 100_000_000;

    private final AtomicLong now = new AtomicLong();
    private final AtomicInteger silent = new AtomicInteger();
    private final Lifeline line = new Lifeline(2_500_000_000L, silent::incrementAndGet, now::get);

    private void pass(long nanos) {
        for (long passed = 0; passed < nanos; passed += TICK) {
            now.addAndGet(TICK);
            line.tick();
        }
    }

    @Test
    void silenceIsToldOnceWhenItHasLastedTooLong() {
        line.arm();
        pass(2_400_000_000L);
        assertThat(silent).hasValue(0);
        line.heard();
        pass(2_400_000_000L);
        assertThat(silent).hasValue(0);
        pass(300_000_000);
        assertThat(silent).hasValue(1);
        pass(9_000_000_000L);
        assertThat(silent).hasValue(1);
    }

    @Test
    void timeInWhichThisProgramWasStoppedIsNoSilence() {
        line.arm();
        pass(1_000_000_000);
        // the process is paused for five seconds, and finds what was said in the meantime
        now.addAndGet(5_000_000_000L);
        line.tick();
        assertThat(silent).hasValue(0);
        pass(2_400_000_000L);
        assertThat(silent).hasValue(0);
        pass(300_000_000);
        assertThat(silent).hasValue(1);
    }

    @Test
    void howLongSilenceIsBorneCanBeChanged() {
        line.patience(12_000_000_000L);
        line.arm();
        pass(11_000_000_000L);
        assertThat(silent).hasValue(0);
        line.patience(2_500_000_000L);
        pass(100_000_000);
        assertThat(silent).hasValue(1);
    }

    @Test
    void beforeItIsArmedAndOnceItIsClosedSilenceDoesNotMatter() {
        pass(9_000_000_000L);
        line.arm();
        line.close();
        pass(9_000_000_000L);
        assertThat(silent).hasValue(0);
    }

    /** However long the way there and the way back take, the error that is stated holds. */
    @Test
    void anotherClockIsKnownWithinTheErrorThatIsStated() {
        SplittableRandom random = new SplittableRandom(11);
        for (int round = 0; round < 200; round++) {
            long apart = random.nextLong(-1_000_000_000_000L, 1_000_000_000_000L);
            ClockTie tie = new ClockTie();
            assertThat(tie.isKnown()).isFalse();
            assertThat(tie.error()).isNegative();
            long here = 5_000_000_000L;
            for (int i = 0; i < 10; i++) {
                long there = random.nextLong(10_000, 30_000_000);
                long back = random.nextLong(10_000, 30_000_000);
                tie.heard(here, here + there + apart, here + there + back);
                here += 250_000_000;
            }
            assertThat(Math.abs(tie.there(here) - (here + apart))).isLessThanOrEqualTo(tie.error() + 1);
        }
    }
}
