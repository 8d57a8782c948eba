package dev.mockbell.desktop.drive;

import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import javafx.application.Platform;

/**
 * Watches the interface thread while a {@link Hand} works a window, and tells when one turn of it costs too much: too much of
 * the thread's own work, or a wait for something else within our code. What other programs do to the machine at the time
 * counts for neither, so that a slow machine fails nobody.
 */
public final class Watchdog implements AutoCloseable {
    /**
     * The work, in nanoseconds of the thread's own processor time, that one turn may do. Where the machine is one of several on the
     * same processors, what those take is counted as the thread's own: it may be four fifths.
     */
    public static final long WORK = 6_000_000_000L;

    private static final int LOOK = 20;
    /** So many looks in a row that find the thread waiting in our own code: with their pause, three seconds. */
    private static final int WAITS = 150;

    private static final int DEEP = 40;
    private static final String OURS = "dev.mockbell.";

    private final ThreadMXBean threads = ManagementFactory.getThreadMXBean();
    private final Thread watched;
    private final AtomicReference<String> found = new AtomicReference<>();
    private final Thread watcher;
    private volatile boolean over;
    private volatile boolean turned = true;
    private volatile long workAtTurn;

    private Watchdog(Thread watched) {
        this.watched = watched;
        this.watcher = new Thread(this::watch, "interface-watchdog");
        watcher.setDaemon(true);
    }

    /** Begins to watch. */
    public static Watchdog start() {
        Watchdog made = new Watchdog(Hand.on(Thread::currentThread));
        made.watcher.start();
        return made;
    }

    /** Fails when a turn since the last look cost too much, with what the thread was at. */
    public void check() {
        String culprit = found.getAndSet(null);
        if (culprit != null) {
            throw new IllegalStateException(culprit);
        }
    }

    private void watch() {
        int waits = 0;
        while (!over) {
            if (turned) {
                turned = false;
                waits = 0;
                workAtTurn = threads.getThreadCpuTime(watched.getId());
                Platform.runLater(() -> turned = true);
            }
            pause();
            if (turned) {
                continue;
            }
            long work = threads.getThreadCpuTime(watched.getId()) - workAtTurn;
            StackTraceElement[] stack = watched.getStackTrace();
            waits = isWaiting(stack) ? waits + 1 : 0;
            if (work > WORK) {
                tell("The interface thread was held by work of more than " + WORK / 1_000_000 + " ms", stack);
            } else if (waits > WAITS) {
                tell("The interface thread waited for something else", stack);
            }
        }
    }

    private boolean isWaiting(StackTraceElement[] stack) {
        boolean still = switch (watched.getState()) {
            case BLOCKED, WAITING, TIMED_WAITING -> true;
            default -> false;
        };
        return still && Arrays.stream(stack).anyMatch(f -> f.getClassName().startsWith(OURS));
    }

    private void tell(String what, StackTraceElement[] stack) {
        found.compareAndSet(
                null,
                Arrays.stream(stack)
                        .limit(DEEP)
                        .map(f -> "\n    at " + f)
                        .collect(Collectors.joining("", what + ". It was at:", "")));
        // told once a turn
        while (!over && !turned) {
            pause();
        }
    }

    private static void pause() {
        try {
            Thread.sleep(LOOK);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Ends the watch and fails as {@link #check} does. */
    @Override
    public void close() {
        over = true;
        watcher.interrupt();
        try {
            watcher.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        check();
    }
}
