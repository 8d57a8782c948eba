package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class TlsTest {
    @TempDir
    static Path folder;

    private static final String WSDL = Contracts.wsdl("");

    private static Certificates localhost;
    private static Certificates elsewhere;

    @BeforeAll
    static void make() throws Exception {
        localhost = Certificates.of("localhost", folder);
        elsewhere = Certificates.of("huts.northfell.example", folder);
    }

    private static CallRequest request(String address, String body) {
        return new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml"), new Header("X-A", "1")),
                Content.of(body.getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(60));
    }

    private static HttpCaller trusting(Certificates certificates) {
        return new HttpCaller(Connect.USUAL.withTrust(certificates.client()));
    }

    @Test
    void theWireHoldsTheVeryPlainBytesOfBothSides() {
        String answer = "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\nX-B:  two \r\n\r\n3\r\nabc\r\n0\r\n\r\n";
        try (PlainServer server = PlainServer.secure(
                localhost.server(), (r, out, s) -> out.write(answer.getBytes(StandardCharsets.UTF_8)))) {
            CallResult result = trusting(localhost).call(request(server.address(), "<a/>"), new StopSignal());
            assertThat(result.failure()).isEmpty();
            assertThat(result.request().wire().text(StandardCharsets.UTF_8))
                    .isEqualTo(server.requests().get(0));
            assertThat(result.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                    .isEqualTo(answer);
            assertThat(result.response().orElseThrow().text()).isEqualTo("abc");
            assertThat(result.timing().name()).isNotNegative();
            assertThat(result.timing().connect()).isPositive();
            assertThat(result.timing().tls()).as("its share is told apart").isPositive();
        }
    }

    @Test
    void callsAtOnceHaveEachTheirOwnBytes() throws Exception {
        try (PlainServer server = PlainServer.secure(localhost.server(), (r, out, s) -> {
            String body = r.substring(r.indexOf("<n>"));
            out.write(PlainServer.ok(body).getBytes(StandardCharsets.UTF_8));
        })) {
            HttpCaller caller = trusting(localhost);
            ExecutorService pool = Executors.newFixedThreadPool(8);
            List<Future<CallResult>> results = new ArrayList<>();
            for (int i = 0; i < 40; i++) {
                String body = "<n>" + i + "</n>";
                results.add(pool.submit(() -> caller.call(request(server.address(), body), new StopSignal())));
            }
            for (int i = 0; i < results.size(); i++) {
                CallResult result = results.get(i).get();
                String body = "<n>" + i + "</n>";
                assertThat(result.request().wire().text(StandardCharsets.UTF_8)).endsWith(body);
                assertThat(result.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                        .endsWith(body);
            }
            pool.shutdownNow();
        }
    }

    @Test
    void aHandshakeThatHangsEndsWithTheTimeAskedFor() {
        try (PlainServer silent = PlainServer.that((r, out, s) -> {})) {
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create("https://localhost:" + silent.port() + "/"),
                    List.of(),
                    Content.NONE,
                    Duration.ofMillis(300));
            long from = System.nanoTime();
            CallResult result = trusting(localhost).call(request, new StopSignal());
            assertThat(result.failure().orElseThrow()).contains("localhost:" + silent.port());
            assertThat(Duration.ofNanos(System.nanoTime() - from)).isLessThan(Duration.ofSeconds(5));
        }
    }

    @Test
    void aCertificateThatIsNotTrustedIsSaidSo() {
        try (PlainServer server = PlainServer.secure(localhost.server(), (r, out, s) -> {})) {
            CallResult result = new HttpCaller().call(request(server.address(), "<a/>"), new StopSignal());
            assertThat(result.failure().orElseThrow()).contains("not trusted");
            assertThat(server.requests()).isEmpty();
        }
    }

    @Test
    void aCertificateOfAnotherHostIsRefused() {
        try (PlainServer server = PlainServer.secure(elsewhere.server(), (r, out, s) -> {})) {
            CallResult result = trusting(elsewhere).call(request(server.address(), "<a/>"), new StopSignal());
            assertThat(result.failure().orElseThrow()).contains("TLS with localhost");
            assertThat(server.requests()).isEmpty();
        }
    }

    @Test
    void contractsAreFetchedTheSameWay() {
        try (PlainServer server = PlainServer.secure(
                localhost.server(),
                (r, out, s) -> out.write(PlainServer.ok(WSDL).getBytes(StandardCharsets.UTF_8)))) {
            HttpCaller caller = trusting(localhost);
            HttpFetcher fetcher = new HttpFetcher(() -> caller, ReadLimits.USUAL, LoginAsker.NONE);
            assertThat(fetcher.fetch(URI.create(server.address()), new StopSignal())
                            .bytes())
                    .asString(StandardCharsets.UTF_8)
                    .isEqualTo(WSDL);
        }
    }
}
