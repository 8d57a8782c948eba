package dev.mockbell.mock;

import dev.mockbell.choice.Choice;

/**
 * Whose turn it is among answers whose condition holds.
 *
 * @param calls the requests that it is for, counted from 1 among those that meet its condition, whichever answer they got
 * @param choice how it is chosen among its neighbours
 * @param weight how often it is drawn at random, against the weights of the others; at least 1
 * @param caller for whom it is; empty for everybody
 * @param eachCaller whether each caller is counted alone
 */
public record Turns(Times calls, Chosen choice, int weight, String caller, boolean eachCaller) {
    /** Every time, for everybody. */
    public static final Turns ALWAYS = new Turns(Times.ALL, Chosen.FIRST, 1, "", false);

    public static final int MOST_WEIGHT = 1_000_000;

    public Turns {
        weight = Math.max(1, Math.min(MOST_WEIGHT, weight));
        caller = caller.strip();
    }

    /** How an answer is chosen. Answers next to each other that are chosen the same way are chosen among. */
    public enum Chosen implements Choice {
        /** The first whose condition holds. */
        FIRST("first", "The first that matches"),
        /** The one that was given longest ago. */
        IN_TURN("in-turn", "In turn with its neighbours"),
        /** By its weight, from the mock's own row of random numbers. */
        AT_RANDOM("at-random", "At random, by weight");

        private final String code;
        private final String title;

        Chosen(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    /** Whether some request may be left to another answer. */
    public boolean limits() {
        return !calls.isAll() || choice != Chosen.FIRST || !caller.isEmpty();
    }

    /** Whether something is counted for it. */
    boolean counts() {
        return !calls.isAll() || choice != Chosen.FIRST;
    }

    public Turns with(Times other) {
        return new Turns(other, choice, weight, caller, eachCaller);
    }

    public Turns with(Chosen other) {
        return new Turns(calls, other, weight, caller, eachCaller);
    }

    public Turns weighing(int other) {
        return new Turns(calls, choice, other, caller, eachCaller);
    }

    public Turns of(String name) {
        return new Turns(calls, choice, weight, name, eachCaller);
    }

    public Turns each(boolean alone) {
        return new Turns(calls, choice, weight, caller, alone);
    }
}
