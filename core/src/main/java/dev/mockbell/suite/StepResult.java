package dev.mockbell.suite;

import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * What became of a step.
 *
 * @param exchange the exchange's number on the ledger; 0 when nothing was sent
 * @param problem why the step could not be carried out, or was not; empty when it could
 * @param inner what became of the steps within it, or of each round or row
 * @param rounds whether {@code inner} are rounds or rows of it, each with what it did, not the steps that it holds
 */
public record StepResult(
        String name,
        Verdict verdict,
        double millis,
        long exchange,
        List<CheckResult> checks,
        Map<String, String> captures,
        String problem,
        List<StepResult> inner,
        boolean rounds) {
    /** One of a step that holds no others. */
    public StepResult(
            String name,
            Verdict verdict,
            double millis,
            long exchange,
            List<CheckResult> checks,
            Map<String, String> captures,
            String problem) {
        this(name, verdict, millis, exchange, checks, captures, problem, List.of(), false);
    }

    /** A step that was not come to. */
    public static StepResult notRun(String name, String why) {
        return new StepResult(name, Verdict.NOT_RUN, 0, 0, List.of(), Map.of(), why);
    }

    /** A step that was not meant to run. */
    public static StepResult off(String name, String why) {
        return new StepResult(name, Verdict.OFF, 0, 0, List.of(), Map.of(), why);
    }

    /** A step that could not be carried out. */
    public static StepResult failed(String name, String why) {
        return new StepResult(name, Verdict.FAILED, 0, 0, List.of(), Map.of(), why);
    }

    /** One of a step that holds others: failed when one of them failed, passed when one passed, else as the first. */
    public static StepResult holding(String name, double millis, List<StepResult> inner, boolean rounds) {
        return new StepResult(name, verdict(inner), millis, 0, List.of(), Map.of(), "", List.copyOf(inner), rounds);
    }

    static Verdict verdict(List<StepResult> of) {
        for (Verdict worst : List.of(Verdict.FAILED, Verdict.NOT_RUN, Verdict.PASSED)) {
            if (of.stream().anyMatch(r -> r.verdict == worst)) {
                return worst;
            }
        }
        return of.isEmpty() ? Verdict.PASSED : Verdict.OFF;
    }

    StepResult with(Verdict other, String why) {
        return new StepResult(name, other, millis, exchange, checks, captures, why, inner, rounds);
    }

    /** Having taken so long. */
    StepResult after(double took) {
        return new StepResult(name, verdict, took, exchange, checks, captures, problem, inner, rounds);
    }

    /** Under another name. */
    public StepResult named(String other) {
        return new StepResult(other, verdict, millis, exchange, checks, captures, problem, inner, rounds);
    }

    /** Itself and all within it, at whatever depth. */
    public Stream<StepResult> all() {
        return Stream.concat(Stream.of(this), inner.stream().flatMap(StepResult::all));
    }

    /** The checks that say something of their own: not those that failed for want of what the step's problem tells of. */
    public List<CheckResult> telling() {
        return problem.isEmpty()
                ? checks
                : checks.stream()
                        .filter(c -> c.passed() || !c.found().equals(problem))
                        .toList();
    }

    /** How many checks failed for the step's problem alone, in words; empty for none. */
    public String undecided() {
        int count = checks.size() - telling().size();
        return count == 0 ? "" : count == 1 ? "1 check could not be decided." : count + " checks could not be decided.";
    }

    /** What failed, a line each; of what it holds, those of the first that failed. */
    public List<String> failures() {
        List<String> lines = new ArrayList<>();
        if (!problem.isEmpty()) {
            lines.add(problem);
        }
        telling().stream().filter(c -> !c.passed()).map(CheckResult::sentence).forEach(lines::add);
        if (!undecided().isEmpty()) {
            lines.add(undecided());
        }
        if (lines.isEmpty()) {
            inner.stream()
                    .filter(r -> r.verdict == Verdict.FAILED)
                    .findFirst()
                    .ifPresent(r -> r.failures().forEach(f -> lines.add(r.name + ": " + f)));
        }
        return lines;
    }
}
