package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.wire.ServerTls;
import java.net.InetSocketAddress;
import java.net.ProxySelector;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Instant;
import java.util.List;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLServerSocket;
import javax.net.ssl.SSLSocket;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Forward proxy, tunnels and TLS on either side. */
@Timeout(60)
class ProxyTest {
    private static final String OK = "HTTP/1.1 200 OK\r\nContent-Length: 4\r\n\r\n<r/>";

    private final TapUnderTest tap = new TapUnderTest();

    @AfterEach
    void close() {
        tap.close();
    }

    /** A service by TLS with a certificate of the test's authority. */
    private SSLServerSocket secure() throws Exception {
        ServerTls tls = ServerTls.of(tap.authority.issue("localhost", Instant.now()), List.of());
        SSLServerSocket listening =
                (SSLServerSocket) tls.context().getServerSocketFactory().createServerSocket(0);
        Thread thread = new Thread(() -> {
            while (!listening.isClosed()) {
                try (Socket socket = listening.accept()) {
                    while (!RawServer.head(socket.getInputStream()).isEmpty()) {
                        RawServer.write(socket, OK);
                    }
                } catch (java.io.IOException e) {
                    // the next one
                }
            }
        });
        thread.setDaemon(true);
        thread.start();
        return listening;
    }

    private HttpResponse<String> byProxy(String address, SSLContext trust) throws Exception {
        HttpClient.Builder client = HttpClient.newBuilder()
                .version(HttpClient.Version.HTTP_1_1)
                .proxy(ProxySelector.of(new InetSocketAddress("127.0.0.1", tap.host.port())));
        if (trust != null) {
            client.sslContext(trust);
        }
        return client.build()
                .send(
                        HttpRequest.newBuilder(URI.create(address))
                                .POST(BodyPublishers.ofString("<a/>"))
                                .build(),
                        BodyHandlers.ofString());
    }

    @Test
    void plainRequestsGoWhereTheySayAndAreRecorded() throws Exception {
        try (RawServer one = RawServer.answering(OK);
                RawServer two = RawServer.answering(OK.replace("<r/>", "<s/>"))) {
            tap.start(TapPlan.proxy(0));
            assertThat(byProxy(one.base() + "/stay?x=1", null).body()).isEqualTo("<r/>");
            assertThat(one.came.get(0))
                    .startsWith("POST /stay?x=1 HTTP/1.1\r\n")
                    .doesNotContain("Proxy-");
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.endpoint()).isEqualTo(one.base() + "/stay?x=1");
            assertThat(e.origin()).isEqualTo("proxy");
            String each = "GET %s/ HTTP/1.1\r\nHost: x\r\nProxy-Connection: keep-alive\r\n\r\n";
            String said = tap.said(
                    each.formatted(one.base()) + each.formatted(two.base()) + each.formatted(one.base()),
                    3 * OK.length());
            assertThat(said).isEqualTo(OK + OK.replace("<r/>", "<s/>") + OK);
            assertThat(two.came.get(0))
                    .contains("Host: 127.0.0.1:" + two.port())
                    .doesNotContain("Proxy-Connection");
            assertThat(tap.exchanges(4)).hasSize(4);
        }
    }

    @Test
    void aTunnelPassesWhatNobodyCanLookInto() throws Exception {
        try (SSLServerSocket service = secure()) {
            tap.start(TapPlan.proxy(0));
            String address = "https://localhost:" + service.getLocalPort() + "/stay";
            assertThat(byProxy(address, tap.trusting()).body()).isEqualTo("<r/>");
            tap.close();
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.origin()).isEqualTo("proxy, a tunnel");
            assertThat(e.request().head()).startsWith("CONNECT localhost:");
            assertThat(e.response().orElseThrow().wire().size()).isGreaterThan(500);
            assertThat(e.outcome()).isEqualTo(Outcome.FINE);
        }
    }

    @Test
    void aTunnelThatIsOpenedIsRecordedAsWhatIsInIt() throws Exception {
        try (SSLServerSocket service = secure()) {
            tap.start(TapPlan.proxy(0).opening(true));
            String address = "https://localhost:" + service.getLocalPort() + "/stay";
            assertThat(byProxy(address, tap.trusting()).body()).isEqualTo("<r/>");
            Exchange e = tap.exchanges(1).get(0);
            assertThat(e.endpoint()).isEqualTo(address);
            assertThat(e.request().text()).isEqualTo("<a/>");
            assertThat(e.response().orElseThrow().text()).isEqualTo("<r/>");
            assertThat(e.outcome()).isEqualTo(Outcome.FINE);
        }
    }

    @Test
    void whoAsksAProxyForAPageIsToldWhatItIs() throws Exception {
        tap.start(TapPlan.proxy(0));
        for (String start : List.of("GET / HTTP/1.1", "CONNECT nowhere HTTP/1.1", "GET ftp://h/ HTTP/1.1")) {
            assertThat(tap.said(start + "\r\nHost: h\r\n\r\n", 10_000)).startsWith("HTTP/1.1 400 ");
        }
        assertThat(tap.said("CONNECT 127.0.0.1:1 HTTP/1.1\r\n\r\n", 10_000)).startsWith("HTTP/1.1 502 ");
    }

    @Test
    void theClientsTlsAndTheServicesAreTwoThings() throws Exception {
        try (SSLServerSocket service = secure()) {
            tap.start(TapPlan.to(URI.create("https://localhost:" + service.getLocalPort()), 0)
                    .withTls(true));
            SSLSocket client = (SSLSocket) tap.trusting().getSocketFactory().createSocket("127.0.0.1", tap.host.port());
            try (client) {
                RawServer.write(client, "GET / HTTP/1.1\r\nHost: x\r\n\r\n");
                assertThat(RawServer.head(client.getInputStream())).endsWith("<r/>");
            }
            assertThat(tap.exchanges(1).get(0).status()).isEqualTo(200);
        }
    }

    @Test
    void aServiceWhoseCertificateIsNotTrustedIsNotSpokenTo() throws Exception {
        try (TapUnderTest other = new TapUnderTest();
                SSLServerSocket service = secure()) {
            other.to("https://localhost:" + service.getLocalPort());
            assertThat(other.said("GET / HTTP/1.1\r\n\r\n", 10_000))
                    .startsWith("HTTP/1.1 502 ")
                    .contains("The certificate of localhost:" + service.getLocalPort() + " is not trusted");
        }
    }
}
