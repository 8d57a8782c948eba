package dev.mockbell.expression;

import dev.mockbell.task.StopSignal;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.time.Duration;

/**
 * What one evaluation may use up of its thread's time and of work, which bounds the memory it can hold. It is spent by the
 * guards that stand between the parts of an expression. Belongs to one thread.
 */
final class Budget {
    /**
     * How much there is.
     *
     * @param time of the thread that evaluates
     * @param work units, an item or eight characters each
     */
    record Bounds(Duration time, long work) {
        /** More than any message needs, and still over before somebody thinks that it hangs. */
        static final Bounds USUAL = new Bounds(Duration.ofSeconds(2), 20_000_000);
    }

    private static final long LOOK_NANOS = 20_000_000;

    /** So much work is too little to take any time worth measuring. */
    private static final long UNWATCHED = 200;

    private static final ThreadMXBean THREADS = ManagementFactory.getThreadMXBean();

    /** The budget is used up, or the user has stopped the evaluation. */
    static final class Spent extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final boolean stopped;

        private Spent(String why, boolean stopped) {
            super(why, null, false, false);
            this.stopped = stopped;
        }

        boolean isStopped() {
            return stopped;
        }
    }

    private final Bounds bounds;
    private final StopSignal stop;
    private long began;
    private long look;
    private long work;
    private boolean looked;

    Budget(Bounds bounds, StopSignal stop) {
        this.bounds = bounds;
        this.stop = stop;
    }

    /** The processor's time counts, so that a busy machine makes no expression fail. */
    private static long used() {
        return THREADS.isCurrentThreadCpuTimeSupported() ? THREADS.getCurrentThreadCpuTime() : System.nanoTime();
    }

    /**
     * Uses up some.
     *
     * @throws Spent when there is not so much left
     */
    void spend(long units) {
        work += units;
        if (work > bounds.work()) {
            throw new Spent("it works on more than can be held", false);
        }
        // most evaluations spend so little that asking for the time would be most of them
        if (work < UNWATCHED) {
            return;
        }
        if (!looked) {
            looked = true;
            began = used();
            look = System.nanoTime() + LOOK_NANOS;
        }
        if (System.nanoTime() - look > 0) {
            if (stop.isStopped() || Thread.currentThread().isInterrupted()) {
                throw new Spent("it was stopped", true);
            }
            if (used() - began > bounds.time().toNanos()) {
                throw new Spent("it takes longer than " + bounds.time().toMillis() / 1000.0 + " s", false);
            }
            look = System.nanoTime() + LOOK_NANOS;
        }
    }

    /** Uses up what a text of so many characters costs. */
    void spendText(long characters) {
        spend(1 + characters / 8);
    }
}
