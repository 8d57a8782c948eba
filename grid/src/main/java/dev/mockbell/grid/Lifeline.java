package dev.mockbell.grid;

import java.util.concurrent.locks.LockSupport;
import java.util.function.LongSupplier;

/**
 * Notices that the other side is silent. Time in which this program itself was stopped does not count, so that one that was
 * paused hears first what was said meanwhile.
 */
final class Lifeline implements AutoCloseable {
    private static final long TICK_NANOS = 100_000_000;

    /** A tick that comes later than this was kept from coming. */
    private static final long ASLEEP_NANOS = 600_000_000;

    private final Runnable silent;
    private final LongSupplier clock;
    private volatile long longest;
    private volatile long heard;
    private volatile boolean armed;
    private volatile boolean closed;
    private long ticked;

    /**
     * @param longest for how long silence is borne, in nanoseconds
     * @param silent is told once it lasted longer, by a thread of its own
     */
    Lifeline(long longest, Runnable silent) {
        this(longest, silent, System::nanoTime);
        Thread thread = new Thread(this::watch, "worker-lifeline");
        thread.setDaemon(true);
        thread.start();
    }

    /** One that somebody else has tick. */
    Lifeline(long longest, Runnable silent, LongSupplier clock) {
        this.longest = longest;
        this.silent = silent;
        this.clock = clock;
        this.ticked = clock.getAsLong();
        this.heard = ticked;
    }

    private void watch() {
        while (!closed) {
            LockSupport.parkNanos(TICK_NANOS);
            tick();
        }
    }

    void tick() {
        long now = clock.getAsLong();
        long gap = now - ticked;
        ticked = now;
        if (gap > ASLEEP_NANOS) {
            heard = now;
        } else if (armed && now - heard > longest) {
            armed = false;
            silent.run();
        }
    }

    /** The other side said something. */
    void heard() {
        heard = clock.getAsLong();
    }

    /** From now on silence is borne so long, in nanoseconds. */
    void patience(long nanos) {
        longest = nanos;
    }

    /** From now on silence matters. */
    void arm() {
        heard();
        armed = true;
    }

    @Override
    public void close() {
        closed = true;
        armed = false;
    }
}
