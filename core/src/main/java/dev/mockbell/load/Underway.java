package dev.mockbell.load;

import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;

/** How many drivers are at work; more may join while some are. Safe for many threads. */
final class Underway {
    private static final long LOOK_NANOS = 1_000_000;

    private final AtomicInteger open = new AtomicInteger();

    /** One more is at work. */
    void begin() {
        open.incrementAndGet();
    }

    /** One has nothing more to do. */
    void end() {
        open.decrementAndGet();
    }

    boolean isOver() {
        return open.get() <= 0;
    }

    /** Waits until all are done, or the time is up. */
    void await(long most, TimeUnit unit) {
        long until = System.nanoTime() + unit.toNanos(most);
        while (!isOver() && System.nanoTime() < until && !Thread.currentThread().isInterrupted()) {
            LockSupport.parkNanos(LOOK_NANOS);
        }
    }
}
