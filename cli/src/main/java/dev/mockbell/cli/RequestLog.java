package dev.mockbell.cli;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/**
 * A file with a line for each request, added to what is in it. Lines are written by a thread of its own, ten times a second, so that
 * a slow disk holds up no request. Where the disk is full that is said once, and what waits is written as soon as there is room;
 * of what there is no room for in memory either, the lines are counted, and the file says how many they were.
 */
final class RequestLog implements AutoCloseable {
    /** Characters that may wait. */
    private static final int MOST = 8_000_000;

    private static final int PAUSE_MILLIS = 100;
    private static final int ENDING_MILLIS = 2_000;

    private final FileChannel file;
    private final Consumer<String> tell;
    private final int most;
    private final Thread thread = new Thread(this::run, "request-log");
    private final CountDownLatch ending = new CountDownLatch(1);
    private StringBuilder waiting = new StringBuilder();
    private long lost;

    /** Of the thread alone: what has been taken and is not in the file yet. */
    private ByteBuffer taken = ByteBuffer.allocate(0);

    private boolean told;

    /**
     * @param tell hears, on the log's thread, that the file cannot be written
     * @throws Problem when the file cannot be opened
     */
    static RequestLog open(Path path, Consumer<String> tell) {
        return open(path, tell, MOST);
    }

    /** @param most characters that may wait */
    static RequestLog open(Path path, Consumer<String> tell, int most) {
        try {
            return new RequestLog(
                    FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.APPEND), tell, most);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The log cannot be written: " + Problem.reason(e),
                    path.toString(),
                    "Check the path.",
                    e);
        }
    }

    private RequestLog(FileChannel file, Consumer<String> tell, int most) {
        this.file = file;
        this.tell = tell;
        this.most = most;
        thread.setDaemon(true);
        thread.start();
    }

    /** Adds a line; never waits for the disk. */
    synchronized void add(String line) {
        if (waiting.length() + line.length() > most) {
            lost++;
            return;
        }
        sayLost();
        waiting.append(line).append(System.lineSeparator());
    }

    private void sayLost() {
        if (lost > 0) {
            waiting.append("… and ").append(lost).append(" more").append(System.lineSeparator());
            lost = 0;
        }
    }

    private synchronized String take() {
        sayLost();
        String all = waiting.toString();
        waiting = new StringBuilder();
        return all;
    }

    private void run() {
        try {
            while (!ending.await(PAUSE_MILLIS, TimeUnit.MILLISECONDS)) {
                write();
            }
        } catch (InterruptedException e) {
            // the rest is still written
        }
        write();
        if (taken.hasRemaining()) {
            tell.accept("The last lines are not in the log.");
        }
    }

    private void write() {
        try {
            writeTaken();
            taken = ByteBuffer.wrap(take().getBytes(StandardCharsets.UTF_8));
            writeTaken();
            told = false;
        } catch (IOException e) {
            if (!told) {
                told = true;
                tell.accept("The log cannot be written: " + Problem.reason(e)
                        + ". Requests are answered all the same, and the log goes on when it can.");
            }
        }
    }

    private void writeTaken() throws IOException {
        while (taken.hasRemaining()) {
            file.write(taken);
        }
    }

    /** Writes what waits, if the disk takes it within two seconds. */
    @Override
    public void close() {
        ending.countDown();
        try {
            thread.join(ENDING_MILLIS);
            file.close();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (IOException e) {
            tell.accept("The log cannot be written: " + Problem.reason(e));
        }
    }
}
