package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BooleanSupplier;

/**
 * Has a twin of a mock answer clients of our own for a while, so that the code between socket and socket is compiled before
 * others come. The twin listens on a loopback port that nobody is told, records nothing, and reaches no live endpoint; the mock
 * itself neither counts nor remembers what it does.
 */
final class Rehearsal {
    private static final int CLIENTS = 16;
    private static final int AT_ONCE = 2;
    private static final int SOME = 20;
    private static final int PATIENCE_MILLIS = 1_000;
    private static final int LONGEST_HEAD = 64 << 10;

    /** An answer, a fault, and what was taken without an answer. */
    private static final Set<Integer> ANSWERED = Set.of(200, 202, 500);

    private final int port;
    private final BooleanSupplier enough;
    private long taken;

    private Rehearsal(int port, BooleanSupplier enough) {
        this.port = port;
        this.enough = enough;
    }

    /**
     * Holds one.
     *
     * @param longest how long at most; it ends sooner when that is enough, or something is not as expected
     * @return how many answers were given
     */
    static long hold(
            Contract contract, MockPlan plan, MockSurroundings around, Duration longest, BooleanSupplier enough) {
        long end = System.nanoTime() + longest.toNanos();
        Conduct conduct = plan.conduct().unseen();
        MockPlan unseen = plan.withHost(MockPlan.LOOPBACK).withPort(0).with(conduct);
        try {
            MockHost twin = MockHost.start(contract, unseen, around.unseen());
            try {
                return new Rehearsal(twin.port(), () -> enough.getAsBoolean() || System.nanoTime() > end)
                        .play(twin.samples(SOME));
            } finally {
                twin.close();
            }
        } catch (Problem notPossible) {
            // it would only have been quicker
            return 0;
        }
    }

    private long play(List<MockRequest> samples) {
        List<byte[]> parts = new ArrayList<>();
        for (MockRequest sample : samples) {
            byte[] request = written(sample);
            if (!enough.getAsBoolean() && isAnsweredAtOnce(request)) {
                parts.add(request);
            }
        }
        List<Client> clients = new ArrayList<>();
        try {
            for (int i = 0; i < CLIENTS && !parts.isEmpty(); i++) {
                clients.add(new Client(port));
            }
            for (int turn = 0; !parts.isEmpty() && !enough.getAsBoolean(); turn++) {
                for (int i = 0; i < CLIENTS; i++) {
                    clients.get(i).send(parts.get((turn + i) % parts.size()), AT_ONCE);
                }
                for (Client client : clients) {
                    for (int i = 0; i < AT_ONCE; i++) {
                        client.take();
                        taken++;
                    }
                }
            }
        } catch (IOException cut) {
            // an answer that is given now and then is one that cuts the connection
            return taken;
        } finally {
            clients.forEach(Client::close);
        }
        return taken;
    }

    /** One that is held up, cut or sent away teaches nothing, and would hold up the others. */
    private boolean isAnsweredAtOnce(byte[] request) {
        try (Client client = new Client(port)) {
            client.send(request, 1);
            client.take();
            client.send(request, 1);
            return ANSWERED.contains(client.take());
        } catch (IOException otherwise) {
            return false;
        }
    }

    private byte[] written(MockRequest sample) {
        String head = "POST " + sample.path() + " HTTP/1.1\r\nHost: 127.0.0.1:" + port + "\r\nContent-Type: "
                + sample.http().get().get("content-type") + "\r\nSOAPAction: \"" + sample.action()
                + "\"\r\nContent-Length: " + sample.body().length + "\r\n\r\n";
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(head.getBytes(StandardCharsets.ISO_8859_1));
        out.writeBytes(sample.body());
        return out.toByteArray();
    }

    /** As little as a client can be: what it spends is not there for the mock. */
    private static final class Client implements AutoCloseable {
        private static final byte[] LENGTH = "content-length:".getBytes(StandardCharsets.US_ASCII);

        private final Socket socket;
        private final InputStream in;
        private final byte[] bytes = new byte[LONGEST_HEAD];
        private int from;
        private int to;

        Client(int port) throws IOException {
            socket = new Socket(InetAddress.getLoopbackAddress(), port);
            socket.setTcpNoDelay(true);
            socket.setSoTimeout(PATIENCE_MILLIS);
            in = socket.getInputStream();
        }

        void send(byte[] request, int times) throws IOException {
            byte[] all = new byte[request.length * times];
            for (int i = 0; i < times; i++) {
                System.arraycopy(request, 0, all, i * request.length, request.length);
            }
            socket.getOutputStream().write(all);
        }

        /** Passes over an answer of known length. @return its status */
        int take() throws IOException {
            int end = headEnd();
            int status = number(from + 9);
            int length = -1;
            for (int i = from; i < end - LENGTH.length && length < 0; i++) {
                length = bytes[i] == '\n' && isLength(i + 1) ? number(i + 1 + LENGTH.length) : -1;
            }
            if (length < 0) {
                throw new IOException("no answer of known length");
            }
            from = end;
            int left = length;
            while (left > to - from) {
                left -= to - from;
                from = 0;
                to = 0;
                fill();
            }
            from += left;
            return status;
        }

        private int headEnd() throws IOException {
            int at = from;
            while (true) {
                for (; at + 3 < to; at++) {
                    if (bytes[at] == '\r' && bytes[at + 1] == '\n' && bytes[at + 2] == '\r' && bytes[at + 3] == '\n') {
                        return at + 4;
                    }
                }
                at -= from;
                System.arraycopy(bytes, from, bytes, 0, to - from);
                to -= from;
                from = 0;
                fill();
            }
        }

        private void fill() throws IOException {
            int come = to == bytes.length ? -1 : in.read(bytes, to, bytes.length - to);
            if (come < 0) {
                throw new EOFException("the answer ends too soon, or its head does not end");
            }
            to += come;
        }

        private boolean isLength(int at) {
            for (int i = 0; i < LENGTH.length; i++) {
                if ((bytes[at + i] | 0x20) != (LENGTH[i] | 0x20)) {
                    return false;
                }
            }
            return true;
        }

        private int number(int at) {
            int i = at;
            while (bytes[i] == ' ') {
                i++;
            }
            int number = 0;
            for (; bytes[i] >= '0' && bytes[i] <= '9'; i++) {
                number = number * 10 + bytes[i] - '0';
            }
            return number;
        }

        @Override
        public void close() {
            try {
                socket.close();
            } catch (IOException closed) {
                // it was not needed any more
                return;
            }
        }
    }
}
