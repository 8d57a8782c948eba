package dev.mockbell.suite;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import java.util.List;
import java.util.Map;

/**
 * What became of a step.
 *
 * @param exchange the exchange's number on the ledger; 0 when nothing was sent
 * @param problem why the step could not be carried out; empty when it could
 */
public record StepResult(
        String name,
        Verdict verdict,
        double millis,
        long exchange,
        List<CheckResult> checks,
        Map<String, String> captures,
        String problem) {
    /** A step that was not come to. */
    public static StepResult notRun(String name, String why) {
        return new StepResult(name, Verdict.NOT_RUN, 0, 0, List.of(), Map.of(), why);
    }

    /** What failed, a line each. */
    public List<String> failures() {
        List<String> lines = new java.util.ArrayList<>();
        if (!problem.isEmpty()) {
            lines.add(problem);
        }
        checks.stream().filter(c -> !c.passed()).map(CheckResult::sentence).forEach(lines::add);
        return lines;
    }
}
