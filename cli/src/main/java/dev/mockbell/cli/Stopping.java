package dev.mockbell.cli;

import dev.mockbell.task.StopSignal;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Ctrl+C while a command works: the work is asked to stop, and the process ends once what was measured is written, with the
 * command's own exit code.
 */
final class Stopping implements AutoCloseable {
    private static final long LONGEST_SECONDS = 20;

    private final CountDownLatch done = new CountDownLatch(1);
    private final Thread hook;
    private volatile int code = 1;

    Stopping(StopSignal stop) {
        this.hook = new Thread(() -> {
            stop.stop();
            try {
                if (done.await(LONGEST_SECONDS, TimeUnit.SECONDS)) {
                    Runtime.getRuntime().halt(code);
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        Runtime.getRuntime().addShutdownHook(hook);
    }

    /** The command's exit code, once all is written. */
    int ended(int exitCode) {
        code = exitCode;
        return exitCode;
    }

    @Override
    public void close() {
        done.countDown();
        try {
            Runtime.getRuntime().removeShutdownHook(hook);
        } catch (IllegalStateException ending) {
            // the process ends already, by the hook
            return;
        }
    }
}
