package dev.mockbell.cli;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/**
 * Says what happens, a line each, from a thread of its own: whoever reads slowly or not at all, as a terminal that is paused, holds up
 * nothing that is told of. Of a flood as many lines are said as can be, and how many more there were.
 */
final class Aloud implements AutoCloseable {
    /** So many lines may wait to be said. */
    private static final int WAITING = 1_000;

    /** Between two times that something is said, so that the lines of a flood go out together. */
    private static final int PAUSE_MILLIS = 100;

    private static final int ENDING_MILLIS = 1_000;

    private final BlockingQueue<Supplier<String>> waiting = new ArrayBlockingQueue<>(WAITING);
    private final AtomicLong more = new AtomicLong();
    private final Consumer<String> to;
    private final Thread thread = new Thread(this::run, "aloud");
    private volatile boolean ending;

    /** @param to where lines go, several at a time */
    Aloud(Consumer<String> to) {
        this.to = to;
        thread.setDaemon(true);
        thread.start();
    }

    /** Says a line, or counts it where too many wait; never waits itself. @param line is made when it is said */
    void say(Supplier<String> line) {
        if (!waiting.offer(line)) {
            more.incrementAndGet();
        }
    }

    private void run() {
        try {
            while (!ending) {
                Supplier<String> first = waiting.poll(PAUSE_MILLIS, TimeUnit.MILLISECONDS);
                if (first != null) {
                    say(first, more.getAndSet(0));
                    // close() interrupts this
                    Thread.sleep(PAUSE_MILLIS);
                }
            }
        } catch (InterruptedException e) {
            // the rest is still said
        }
        Supplier<String> left = waiting.poll();
        if (left != null) {
            say(left, more.getAndSet(0));
        } else if (more.get() > 0) {
            to.accept(beyond(more.getAndSet(0)));
        }
    }

    private void say(Supplier<String> first, long beyond) {
        List<Supplier<String>> all = new ArrayList<>(List.of(first));
        waiting.drainTo(all);
        String lines = all.stream().map(Aloud::words).collect(Collectors.joining(System.lineSeparator()));
        to.accept(beyond == 0 ? lines : lines + System.lineSeparator() + beyond(beyond));
    }

    private static String beyond(long lines) {
        return "… and " + lines + " more";
    }

    private static String words(Supplier<String> line) {
        try {
            return line.get();
        } catch (RuntimeException e) {
            return Problem.reason(e);
        }
    }

    /** Says what waits, unless nobody reads it. */
    @Override
    public void close() {
        ending = true;
        thread.interrupt();
        try {
            thread.join(ENDING_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
