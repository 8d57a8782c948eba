package dev.mockbell.bench;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Answers every request with a file, a connection each, and holds none of it. */
final class FilePeer {
    private FilePeer() {}

    static ServerSocket serve(Path body) throws IOException {
        ServerSocket server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        Thread accepting = new Thread(() -> {
            while (!server.isClosed()) {
                try (Socket socket = server.accept()) {
                    answer(socket, body);
                } catch (IOException clientGone) {
                    // the next one is another matter
                }
            }
        });
        accepting.setDaemon(true);
        accepting.start();
        return server;
    }

    private static void answer(Socket socket, Path body) throws IOException {
        InputStream in = new BufferedInputStream(socket.getInputStream());
        StringBuilder head = new StringBuilder();
        for (int b = in.read(); b >= 0 && head.indexOf("\r\n\r\n") < 0; b = in.read()) {
            head.append((char) b);
        }
        OutputStream out = socket.getOutputStream();
        out.write(("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nConnection: close\r\nContent-Length: "
                        + Files.size(body) + "\r\n\r\n")
                .getBytes(StandardCharsets.US_ASCII));
        Files.copy(body, out);
        out.flush();
        // closing with something unread would reset what is still on its way
        socket.shutdownOutput();
        while (in.available() > 0 && in.read() >= 0) {
            continue;
        }
    }
}
