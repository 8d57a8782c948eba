package dev.mockbell.load;

import java.util.concurrent.atomic.LongAccumulator;
import java.util.concurrent.atomic.LongAdder;

/** Watches the generator's own punctuality. */
final class LoadClock {
    private final LongAdder started = new LongAdder();
    private final LongAdder late = new LongAdder();
    private final LongAccumulator latest = new LongAccumulator(Math::max, 0);

    /** A journey starts now that was due then. */
    void started(long due) {
        long by = System.nanoTime() - due;
        started.increment();
        latest.accumulate(by);
        if (by > 10_000_000) {
            late.increment();
        }
    }

    long started() {
        return started.sum();
    }

    /** How many started over 10 ms late. */
    long late() {
        return late.sum();
    }

    double latestMillis() {
        return latest.get() / 1e6;
    }
}
