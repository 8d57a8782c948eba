package dev.mockbell.suite;

import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/**
 * How a suite is run.
 *
 * @param chosen which of its steps; set-up and clean-up always are
 * @param values of variables that earlier steps would have captured
 * @param failFast whether nothing more is run after the first step that fails, but to clean up
 */
public record RunPlan(Predicate<StepPath> chosen, Map<String, String> values, boolean failFast) {
    /** All steps, to the end. */
    public static final RunPlan ALL = new RunPlan(p -> true, Map.of(), false);

    public RunPlan {
        values = Map.copyOf(values);
    }

    /** One step, with those in it. */
    public static RunPlan one(StepPath path) {
        return of(p -> p.holds(path) || path.holds(p));
    }

    /** A step and all behind it. */
    public static RunPlan from(StepPath path) {
        return of(p -> !p.isBefore(path) || p.holds(path));
    }

    /** All up to a step, and it. */
    public static RunPlan upTo(StepPath path) {
        return of(p -> !path.isBefore(p) || path.holds(p));
    }

    /** These steps. */
    public static RunPlan only(Set<StepPath> paths) {
        Set<StepPath> all = Set.copyOf(paths);
        return of(p -> all.stream().anyMatch(w -> w.holds(p) || p.holds(w)));
    }

    private static RunPlan of(Predicate<StepPath> chosen) {
        return new RunPlan(chosen, Map.of(), false);
    }

    /** With values that earlier steps would have captured. */
    public RunPlan with(Map<String, String> known) {
        return new RunPlan(chosen, known, failFast);
    }

    /** Ending at the first failure, or not. */
    public RunPlan failingFast(boolean fast) {
        return new RunPlan(chosen, values, fast);
    }

    boolean runs(StepPath path) {
        return path.part() != StepPath.Part.STEPS || chosen.test(path);
    }
}
