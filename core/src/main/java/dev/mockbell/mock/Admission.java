package dev.mockbell.mock;

import java.util.concurrent.atomic.AtomicLong;

/** Lets so many a second through, and a number at once after a quiet time. Safe for many threads; it never waits. */
final class Admission {
    private final long each;
    private final long ahead;
    /** When the next is due if each were to wait for the one before. */
    private final AtomicLong due;

    /**
     * @param perSecond how many a second in the long run
     * @param atOnce how many at once at most
     */
    Admission(int perSecond, int atOnce) {
        this.each = 1_000_000_000L / perSecond;
        this.ahead = each * atOnce;
        this.due = new AtomicLong(System.nanoTime() - ahead);
    }

    /** Whether one more may pass at a moment, by the clock of nanoseconds. */
    boolean takes(long now) {
        while (true) {
            long before = due.get();
            // what was not used longer ago is not saved up
            long from = before - (now - ahead) < 0 ? now - ahead : before;
            if (from - now > 0) {
                return false;
            }
            if (due.compareAndSet(before, from + each)) {
                return true;
            }
        }
    }
}
