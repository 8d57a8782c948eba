package dev.mockbell.load;

import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAdder;

/** Watches the generator's own punctuality. Safe for many threads. */
final class LoadClock {
    private static final long LATE = 10_000_000;

    private final LongAdder late = new LongAdder();
    private final AtomicLong latest = new AtomicLong();
    private final AtomicLong loopDelay = new AtomicLong();

    /** A request started, so many nanoseconds after it was due. */
    void started(long by) {
        if (by > LATE) {
            late.increment();
        }
        if (by > latest.get()) {
            latest.accumulateAndGet(by, Math::max);
        }
    }

    /** An event loop came to what it was to do so late. */
    void delayed(long by) {
        loopDelay.accumulateAndGet(by, Math::max);
    }

    /** How many started over 10 ms late. */
    long late() {
        return late.sum();
    }

    /** The greatest lateness since the last call, in milliseconds. */
    double takeLatestMillis() {
        return latest.getAndSet(0) / 1e6;
    }

    /** The greatest delay of an event loop since the last call, in milliseconds. */
    double takeLoopDelayMillis() {
        return loopDelay.getAndSet(0) / 1e6;
    }
}
