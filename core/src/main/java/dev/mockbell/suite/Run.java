package dev.mockbell.suite;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import java.time.Instant;
import java.util.List;

/**
 * One run of a suite.
 *
 * @param suite the suite's id
 * @param title the suite's title at the time
 * @param environment the environment's name; empty for none
 */
public record Run(
        String suite, String title, String environment, Instant started, double millis, List<StepResult> steps) {
    public boolean passed() {
        return steps.stream().allMatch(s -> s.verdict() == Verdict.PASSED);
    }

    public long checks() {
        return steps.stream().mapToLong(s -> s.checks().size()).sum();
    }

    public long checksPassed() {
        return steps.stream()
                .flatMap(s -> s.checks().stream())
                .filter(CheckResult::passed)
                .count();
    }
}
