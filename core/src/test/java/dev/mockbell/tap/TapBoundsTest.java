package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever comes, from either side, harms neither the tap nor another client. */
@Timeout(120)
class TapBoundsTest {
    private static final String OK = "HTTP/1.1 200 OK\r\nContent-Length: 4\r\n\r\n<r/>";
    private static final String GET = "GET / HTTP/1.1\r\nHost: h\r\n\r\n";

    private final TapUnderTest tap = new TapUnderTest();

    @AfterEach
    void close() {
        tap.close();
    }

    private static byte[] spoilt(Random random) {
        byte[] bytes = ("POST /stay HTTP/1.1\r\nHost: h\r\nTransfer-Encoding: chunked\r\nContent-Length: 7\r\n\r\n"
                        + "5\r\nhello\r\n0\r\n\r\n" + GET)
                .getBytes(StandardCharsets.ISO_8859_1);
        for (int i = random.nextInt(6); i >= 0; i--) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
        }
        return bytes;
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void anyBytesOfAClientDoNoHarm(boolean proxy) throws Exception {
        try (RawServer service = RawServer.answering(OK)) {
            if (proxy) {
                tap.start(TapPlan.proxy(0));
            } else {
                tap.to(service.base());
            }
            Random random = new Random(11);
            for (int i = 0; i < 150; i++) {
                try (Socket socket = tap.connected()) {
                    socket.getOutputStream().write(spoilt(random));
                    if (random.nextBoolean()) {
                        socket.shutdownOutput();
                        socket.getInputStream().readNBytes(200);
                    }
                } catch (IOException hungUp) {
                    assertThat(hungUp).isNotNull();
                }
            }
            String wanted = proxy ? GET.replace("GET /", "GET " + service.base() + "/") : GET;
            assertThat(tap.said(wanted, OK.length())).as("another client").isEqualTo(OK);
            assertThat(tap.troubles).noneMatch(t -> t.startsWith("A client could not be served"));
        }
    }

    @Test
    void anyBytesOfAServiceDoNoHarm() throws Exception {
        Random random = new Random(12);
        try (RawServer service = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            byte[] answer = (OK + OK.replace("Content-Length: 4", "Transfer-Encoding: chunked"))
                    .getBytes(StandardCharsets.ISO_8859_1);
            for (int i = random.nextInt(5); i >= 0; i--) {
                answer[random.nextInt(answer.length)] = (byte) random.nextInt(256);
            }
            socket.getOutputStream().write(answer);
        })) {
            tap.to(service.base());
            for (int i = 0; i < 150; i++) {
                tap.said("GET /x?wsdl HTTP/1.1\r\nHost: h\r\n\r\n", 4);
            }
            assertThat(tap.exchanges(150)).hasSizeGreaterThanOrEqualTo(150);
        }
        try (RawServer well = RawServer.answering(OK);
                TapUnderTest other = new TapUnderTest()) {
            other.to(well.base());
            assertThat(other.said(GET, OK.length())).isEqualTo(OK);
        }
    }

    @Test
    void whoNeverReadsHoldsUpNobodyElseAndIsNotHeldInMemory() throws Exception {
        byte[] piece = new byte[1 << 20];
        try (RawServer service = new RawServer(socket -> {
            String head = RawServer.head(socket.getInputStream());
            if (head.contains("/large")) {
                RawServer.write(socket, "HTTP/1.1 200 OK\r\nContent-Length: 400000000\r\n\r\n");
                for (int i = 0; i < 380; i++) {
                    socket.getOutputStream().write(piece);
                }
            } else {
                RawServer.write(socket, OK);
            }
        })) {
            tap.to(service.base());
            List<Socket> lazy = new ArrayList<>();
            for (int i = 0; i < 5; i++) {
                Socket socket = tap.connected();
                RawServer.write(socket, "GET /large HTTP/1.1\r\n\r\n");
                lazy.add(socket);
            }
            Thread.sleep(1_000);
            assertThat(tap.said(GET, OK.length())).isEqualTo(OK);
            // five of 400 MB would be in a heap of 2 GB by now, if they were held
            assertThat(tap.recorded).hasSize(1);
            for (Socket socket : lazy) {
                socket.close();
            }
        }
    }

    @Test
    void aHeadWithoutAnEndGoesAsItCame() throws Exception {
        try (RawServer service = new RawServer(socket -> {
            socket.getInputStream().readNBytes(HttpStream.LONGEST_HEAD + 100);
            RawServer.write(socket, "enough");
        })) {
            tap.to(service.base());
            String endless = "GET / HTTP/1.1\r\nX: " + "y".repeat(HttpStream.LONGEST_HEAD + 100);
            assertThat(tap.said(endless, 6)).isEqualTo("enough");
        }
    }
}
