package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.SelfIssued;
import java.io.InputStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class LoopbackPeerTest {
    @Test
    void whoHasSaidAllIsClosedToo() throws Exception {
        try (EventLoops loops = new EventLoops("peer", 1);
                LoopbackPeer peer = new LoopbackPeer(loops, "<a/>", "<f/>", Optional.empty());
                Socket client = new Socket("127.0.0.1", peer.address().getPort())) {
            client.setSoTimeout(10_000);
            client.getOutputStream()
                    .write("POST / HTTP/1.1\r\nContent-Length: 1\r\n\r\nx".getBytes(StandardCharsets.US_ASCII));
            InputStream in = client.getInputStream();
            byte[] some = new byte[4_096];
            assertThat(new String(some, 0, in.read(some), StandardCharsets.US_ASCII))
                    .startsWith("HTTP/1.1 200 OK");
            client.shutdownOutput();
            int read = in.read(some);
            while (read > 0) {
                read = in.read(some);
            }
            assertThat(read).isEqualTo(-1);
        }
    }

    @Test
    void itSpeaksTlsWhereTheTargetDoes() throws Exception {
        SelfIssued key = SelfIssued.made();
        try (EventLoops loops = new EventLoops("peer", 1);
                LoopbackPeer peer = new LoopbackPeer(loops, "<a/>", "<f/>", Optional.of(key.server()));
                Socket client = Connect.USUAL
                        .with(key.trust())
                        .tls()
                        .getSocketFactory()
                        .createSocket("127.0.0.1", peer.address().getPort())) {
            assertThat(peer.address()).hasScheme("https");
            client.setSoTimeout(10_000);
            client.getOutputStream()
                    .write("POST / HTTP/1.1\r\nContent-Length: 1\r\n\r\nx".getBytes(StandardCharsets.US_ASCII));
            byte[] some = new byte[4_096];
            int read = client.getInputStream().read(some);
            assertThat(new String(some, 0, read, StandardCharsets.US_ASCII)).startsWith("HTTP/1.1 200 OK");
        }
    }
}
