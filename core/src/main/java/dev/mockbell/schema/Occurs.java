package dev.mockbell.schema;

/**
 * How often a particle may stand.
 *
 * @param min at least
 * @param max at most; {@link #UNBOUNDED} for no bound
 */
public record Occurs(int min, int max) {
    public static final int UNBOUNDED = -1;
    public static final Occurs ONCE = new Occurs(1, 1);

    public boolean optional() {
        return min == 0;
    }

    public boolean repeats() {
        return max == UNBOUNDED || max > 1;
    }

    /** Whether one more may stand when {@code count} do. */
    public boolean allows(int count) {
        return max == UNBOUNDED || count < max;
    }

    /** As shown to people: {@code 1}, {@code 0..1}, {@code 1..6}, {@code 0..n}. */
    @Override
    public String toString() {
        if (min == max) {
            return Integer.toString(min);
        }
        return min + ".." + (max == UNBOUNDED ? "n" : Integer.toString(max));
    }
}
