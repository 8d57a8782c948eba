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
        Thread fx = Hand.on(Thread::currentThread);
        java.util.ArrayDeque<Object[]> samples = new java.util.ArrayDeque<>();
        if (System.getenv("BEAT") != null) {
            Thread s = new Thread(() -> {
                while (!over) {
                    Object[] one = {System.nanoTime(), fx.getStackTrace()};
                    synchronized (samples) {
                        samples.add(one);
                        if (samples.size() > 400) samples.removeFirst();
                    }
                    LockSupport.parkNanos(1_000_000);
                }
            });
            s.setDaemon(true);
            s.start();
        }
        long id = Hand.on(() -> Thread.currentThread().getId());
        while (!over) {
            long from = System.nanoTime();
            long before = threads.getThreadCpuTime(id);
            long after = Hand.on(() -> threads.getThreadCpuTime(id));
            held = Math.max(held, (System.nanoTime() - from) / 1e6);
            worked = Math.max(worked, (after - before) / 1e6);
            if ((after - before) > 14_000_000 && System.getenv("BEAT") != null) {
                StringBuilder b = new StringBuilder("HOLD " + (after - before) / 1e6 + "\n");
                synchronized (samples) {
                    for (Object[] o : samples) {
                        if ((long) o[0] >= from) {
                            b.append("  --");
                            int n = 0;
                            for (StackTraceElement e : (StackTraceElement[]) o[1]) {
                                if (n++ > 60) break;
                                String c = e.getClassName();
                                b.append(" < ")
                                        .append(c.substring(c.lastIndexOf('.') + 1))
                                        .append('.')
                                        .append(e.getMethodName());
                            }
                            b.append('\n');
                        }
                    }
                }
                System.err.println(b);
            }
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
