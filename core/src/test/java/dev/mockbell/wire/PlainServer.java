package dev.mockbell.wire;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import javax.net.ServerSocketFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLServerSocketFactory;

/** A server that speaks just the bytes it is told to, well or badly. */
public final class PlainServer implements AutoCloseable {
    /** What it does with a connection once a request is in. */
    public interface Manner {
        void answer(String request, OutputStream out, Socket socket) throws IOException, InterruptedException;
    }

    private final ServerSocket server;
    private final boolean secure;
    private final List<String> requests = new CopyOnWriteArrayList<>();
    private volatile Consumer<Socket> serve;

    private PlainServer(Manner manner, ServerSocketFactory sockets) throws IOException {
        secure = sockets instanceof SSLServerSocketFactory;
        server = sockets.createServerSocket(0, 200, InetAddress.getLoopbackAddress());
        serve = socket -> {
            try (socket) {
                InputStream in = socket.getInputStream();
                String request = read(in);
                while (request != null) {
                    requests.add(request);
                    manner.answer(request, socket.getOutputStream(), socket);
                    socket.getOutputStream().flush();
                    request = socket.isClosed() ? null : read(in);
                }
            } catch (IOException | InterruptedException e) {
                // the client went away, which is its right
                return;
            }
        };
        Thread accepting = new Thread(this::accept, "plain-server");
        accepting.setDaemon(true);
        accepting.start();
    }

    public static PlainServer that(Manner manner) {
        try {
            return new PlainServer(manner, ServerSocketFactory.getDefault());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** As {@link #that}, over TLS. */
    public static PlainServer secure(SSLContext context, Manner manner) {
        try {
            return new PlainServer(manner, context.getServerSocketFactory());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /**
     * As {@link #secure}, but every connection beyond the first takes so long until it begins with TLS.
     *
     * @param comes whether it does so then, rather than being closed
     */
    public static PlainServer hesitant(SSLContext context, Duration late, boolean comes, Manner manner) {
        PlainServer server = secure(context, manner);
        Consumer<Socket> usual = server.serve;
        AtomicInteger connections = new AtomicInteger();
        server.serve = socket -> {
            try {
                boolean first = connections.getAndIncrement() == 0;
                Thread.sleep(first ? 0 : late.toMillis());
                if (first || comes) {
                    usual.accept(socket);
                } else {
                    socket.setSoLinger(true, 0);
                    socket.close();
                }
            } catch (InterruptedException | IOException e) {
                // the test is over
                return;
            }
        };
        return server;
    }

    /** Answers every request with these bytes. */
    public static PlainServer says(String bytes) {
        return that((request, out, socket) -> out.write(bytes.getBytes(StandardCharsets.UTF_8)));
    }

    /** A whole good response with this body. */
    public static String ok(String body) {
        return "HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                + body.getBytes(StandardCharsets.UTF_8).length + "\r\n\r\n" + body;
    }

    private void accept() {
        while (!server.isClosed()) {
            try {
                Socket socket = server.accept();
                socket.setTcpNoDelay(true);
                Thread thread = new Thread(() -> serve.accept(socket), "plain-connection");
                thread.setDaemon(true);
                thread.start();
            } catch (IOException closed) {
                return;
            }
        }
    }

    private static String read(InputStream in) throws IOException {
        StringBuilder head = new StringBuilder();
        int c;
        while (head.indexOf("\r\n\r\n") < 0) {
            c = in.read();
            if (c < 0) {
                return null;
            }
            head.append((char) c);
        }
        var length =
                java.util.regex.Pattern.compile("(?i)content-length: *(\\d+)").matcher(head);
        byte[] body = in.readNBytes(length.find() ? Integer.parseInt(length.group(1)) : 0);
        return head + new String(body, StandardCharsets.UTF_8);
    }

    public int port() {
        return server.getLocalPort();
    }

    public String address() {
        return secure ? "https://localhost:" + port() + "/stay" : "http://127.0.0.1:" + port() + "/stay";
    }

    /** Every request so far, head and body. */
    public List<String> requests() {
        return requests;
    }

    @Override
    public void close() {
        try {
            server.close();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
