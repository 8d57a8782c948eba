package dev.mockbell.tap;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** A service that does on each connection what a test wants. */
final class RawServer implements AutoCloseable {
    private final ServerSocket listening;
    final List<String> came = new CopyOnWriteArrayList<>();

    /** What is done on a connection, which is closed after it. */
    interface Talk {
        void on(Socket socket) throws Exception;
    }

    RawServer(Talk talk) throws IOException {
        listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        Thread thread = new Thread(() -> accept(talk), "raw-server");
        thread.setDaemon(true);
        thread.start();
    }

    /** Answers each request head on a connection with the same bytes, noting it. */
    static RawServer answering(String answer) throws IOException {
        RawServer[] server = new RawServer[1];
        server[0] = new RawServer(socket -> {
            for (String head = head(socket.getInputStream()); !head.isEmpty(); head = head(socket.getInputStream())) {
                server[0].came.add(head);
                write(socket, answer);
            }
        });
        return server[0];
    }

    private void accept(Talk talk) {
        while (!listening.isClosed()) {
            try {
                Socket socket = listening.accept();
                Thread thread = new Thread(() -> {
                    try (socket) {
                        talk.on(socket);
                    } catch (Exception e) {
                        came.add("failed: " + e);
                    }
                });
                thread.setDaemon(true);
                thread.start();
            } catch (IOException e) {
                return;
            }
        }
    }

    int port() {
        return listening.getLocalPort();
    }

    String base() {
        return "http://127.0.0.1:" + port();
    }

    /** Up to the empty line, and a body of the length that it says; empty at the end. */
    static String head(InputStream in) throws IOException {
        ByteArrayOutputStream head = new ByteArrayOutputStream();
        while (!head.toString(StandardCharsets.ISO_8859_1).endsWith("\r\n\r\n")) {
            int b = in.read();
            if (b < 0) {
                return "";
            }
            head.write(b);
        }
        String text = head.toString(StandardCharsets.ISO_8859_1);
        java.util.regex.Matcher length =
                java.util.regex.Pattern.compile("(?i)content-length: (\\d+)").matcher(text);
        return length.find()
                ? text + new String(in.readNBytes(Integer.parseInt(length.group(1))), StandardCharsets.ISO_8859_1)
                : text;
    }

    static void write(Socket socket, String text) throws IOException {
        OutputStream out = socket.getOutputStream();
        out.write(text.getBytes(StandardCharsets.ISO_8859_1));
        out.flush();
    }

    @Override
    public void close() throws IOException {
        listening.close();
    }
}
