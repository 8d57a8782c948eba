package dev.mockbell.bench;

import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.concurrent.CountDownLatch;
import javax.net.ServerSocketFactory;

/**
 * The yardstick: HTTP over plain sockets of the standard library, a thread a connection, with no more understanding of
 * HTTP than it takes to find where a message ends.
 */
final class PlainPeer {
    private static final byte[] END = "\r\n\r\n".getBytes(StandardCharsets.US_ASCII);

    private PlainPeer() {}

    /** A server that answers every request with the same bytes. */
    static ServerSocket serve(byte[] response) throws IOException {
        return serve(response, ServerSocketFactory.getDefault());
    }

    /** As {@link #serve(byte[])}, on sockets of another kind. */
    static ServerSocket serve(byte[] response, ServerSocketFactory sockets) throws IOException {
        ServerSocket server = sockets.createServerSocket(0, 512, InetAddress.getLoopbackAddress());
        Thread accepting = new Thread(() -> {
            while (!server.isClosed()) {
                try {
                    Socket socket = server.accept();
                    socket.setTcpNoDelay(true);
                    Thread thread = new Thread(() -> answer(socket, response), "plain-server");
                    thread.setDaemon(true);
                    thread.start();
                } catch (IOException closed) {
                    return;
                }
            }
        });
        accepting.setDaemon(true);
        accepting.start();
        return server;
    }

    private static void answer(Socket socket, byte[] response) {
        try (socket) {
            InputStream in = socket.getInputStream();
            byte[] buffer = new byte[65_536];
            while (message(in, buffer) >= 0) {
                socket.getOutputStream().write(response);
            }
        } catch (IOException clientGone) {
            return;
        }
    }

    /** Reads one message; its length, or -1 at the end of the connection. */
    private static int message(InputStream in, byte[] buffer) throws IOException {
        int have = 0;
        int head = -1;
        int whole = -1;
        while (whole < 0 || have < whole) {
            int count = in.read(buffer, have, buffer.length - have);
            if (count < 0) {
                return -1;
            }
            have += count;
            if (head < 0) {
                head = find(buffer, have);
                if (head >= 0) {
                    whole = head + END.length + length(buffer, head);
                }
            }
        }
        return whole;
    }

    private static int find(byte[] buffer, int have) {
        for (int i = 0; i + END.length <= have; i++) {
            if (buffer[i] == END[0] && Arrays.equals(buffer, i, i + END.length, END, 0, END.length)) {
                return i;
            }
        }
        return -1;
    }

    private static int length(byte[] buffer, int head) {
        String text = new String(buffer, 0, head, StandardCharsets.ISO_8859_1).toLowerCase(java.util.Locale.ROOT);
        int at = text.indexOf("content-length:");
        if (at < 0) {
            return 0;
        }
        int end = text.indexOf('\r', at);
        return Integer.parseInt(
                text.substring(at + 15, end < 0 ? text.length() : end).strip());
    }

    /** Many clients in a loop for a time. */
    static Turn call(int port, byte[] request, int connections, double seconds) throws InterruptedException {
        long until = System.nanoTime() + (long) (seconds * 1e9);
        double cpu = Cpu.seconds();
        long from = System.nanoTime();
        org.HdrHistogram.ConcurrentHistogram times = new org.HdrHistogram.ConcurrentHistogram(1, 60_000_000_000L, 3);
        CountDownLatch done = new CountDownLatch(connections);
        for (int i = 0; i < connections; i++) {
            Thread thread = new Thread(
                    () -> {
                        try (Socket socket = new Socket()) {
                            socket.setTcpNoDelay(true);
                            socket.connect(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
                            byte[] buffer = new byte[65_536];
                            while (System.nanoTime() < until) {
                                long start = System.nanoTime();
                                socket.getOutputStream().write(request);
                                if (message(socket.getInputStream(), buffer) < 0) {
                                    return;
                                }
                                times.recordValue(System.nanoTime() - start);
                            }
                        } catch (IOException e) {
                            throw new java.io.UncheckedIOException(e);
                        } finally {
                            done.countDown();
                        }
                    },
                    "plain-client");
            thread.setDaemon(true);
            thread.start();
        }
        done.await();
        double elapsed = (System.nanoTime() - from) / 1e9;
        long count = times.getTotalCount();
        return new Turn(count / elapsed, times.getValueAtPercentile(99) / 1e6, (Cpu.seconds() - cpu) / count * 10_000);
    }
}
