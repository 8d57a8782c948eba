package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.task.StopSignal;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Duration;
import java.util.List;
import javax.net.ServerSocketFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Makes calls to a peer of its own on the loopback address, so that what this program does once in its life, such as loading
 * classes, is not measured as the time of a service.
 */
final class WarmUp {
    private static final Logger LOG = LoggerFactory.getLogger(WarmUp.class);
    private static final String ENVELOPE =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body/></e:Envelope>";
    private static final byte[] ANSWER = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                    + ENVELOPE.length() + "\r\n\r\n" + ENVELOPE)
            .getBytes(StandardCharsets.US_ASCII);

    private WarmUp() {}

    /** Calls as a command or the window does. What goes wrong is noted; the calls that count come later. */
    static void run(HttpCaller caller, Connect by, int calls) {
        run(caller, by, calls, "http://127.0.0.1:", ServerSocketFactory.getDefault());
    }

    /** As {@link #run}, over TLS. */
    static void runTls(HttpCaller caller, Connect by, int calls) {
        try {
            SelfIssued key = SelfIssued.made();
            run(
                    caller,
                    by.with(key.trust()),
                    calls,
                    "https://127.0.0.1:",
                    key.server().getServerSocketFactory());
        } catch (GeneralSecurityException e) {
            LOG.info("no warming up of TLS: {}", e.toString());
        }
    }

    private static void run(HttpCaller caller, Connect by, int calls, String scheme, ServerSocketFactory sockets) {
        try (ServerSocket peer = sockets.createServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
            Thread answering = new Thread(() -> answer(peer), "warm-up-peer");
            answering.setDaemon(true);
            answering.start();
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create(scheme + peer.getLocalPort() + "/"),
                    List.of(new Header("Content-Type", "text/xml; charset=utf-8"), new Header("SOAPAction", "\"\"")),
                    Content.of(ENVELOPE.getBytes(StandardCharsets.US_ASCII)),
                    Duration.ofSeconds(5));
            // the same way as the calls that count, so that they find its client ready
            Connect straight = by.proxy(request.address()).isEmpty() ? by : by.through(Proxies.none());
            for (int i = 0; i < calls; i++) {
                caller.call(request, straight, new StopSignal());
            }
        } catch (IOException e) {
            LOG.info("no warming up: {}", e.toString());
        }
    }

    private static void answer(ServerSocket peer) {
        while (!peer.isClosed()) {
            try (Socket socket = peer.accept()) {
                socket.setTcpNoDelay(true);
                skipRequest(new BufferedInputStream(socket.getInputStream()));
                socket.getOutputStream().write(ANSWER);
                socket.getOutputStream().flush();
            } catch (IOException closed) {
                LOG.debug("the peer of the warming up: {}", closed.toString());
            }
        }
    }

    private static void skipRequest(InputStream in) throws IOException {
        int ends = 0;
        for (int b = in.read(); b >= 0 && ends < 4; b = ends < 4 ? in.read() : b) {
            boolean next = b == (ends % 2 == 0 ? '\r' : '\n');
            ends = next ? ends + 1 : b == '\r' ? 1 : 0;
        }
        in.skipNBytes(ENVELOPE.length() - 1);
    }
}
