package dev.mockbell.load;

/**
 * How many connections to a place may agree upon TLS at a time. Each agreement costs both sides milliseconds of their processors,
 * while a connection that is there carries thousands of requests a second: were one begun for every request that waits, those would
 * keep the connections from being served, so that more requests wait, for which more agreements are begun. So there are more at a
 * time for as long as that makes none of them slower, and fewer once it does.
 */
final class Agreements {
    private static final int LEAST = 2;

    /** So many times as long as one alone is a sign that they are in each other's way. */
    private static final double CROWDED = 3;

    /**
     * By so much each that is not crowded may raise what counts as quick: the next may be of another kind, whole where it was a
     * resumption.
     */
    private static final double FORGETTING = 1.2;

    private int most = LEAST;
    private double quickest = Double.MAX_VALUE;

    /** Whether another may be begun beside those under way. */
    boolean admits(int underWay) {
        return underWay < most;
    }

    /**
     * One has come to its end, good or bad.
     *
     * @param nanos how long it took
     * @param underWay how many there were with it
     */
    void ended(long nanos, int underWay) {
        quickest = Math.min(Math.max(1, nanos), underWay <= LEAST ? quickest * FORGETTING : quickest);
        if (nanos > CROWDED * quickest) {
            most = Math.max(LEAST, Math.min(most, underWay) - 1);
        } else if (underWay >= most) {
            most++;
        }
    }
}
