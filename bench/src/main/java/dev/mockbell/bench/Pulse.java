package dev.mockbell.bench;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;

/**
 * Connects to a server now and then, so that it is not fast asleep when it is called: what waking it takes is neither the
 * caller's time nor worth measuring.
 */
final class Pulse implements AutoCloseable {
    private static final long EVERY = 10;

    private final Thread thread;

    private Pulse(Thread thread) {
        this.thread = thread;
    }

    static Pulse of(int port) {
        Thread thread = new Thread(
                () -> {
                    while (!Thread.currentThread().isInterrupted()) {
                        try {
                            new Socket(InetAddress.getLoopbackAddress(), port).close();
                            Thread.sleep(EVERY);
                        } catch (IOException | InterruptedException over) {
                            return;
                        }
                    }
                },
                "pulse");
        thread.setDaemon(true);
        thread.start();
        return new Pulse(thread);
    }

    @Override
    public void close() {
        thread.interrupt();
    }
}
