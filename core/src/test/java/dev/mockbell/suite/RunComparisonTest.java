package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RunComparisonTest {
    private final Suite suite = new Suite("s", "S", List.of(Step.call("Reserve", "c/O/a"), Step.call("Read", "c/O/b")));

    private static StepResult step(String name, Verdict verdict, double millis, String total, String code) {
        return new StepResult(
                name,
                verdict,
                millis,
                1,
                List.of(
                        CheckResult.passed("total = 5", total, "/total"),
                        CheckResult.passed("Answered within 400 ms", Math.round(millis) + " ms", "")),
                Map.of("code", code),
                "");
    }

    private static Run run(StepResult... steps) {
        return new Run("s", "S", "", Instant.EPOCH, 1, List.of(steps));
    }

    @Test
    void resultsValuesAndTimesThatAreOtherAreTold() {
        Run before = run(step("Reserve", Verdict.PASSED, 20, "5", "R-1"), step("Read", Verdict.PASSED, 20, "5", "x"));
        Run now = run(step("Reserve", Verdict.FAILED, 200, "6", "R-2"), step("Read", Verdict.PASSED, 25, "5", "x"));
        assertThat(RunComparison.of(suite, before, now))
                .extracting(RunComparison.Change::words)
                .containsExactly(
                        "1  Reserve: result passed → failed",
                        "1  Reserve: total = 5 5 → 6",
                        "1  Reserve: $code R-1 → R-2",
                        "1  Reserve: time 20 ms → 200 ms");
    }

    @Test
    void rowsAreComparedByTheirNames() {
        StepResult one = step("row 1: nights 1", Verdict.PASSED, 5, "5", "a");
        StepResult other = step("row 1: nights 1", Verdict.FAILED, 5, "7", "a");
        Run before = run(StepResult.holding("Reserve", 5, List.of(one), true), one);
        Run now = run(StepResult.holding("Reserve", 5, List.of(other), true), one);
        assertThat(RunComparison.of(suite, before, now))
                .extracting(RunComparison.Change::words)
                .containsExactly(
                        "1  Reserve: result passed → failed",
                        "1  Reserve · row 1: nights 1: result passed → failed",
                        "1  Reserve · row 1: nights 1: total = 5 5 → 7");
    }

    @Test
    void stepsThatOneRunDoesNotHaveArePassedOver() {
        Run one = run(step("Reserve", Verdict.PASSED, 20, "5", "R-1"));
        Run two = run(step("Reserve", Verdict.PASSED, 20, "5", "R-1"), step("Read", Verdict.FAILED, 20, "5", "x"));
        assertThat(RunComparison.of(suite, one, two)).isEmpty();
    }
}
