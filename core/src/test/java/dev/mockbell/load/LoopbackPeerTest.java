package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.wire.EventLoops;
import java.io.InputStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class LoopbackPeerTest {
    @Test
    void whoHasSaidAllIsClosedToo() throws Exception {
        try (EventLoops loops = new EventLoops("peer", 1);
                LoopbackPeer peer = new LoopbackPeer(loops, "<a/>", "<f/>");
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
}
