package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.mockbell.load.LoadComparison.Found;
import dev.mockbell.load.LoadComparison.Line;
import dev.mockbell.load.LoadComparison.Verdict;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
        return run(times, shape, 0);
    }

    private static LoadRun run(Histogram times, LoadShape shape, long failed) {
        StepFigures all = new StepFigures(
                StepFigures.Kind.ALL, "all", times.getTotalCount(), failed, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1);
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
        return LoadComparison.of(run(before, shape), List.of(run(now, shape)));
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
            falsely += verdicts(same).stream().anyMatch(v -> v != Verdict.ALIKE) ? 1 : 0;
        }
        assertThat(falsely).isLessThan(5);
        LoadComparison slower = compared(times(random, 20_000, 1), times(random, 20_000, 1.1));
        assertThat(verdicts(slower)).containsExactly(Verdict.WORSE, Verdict.WORSE, Verdict.WORSE, Verdict.ALIKE);
        LoadComparison faster = compared(times(random, 20_000, 1.1), times(random, 20_000, 1));
        assertThat(verdicts(faster)).containsExactly(Verdict.BETTER, Verdict.BETTER, Verdict.BETTER, Verdict.ALIKE);
    }

    @Test
    void ofFewAnswersNothingIsSaid() {
        SplittableRandom random = new SplittableRandom(5);
        LoadComparison few = compared(times(random, 30, 1), times(random, 30, 9));
        assertThat(few.lines().get(2).what()).isEqualTo("p99");
        assertThat(verdicts(few).get(2)).isEqualTo(Verdict.UNKNOWN);
        assertThat(verdicts(few).get(0)).isEqualTo(Verdict.WORSE);
    }

    @Test
    void moreThatFailedIsSeenAndAShareOfNoneHasAnIntervalToo() {
        SplittableRandom random = new SplittableRandom(5);
        LoadShape shape = LoadShape.arrivals(5, 10);
        LoadRun well = run(times(random, 1_000, 1), shape, 0);
        Line failed = LoadComparison.of(
                        well, List.of(run(times(random, 1_000, 1), shape, 3), run(times(random, 1_000, 1), shape, 30)))
                .lines()
                .get(3);
        assertThat(failed.what()).isEqualTo("failed");
        assertThat(failed.unit()).isEqualTo("%");
        assertThat(failed.found())
                .extracting(Found::verdict)
                .containsExactly(Verdict.BASE, Verdict.ALIKE, Verdict.WORSE);
        // Wilson's for none of 1,000: 3.84 / 1,003.84
        assertThat(failed.found().get(0).interval().orElseThrow().high()).isCloseTo(0.383, within(0.001));
        assertThat(failed.found().get(2).interval().orElseThrow().value()).isEqualTo(3);
    }

    @Test
    void aStepThatOneOfThreeDoesNotHaveIsComparedInTheOthers() {
        SplittableRandom random = new SplittableRandom(5);
        LoadRun without = run(times(random, 100, 1), LoadShape.arrivals(5, 10));
        LoadComparison three =
                LoadComparison.of(without, List.of(withStep(random, 1, "Book"), withStep(random, 9, "Book")));
        assertThat(three.lines()).extracting(Line::of).startsWith("Book").endsWith("all");
        Line book = three.lines().get(0);
        assertThat(book.found().get(0)).isEqualTo(Found.NONE);
        assertThat(book.found().get(2).interval()).isPresent();
        // what it is held against has none of it
        assertThat(book.found().get(2).verdict()).isEqualTo(Verdict.UNKNOWN);
        LoadComparison turned =
                LoadComparison.of(withStep(random, 1, "Book"), List.of(without, withStep(random, 9, "Book")));
        assertThat(turned.lines().get(0).found())
                .extracting(Found::verdict)
                .containsExactly(Verdict.BASE, Verdict.UNKNOWN, Verdict.WORSE);
        assertThat(LoadComparison.of(without, List.of(withStep(random, 1, "Book")))
                        .lines())
                .as("what one of two has is no line")
                .extracting(Line::of)
                .containsOnly("all");
    }

    private static LoadRun withStep(RandomGenerator random, double factor, String step) {
        LoadRun all = run(times(random, 100, factor), LoadShape.arrivals(5, 10));
        StepFigures of = all.total();
        StepFigures named =
                new StepFigures(StepFigures.Kind.STEP, step, of.done(), 0, 0, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1);
        return new LoadRun(
                all.plan(),
                all.started(),
                10,
                false,
                of,
                List.of(named),
                List.of(),
                Map.of(),
                List.of(),
                List.of(),
                Health.UNKNOWN,
                List.of(),
                List.of(all.times().get(0), all.times().get(0)),
                List.of());
    }

    private static List<Verdict> verdicts(LoadComparison two) {
        return two.lines().stream().map(l -> l.found().get(1).verdict()).toList();
    }

    @Test
    void whatIsAnotherInThePlanIsSaid() {
        LoadPlan here = LoadPlan.of("p", "P", "s", LoadShape.arrivals(5, 10));
        LoadPlan there = LoadPlan.of("p", "P", "s", LoadShape.users(5, 10))
                .withRows(Optional.of(new RowUse("huts.csv", RowUse.Order.ONCE, true)))
                .with(Conduct.USUAL.withTimeout(500).withValidated(12.5));
        assertThat(here.differences(there))
                .containsExactly(
                        "shape: 5/s for 10 s → 5 users for 10 s",
                        "rows: none → huts.csv, each once, each user his own",
                        "waits for an answer: 10000 ms → 500 ms",
                        "answers held against the contract: 0 % → 12.5 %");
        assertThat(here.differences(here)).isEmpty();
    }
}
