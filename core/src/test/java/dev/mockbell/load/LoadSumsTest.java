package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.HdrHistogram.Histogram;
import org.junit.jupiter.api.Test;

class LoadSumsTest {
    private static Histogram empty() {
        return new Histogram(1, 3_600_000_000L, 3);
    }

    private static Portion crowded(int second) {
        return new Portion(
                second,
                List.of(empty()),
                List.of(empty()),
                Stream.generate(LoadSumsTest::empty)
                        .limit(Spent.Stage.values().length)
                        .toList(),
                List.of(0L),
                List.of(0L),
                0,
                0,
                0,
                0,
                new Health(0, 0, 0.4, 0.99, 0, 0, 1),
                Map.of());
    }

    private static LoadRun run(int full) {
        LoadSums sums = new LoadSums(LoadPlan.of("p", "P", "s", LoadShape.users(1, 10)), List.of("Book"), List.of());
        for (int second = 1; second <= full + 1; second++) {
            sums.add(crowded(second));
        }
        for (int second = 1; second <= full; second++) {
            sums.close(second);
        }
        return sums.result(Instant.EPOCH, full + 0.4, false, List.of(), List.of());
    }

    @Test
    void ofTheSecondsThatCountTheCrowdedAreCountedAndNotThePieceBehindThem() {
        assertThat(run(3).warnings()).anyMatch(w -> w.startsWith("In 3 of 3 seconds the machine's processors"));
        assertThat(run(1).warnings()).isEmpty();
    }
}
