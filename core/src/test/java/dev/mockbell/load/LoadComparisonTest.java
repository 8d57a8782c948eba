package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.load.LoadComparison.Line;
import dev.mockbell.load.LoadComparison.Verdict;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.random.RandomGenerator;
import org.HdrHistogram.Histogram;
import org.junit.jupiter.api.Test;

class LoadComparisonTest {
    private static Histogram times(RandomGenerator random, int count, double factor) {
        Histogram times = Tally.histogram();
        for (int i = 0; i < count; i++) {
            // a long tail, as response times have
            times.recordValue((long) Math.max(1, factor * 5_000 * Math.exp(random.nextGaussian() * 0.5)));
        }
        return times;
    }

    private static LoadRun run(Histogram times, LoadShape shape) {
        StepFigures all = new StepFigures(
                StepFigures.Kind.ALL, "all", times.getTotalCount(), 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1);
        return new LoadRun(
                LoadPlan.of("p", "P", "s", shape),
                Instant.EPOCH,
                10,
                false,
                all,
                List.of(),
                List.of(),
                Map.of(),
                List.of(),
                List.of(),
                Health.UNKNOWN,
                List.of(),
                List.of(times),
                List.of());
    }

    private static LoadComparison compared(Histogram before, Histogram now) {
        LoadShape shape = LoadShape.arrivals(5, 10);
        return LoadComparison.of(run(before, shape), run(now, shape));
    }

    @Test
    void theIntervalHoldsTheTrueValueInNineteenCasesOfTwenty() {
        SplittableRandom random = new SplittableRandom(3);
        double trueP95 = 5 * Math.exp(0.5 * 1.6449);
        int held = 0;
        for (int i = 0; i < 400; i++) {
            var interval = LoadComparison.interval(times(random, 2_000, 1), 95);
            held += interval.low() <= trueP95 && trueP95 <= interval.high() ? 1 : 0;
        }
        assertThat(held).isBetween(368, 400);
    }

    @Test
    void whatChanceGivesIsNoDifferenceAndATenthSlowerIsSeen() {
        SplittableRandom random = new SplittableRandom(9);
        int falsely = 0;
        for (int i = 0; i < 100; i++) {
            LoadComparison same = compared(times(random, 2_000, 1), times(random, 2_000, 1));
            falsely += same.lines().stream().anyMatch(l -> l.verdict() != Verdict.ALIKE) ? 1 : 0;
        }
        assertThat(falsely).isLessThan(5);
        LoadComparison slower = compared(times(random, 20_000, 1), times(random, 20_000, 1.1));
        assertThat(slower.lines()).extracting(Line::verdict).containsOnly(Verdict.SLOWER);
        LoadComparison faster = compared(times(random, 20_000, 1.1), times(random, 20_000, 1));
        assertThat(faster.lines()).extracting(Line::verdict).containsOnly(Verdict.FASTER);
    }

    @Test
    void ofFewAnswersNothingIsSaid() {
        SplittableRandom random = new SplittableRandom(5);
        LoadComparison few = compared(times(random, 30, 1), times(random, 30, 9));
        assertThat(few.lines().get(2).what()).isEqualTo("p99");
        assertThat(few.lines().get(2).verdict()).isEqualTo(Verdict.UNKNOWN);
        assertThat(few.lines().get(0).verdict()).isEqualTo(Verdict.SLOWER);
    }

    @Test
    void whatIsAnotherInThePlanIsSaid() {
        LoadComparison two = LoadComparison.of(
                run(Tally.histogram(), LoadShape.arrivals(5, 10)), run(Tally.histogram(), LoadShape.users(5, 10)));
        assertThat(two.plan()).containsExactly("shape: 5/s for 10 s before, 5 users for 10 s now");
    }
}
