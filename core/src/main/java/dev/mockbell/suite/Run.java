package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.redact.Redactor;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * One run of a suite.
 *
 * @param suite the suite's id
 * @param title the suite's title at the time
 * @param environment the environment's name; empty for none
 * @param bases what the result of each step rests upon, by its path, as {@link Workbench#basis} tells; steps of which nothing is
 *     known are not there
 */
public record Run(
        String suite,
        String title,
        String environment,
        Instant started,
        double millis,
        List<StepResult> setUp,
        List<StepResult> steps,
        List<StepResult> cleanUp,
        Map<StepPath, String> bases) {
    public Run {
        setUp = List.copyOf(setUp);
        steps = List.copyOf(steps);
        cleanUp = List.copyOf(cleanUp);
        bases = Map.copyOf(bases);
    }

    /** One without set-up and clean-up. */
    public Run(String suite, String title, String environment, Instant started, double millis, List<StepResult> steps) {
        this(suite, title, environment, started, millis, List.of(), steps, List.of(), Map.of());
    }

    /** The results of the set-up, the steps and the clean-up, in that order. */
    public List<StepResult> results() {
        return Stream.of(setUp, steps, cleanUp).flatMap(List::stream).toList();
    }

    /** Whether all that was meant to run ran and passed. */
    public boolean passed() {
        return results().stream().allMatch(s -> s.verdict() == Verdict.PASSED || s.verdict() == Verdict.OFF);
    }

    /** Whether what a step did here and in another run can be held against each other: nothing was changed that it rests upon. */
    public boolean alike(Run other, StepPath path) {
        return environment.equals(other.environment) && Objects.equals(bases.get(path), other.bases.get(path));
    }

    /** The steps of a suite that failed in this run, the innermost ones. */
    public Set<StepPath> failed(Suite of) {
        Set<StepPath> failed = new LinkedHashSet<>();
        of.each((path, step) -> {
            boolean bad = at(path).filter(r -> r.verdict() == Verdict.FAILED).isPresent();
            if (bad && path.part() == StepPath.Part.STEPS) {
                failed.removeIf(outer -> outer.holds(path));
                failed.add(path);
            }
        });
        return failed;
    }

    /**
     * The values of variables that a step of the suite could have from this run: what was captured as one value, whole and without
     * a secret in it. What is shown of the rest is not what it was.
     *
     * @param kept gives a case by its full name
     */
    public Map<String, String> given(Suite of, Function<String, Optional<Case>> kept) {
        Set<String> whole = of.all()
                .flatMap(s -> s.sends().flatMap(kept).stream())
                .flatMap(c -> c.captures().stream())
                .filter(c -> c.takes() == Capture.Takes.VALUE)
                .map(Capture::name)
                .collect(Collectors.toSet());
        Map<String, String> all = new LinkedHashMap<>();
        results().stream()
                .flatMap(StepResult::all)
                .forEach(r -> r.captures().forEach((name, value) -> {
                    if (whole.contains(name)
                            && !value.contains(Redactor.MASK)
                            && value.length() <= CallVerdict.MOST_SHOWN) {
                        all.put(name, value);
                    }
                }));
        return all;
    }

    private Stream<CheckResult> all() {
        return results().stream().flatMap(StepResult::all).flatMap(s -> s.checks().stream());
    }

    public long checks() {
        return all().count();
    }

    /** How many checks there were, in all steps and rounds, and how many of them passed. */
    public record Tally(long checks, long passed) {}

    public Tally tally() {
        return new Tally(checks(), checksPassed());
    }

    public long checksPassed() {
        return all().filter(CheckResult::passed).count();
    }

    /**
     * What became of the step at a path; of one that was run in several rounds the worst of them, or else the last. Empty when
     * the run has nothing there, since the suite was another one then.
     */
    public Optional<StepResult> at(StepPath path) {
        List<StepResult> list = switch (path.part()) {
            case SET_UP -> setUp;
            case STEPS -> steps;
            case CLEAN_UP -> cleanUp;
        };
        return at(list, path.at());
    }

    private static Optional<StepResult> at(List<StepResult> list, List<Integer> at) {
        int index = at.get(0);
        if (index >= list.size()) {
            return Optional.empty();
        }
        StepResult found = list.get(index);
        List<Integer> rest = at.subList(1, at.size());
        if (rest.isEmpty()) {
            return Optional.of(found);
        }
        if (!found.rounds()) {
            return at(found.inner(), rest);
        }
        List<StepResult> each = found.inner().stream()
                .flatMap(round -> at(round.inner(), rest).stream())
                .toList();
        Verdict worst = StepResult.verdict(each);
        return each.stream().filter(r -> r.verdict() == worst).reduce((first, second) -> second);
    }
}
