package dev.mockbell.suite;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;

/**
 * Where a step stands in its suite.
 *
 * @param at the index at each depth, from 0
 */
public record StepPath(Part part, List<Integer> at) {
    /** The parts of a suite. */
    public enum Part {
        SET_UP("set-up "),
        STEPS(""),
        CLEAN_UP("clean-up ");

        private final String lead;

        Part(String lead) {
            this.lead = lead;
        }
    }

    public StepPath {
        at = List.copyOf(at);
    }

    /** A step of the suite itself. */
    public static StepPath of(Part part, int index) {
        return new StepPath(part, List.of(index));
    }

    /** One of the steps that the one here holds. */
    public StepPath inner(int index) {
        List<Integer> deeper = new ArrayList<>(at);
        deeper.add(index);
        return new StepPath(part, deeper);
    }

    /** The place in its own list. */
    public int last() {
        return at.get(at.size() - 1);
    }

    /** Whether the other is this one, or stands in it. */
    public boolean holds(StepPath other) {
        return part == other.part
                && other.at.size() >= at.size()
                && other.at.subList(0, at.size()).equals(at);
    }

    /** Whether it comes before another in the order of the suite. */
    public boolean isBefore(StepPath other) {
        if (part != other.part) {
            return part.ordinal() < other.part.ordinal();
        }
        for (int i = 0; i < Math.min(at.size(), other.at.size()); i++) {
            if (!at.get(i).equals(other.at.get(i))) {
                return at.get(i) < other.at.get(i);
            }
        }
        return at.size() < other.at.size();
    }

    /** As people count: "2", "2.1", "set-up 1". */
    public String text() {
        return part.lead + at.stream().map(i -> String.valueOf(i + 1)).collect(Collectors.joining("."));
    }

    /**
     * Reads {@link #text}.
     *
     * @throws Problem when it is none
     */
    public static StepPath parse(String text) {
        String stripped = text.strip();
        Part part = Arrays.stream(Part.values())
                .filter(p -> !p.lead.isEmpty() && stripped.startsWith(p.lead))
                .findFirst()
                .orElse(Part.STEPS);
        String numbers = stripped.substring(part.lead.length());
        if (!numbers.matches("[1-9]\\d{0,5}(\\.[1-9]\\d{0,5})*")) {
            throw Problem.input("“" + text + "” is no step", null, "Write its number, such as 2 or 2.1.");
        }
        return new StepPath(
                part,
                Arrays.stream(numbers.split("\\."))
                        .map(n -> Integer.parseInt(n) - 1)
                        .toList());
    }
}
