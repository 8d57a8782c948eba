package dev.mockbell.load;

import dev.mockbell.choice.Choice;
import java.util.random.RandomGenerator;

/**
 * How long is rested after each step, in milliseconds.
 *
 * @param low the time when it is fixed, the least when it is uniform, the mean when it is exponential
 * @param high the most when it is uniform; else without meaning
 */
public record Pauses(Kind kind, long low, long high) {
    /** Nothing rests. */
    public static final Pauses NONE = new Pauses(Kind.NONE, 0, 0);

    /** An exponential time is cut at so many means: one in 22,000 would be longer. */
    private static final double LONGEST = 10;

    /** How its length is spread. */
    public enum Kind implements Choice {
        NONE("none", "None"),
        FIXED("fixed", "Fixed"),
        UNIFORM("uniform", "Uniform"),
        EXPONENTIAL("exponential", "Exponential");

        private final String code;
        private final String title;

        Kind(String code, String title) {
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

    public static Pauses fixed(long millis) {
        return millis <= 0 ? NONE : new Pauses(Kind.FIXED, millis, millis);
    }

    public static Pauses uniform(long low, long high) {
        return new Pauses(Kind.UNIFORM, Math.min(low, high), Math.max(low, high));
    }

    public static Pauses exponential(long mean) {
        return new Pauses(Kind.EXPONENTIAL, mean, mean);
    }

    /** The next one, in nanoseconds. */
    long nanos(RandomGenerator chance) {
        return switch (kind) {
            case NONE -> 0;
            case FIXED -> low * 1_000_000;
            case UNIFORM -> low * 1_000_000 + (long) (chance.nextDouble() * (high - low) * 1e6);
            case EXPONENTIAL -> (long) (Math.min(LONGEST, -Math.log(1 - chance.nextDouble())) * low * 1e6);
        };
    }

    /** For people: "1–3 s, uniform". */
    public String title() {
        return switch (kind) {
            case NONE -> "none";
            case FIXED -> time(low);
            case UNIFORM -> time(low) + " to " + time(high) + ", uniform";
            case EXPONENTIAL -> time(low) + " on average, exponential";
        };
    }

    private static String time(long millis) {
        return millis >= 1_000 && millis % 100 == 0
                ? String.valueOf(millis / 1_000.0).replaceFirst("\\.0$", "") + " s"
                : millis + " ms";
    }
}
