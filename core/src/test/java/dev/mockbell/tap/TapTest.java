package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@Timeout(60)
class TapTest {
    private static final String BOOK =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><st:Book"
                    + " xmlns:st=\"urn:northfell:stay\"/></e:Body></e:Envelope>";

    private final TapUnderTest tap = new TapUnderTest();

    @AfterEach
    void close() {
        tap.close();
    }

    private static String post(String body) {
        return "POST /stay?a=1 HTTP/1.1\r\nhost: tapped\r\nX-Odd:  spaced \r\nContent-Length: " + body.length()
                + "\r\n\r\n" + body;
    }

    private static String ok(String body) {
        return "HTTP/1.1 200 OK\r\nX-Server: raw\r\nContent-Length: " + body.length() + "\r\n\r\n" + body;
    }

    @Test
    void anExchangePassesAndIsRecordedToTheByte() throws Exception {
        try (RawServer service = RawServer.answering(ok("<r/>"))) {
            tap.to(service.base() + "/stay");
            assertThat(tap.host.address()).isEqualTo(tap.host.base() + "/stay");
            assertThat(tap.said(post(BOOK), ok("<r/>").length())).isEqualTo(ok("<r/>"));
            assertThat(service.came.get(0))
                    .startsWith("POST /stay?a=1 HTTP/1.1\r\nhost: 127.0.0.1:" + service.port()
                            + "\r\nX-Odd:  spaced \r\nContent-Length: ")
                    .endsWith(BOOK);
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.way()).isEqualTo(Way.TAPPED);
            assertThat(e.outcome()).isEqualTo(Outcome.FINE);
            assertThat(e.contract() + " " + e.operation()).isEqualTo("stay Book");
            assertThat(e.endpoint()).isEqualTo(service.base() + "/stay?a=1");
            assertThat(e.ties().caller()).isEqualTo("127.0.0.1");
            assertThat(e.request().wire().text(StandardCharsets.ISO_8859_1)).isEqualTo(post(BOOK));
            assertThat(e.request().text()).isEqualTo(BOOK);
            assertThat(e.response().orElseThrow().wire().text(StandardCharsets.ISO_8859_1))
                    .isEqualTo(ok("<r/>"));
            assertThat(e.timing().total()).isPositive();
        }
    }

    @Test
    void whatWasPipelinedIsAnsweredInOrderOnOneConnection() throws Exception {
        try (RawServer service = new RawServer(socket -> {
            for (int i = 0; i < 5; i++) {
                String head = RawServer.head(socket.getInputStream());
                RawServer.write(socket, ok("answer " + head.charAt(head.indexOf('/') + 1)));
            }
        })) {
            tap.to(service.base());
            String all = "";
            String wanted = "";
            for (int i = 0; i < 5; i++) {
                all += i % 2 == 0
                        ? "GET /" + i + " HTTP/1.1\r\n\r\n"
                        : post("x").replace("/stay", "/" + i);
                wanted += ok("answer " + i);
            }
            assertThat(tap.said(all, wanted.length())).isEqualTo(wanted);
            assertThat(tap.exchanges(5))
                    .extracting(e -> e.response().orElseThrow().text())
                    .containsExactly("answer 0", "answer 1", "answer 2", "answer 3", "answer 4");
        }
    }

    @Test
    void chunksTrailersAndCompressionPassAsTheyAreAndAreReadForTheRecord() throws Exception {
        ByteArrayOutputStream zipped = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(zipped)) {
            gzip.write("<plain>text</plain>".getBytes(StandardCharsets.UTF_8));
        }
        String body = zipped.toString(StandardCharsets.ISO_8859_1);
        String answer = "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\nContent-Encoding: gzip\r\n\r\n5;x=y\r\n"
                + body.substring(0, 5) + "\r\n" + Integer.toHexString(body.length() - 5) + "\r\n" + body.substring(5)
                + "\r\n0\r\nX-Sum: 1\r\nX-More: 22\r\n\r\n";
        try (RawServer service = new RawServer(socket -> {
            InputStream in = socket.getInputStream();
            RawServer.head(in);
            in.readNBytes("3\r\nabc\r\n0\r\n\r\n".length());
            RawServer.write(socket, answer);
            RawServer.head(in);
            RawServer.write(socket, ok("next"));
        })) {
            tap.to(service.base());
            String asked = "POST / HTTP/1.1\r\nTransfer-Encoding: chunked\r\n\r\n3\r\nabc\r\n0\r\n\r\n";
            String wanted = answer + ok("next");
            assertThat(tap.said(asked + "GET /n HTTP/1.1\r\n\r\n", wanted.length()))
                    .isEqualTo(wanted);
            Exchange e = tap.exchanges(2).get(0);
            assertThat(e.request().text()).isEqualTo("abc");
            assertThat(e.response().orElseThrow().text()).isEqualTo("<plain>text</plain>");
            assertThat(e.response().orElseThrow().wire().text(StandardCharsets.ISO_8859_1))
                    .isEqualTo(answer);
        }
    }

    @Test
    void answersWithoutBodiesAndThoseBeforeTheAnswerAreKeptApart() throws Exception {
        try (RawServer service = new RawServer(socket -> {
            InputStream in = socket.getInputStream();
            RawServer.head(in);
            RawServer.write(socket, "HTTP/1.1 200 OK\r\nContent-Length: 400\r\n\r\n");
            RawServer.head(in);
            RawServer.write(socket, "HTTP/1.1 204 No Content\r\n\r\n");
            RawServer.head(in);
            RawServer.write(socket, "HTTP/1.1 100 Continue\r\n\r\n" + ok("after"));
            RawServer.head(in);
            RawServer.write(socket, "HTTP/1.1 200 OK\r\n\r\nuntil the end");
        })) {
            tap.to(service.base());
            String said = tap.said(
                    "HEAD / HTTP/1.1\r\n\r\nGET / HTTP/1.1\r\n\r\nGET / HTTP/1.1\r\n\r\nGET / HTTP/1.1\r\n\r\n",
                    10_000);
            assertThat(said).endsWith(ok("after") + "HTTP/1.1 200 OK\r\n\r\nuntil the end");
            assertThat(tap.exchanges(4)).extracting(Exchange::status).containsExactly(200, 204, 200, 200);
            assertThat(tap.recorded).extracting(Exchange::outcome).containsOnly(Outcome.FINE);
            assertThat(tap.recorded.get(3).response().orElseThrow().text()).isEqualTo("until the end");
        }
    }

    @Test
    void aLargeAnswerIsNotHeldBeforeItIsPassedOn() throws Exception {
        byte[] piece = new byte[1 << 20];
        new Random(1).nextBytes(piece);
        CountDownLatch seen = new CountDownLatch(1);
        int pieces = 40;
        try (RawServer service = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            RawServer.write(socket, "HTTP/1.1 200 OK\r\nContent-Length: " + (long) pieces * piece.length + "\r\n\r\n");
            socket.getOutputStream().write(piece);
            // the rest only once the client has the start
            assertThat(seen.await(20, TimeUnit.SECONDS)).isTrue();
            for (int i = 1; i < pieces; i++) {
                socket.getOutputStream().write(piece);
            }
            Thread.sleep(200);
        })) {
            tap.to(service.base());
            try (Socket socket = tap.connected()) {
                RawServer.write(socket, "GET / HTTP/1.1\r\n\r\n");
                RawServer.head(new OneByOne(socket.getInputStream()));
                seen.countDown();
                long count = 0;
                byte[] some = new byte[64 << 10];
                while (count < (long) (pieces - 1) * piece.length) {
                    count += socket.getInputStream().read(some);
                }
            }
            Message told = tap.exchanges(1).get(0).response().orElseThrow();
            assertThat(told.body().size()).isEqualTo((long) pieces * piece.length);
            assertThat(told.body().start(1 << 20)).isEqualTo(piece);
        }
    }

    /** Does not read the body along with the head. */
    private static final class OneByOne extends InputStream {
        private final InputStream in;

        OneByOne(InputStream in) {
            this.in = in;
        }

        @Override
        public int read() throws java.io.IOException {
            return in.read();
        }

        @Override
        public byte[] readNBytes(int length) throws java.io.IOException {
            return in.readNBytes(Math.min(length, 1 << 20));
        }
    }

    @Test
    void nobodyThereIsToldAsAGatewayTellsIt() throws Exception {
        int free;
        try (RawServer gone = RawServer.answering("")) {
            free = gone.port();
        }
        tap.to("http://127.0.0.1:" + free + "/stay");
        assertThat(tap.said(post("<a/>"), 10_000))
                .startsWith("HTTP/1.1 502 ")
                .contains("Nothing answers at 127.0.0.1:" + free);
        Exchange e = tap.exchanges(1).get(0);
        assertThat(e.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(e.note()).contains("Nothing answers");
        assertThat(e.request().text()).isEqualTo("<a/>");
        assertThat(tap.troubles).hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "HTTP/1.1 200 OK\r\nContent-Length: 100\r\n\r\nhalf",
                "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n5\r\nhal",
                "HTTP/1.1 200 OK\r\nX-Half"
            })
    void aCutAnswerIsCutForTheClientTooAndSaidToBe(String half) throws Exception {
        try (RawServer service = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            RawServer.write(socket, half);
        })) {
            tap.to(service.base());
            assertThat(tap.said(post("x"), 10_000)).isEqualTo(half.contains("\r\n\r\n") ? half : "");
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.outcome()).isEqualTo(Outcome.FAILED);
            assertThat(e.note()).contains("closed the connection before the answer was whole");
        }
    }

    @Test
    void aClientThatGoesAwayIsToldOfInTheRecord() throws Exception {
        CountDownLatch over = new CountDownLatch(1);
        try (RawServer service = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            RawServer.write(socket, "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n");
            try {
                while (true) {
                    RawServer.write(socket, "4\r\nmore\r\n");
                    Thread.sleep(2);
                }
            } finally {
                over.countDown();
            }
        })) {
            tap.to(service.base());
            assertThat(tap.said("GET /endless HTTP/1.1\r\n\r\n", 500)).hasSize(500);
            assertThat(over.await(60, TimeUnit.SECONDS))
                    .as("the service hears of it")
                    .isTrue();
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.note()).contains("the client went away");
            assertThat(e.response().orElseThrow().text()).startsWith("moremore");
        }
    }

    @Test
    void whatIsNoHttpPassesBothWays() throws Exception {
        try (RawServer service = new RawServer(socket -> {
            byte[] hello = socket.getInputStream().readNBytes(4);
            socket.getOutputStream().write(new byte[] {9, hello[3], 0, 7});
        })) {
            tap.to(service.base());
            try (Socket socket = tap.connected()) {
                socket.getOutputStream().write(new byte[] {1, 2, 3, 4});
                assertThat(socket.getInputStream().readAllBytes()).containsExactly(9, 4, 0, 7);
            }
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.request().wire().bytes()).containsExactly(1, 2, 3, 4);
            assertThat(e.response().orElseThrow().wire().bytes()).containsExactly(9, 4, 0, 7);
        }
    }

    @Test
    void anUpgradedConnectionPassesBothWays() throws Exception {
        try (RawServer service = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            RawServer.write(socket, "HTTP/1.1 101 Switching Protocols\r\nUpgrade: echo\r\n\r\n");
            byte[] some = socket.getInputStream().readNBytes(5);
            socket.getOutputStream().write(some);
        })) {
            tap.to(service.base());
            try (Socket socket = tap.connected()) {
                RawServer.write(socket, "GET / HTTP/1.1\r\nUpgrade: echo\r\nConnection: upgrade\r\n\r\n");
                assertThat(RawServer.head(socket.getInputStream())).contains("101");
                RawServer.write(socket, "GET /");
                assertThat(socket.getInputStream().readNBytes(5)).isEqualTo("GET /".getBytes(StandardCharsets.UTF_8));
            }
            assertThat(tap.exchanges(1).get(0).status()).isEqualTo(101);
            assertThat(tap.recorded.get(0).outcome()).isEqualTo(Outcome.FINE);
        }
    }

    @Test
    void faultsAndRefusalsAreFaults() throws Exception {
        String fault =
                "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault><faultcode>e:Server"
                        + "</faultcode><faultstring>no</faultstring><detail><NoRoom/></detail></e:Fault></e:Body></e:Envelope>";
        try (RawServer service = RawServer.answering(ok(fault))) {
            tap.to(service.base());
            tap.said(post("x"), ok(fault).length());
            assertThat(tap.exchanges(1).get(0).outcome()).isEqualTo(Outcome.FAULT);
            assertThat(tap.recorded.get(0).note()).isEqualTo("NoRoom");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"ftp://h/x", "stay", "http://", "http://h:99999/", "", "http://a b/"})
    void aTapLeadsOnlyToAddressesOfHttp(String written) {
        assertThatThrownBy(() -> TapPlan.target(written))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot lead to");
    }
}
