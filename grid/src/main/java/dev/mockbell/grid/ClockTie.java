package dev.mockbell.grid;

/**
 * How another machine's clock stands to this one's, by round trips: what it said lies between asking and hearing, so that half
 * of the shortest round trip is the greatest error. Times are nanoseconds of {@link System#nanoTime()} on each side.
 */
final class ClockTie {
    private long shortest = Long.MAX_VALUE;
    private long offset;

    /** One round trip: asked at {@code sent} and heard at {@code heard} by this clock, answered at {@code there} by the other. */
    void heard(long sent, long there, long heard) {
        long trip = heard - sent;
        if (trip >= 0 && trip < shortest) {
            shortest = trip;
            offset = there - sent - trip / 2;
        }
    }

    boolean isKnown() {
        return shortest < Long.MAX_VALUE;
    }

    /** A moment of this clock by the other. */
    long there(long here) {
        return here + offset;
    }

    /** By how much that may be wrong; negative when nothing is known. */
    long error() {
        return isKnown() ? (shortest + 1) / 2 : -1;
    }
}
