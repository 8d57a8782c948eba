package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class AdmissionTest {
    private static final long SECOND = 1_000_000_000L;

    @Test
    void afterAQuietTimeManyPassAtOnceAndThenSoManyASecond() {
        Admission admission = new Admission(200, 2_000);
        long now = System.nanoTime() + SECOND;
        long atOnce =
                IntStream.range(0, 10_000).filter(i -> admission.takes(now)).count();
        assertThat(atOnce).isBetween(2_000L, 2_001L);
        long later = LongStream.range(0, 10_000)
                .filter(i -> admission.takes(now + i * SECOND / 1_000))
                .count();
        assertThat(later).isBetween(1_990L, 2_010L);
        long quiet = now + 100 * SECOND;
        assertThat(IntStream.range(0, 10_000)
                        .filter(i -> admission.takes(quiet))
                        .count())
                .as("no more is saved up than that")
                .isBetween(2_000L, 2_001L);
    }

    @Test
    void manyThreadsGetNoMoreThanOne() {
        Admission admission = new Admission(100, 500);
        long now = System.nanoTime() + SECOND;
        assertThat(IntStream.range(0, 20_000)
                        .parallel()
                        .filter(i -> admission.takes(now))
                        .count())
                .isBetween(500L, 501L);
    }
}
