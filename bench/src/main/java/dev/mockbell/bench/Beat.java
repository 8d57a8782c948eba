package dev.mockbell.bench;

import dev.mockbell.desktop.drive.Hand;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.Locale;
import java.util.concurrent.locks.LockSupport;

/**
 * Asks the interface thread for a turn every other millisecond, and keeps the longest that it had to wait: by the clock,
 * and how much of that the thread itself was at work, without what collecting garbage and others on the machine took.
 */
final class Beat {
    private final ThreadMXBean threads = ManagementFactory.getThreadMXBean();
    private final Thread thread;
    private volatile boolean over;
    private volatile double held;
    private volatile double worked;

    private Beat() {
        thread = new Thread(this::beat, "beat");
        thread.setDaemon(true);
    }

    static Beat start() {
        Beat beat = new Beat();
        beat.thread.start();
        return beat;
    }

    private void beat() {
        long id = Hand.on(() -> Thread.currentThread().getId());
        while (!over) {
            long from = System.nanoTime();
            long before = threads.getThreadCpuTime(id);
            long after = Hand.on(() -> threads.getThreadCpuTime(id));
            held = Math.max(held, (System.nanoTime() - from) / 1e6);
            worked = Math.max(worked, (after - before) / 1e6);
            // without a rest it would take the processors from what is measured
            LockSupport.parkNanos(2_000_000);
        }
    }

    String stop() {
        over = true;
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return String.format(
                Locale.ROOT,
                "the interface thread was held for %.0f ms at most, and at work for %.0f ms",
                held,
                worked);
    }
}
