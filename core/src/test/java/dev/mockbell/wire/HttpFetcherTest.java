package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.DocumentFetcher.Fetched;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.XmlLimits;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

@Timeout(30)
class HttpFetcherTest {
    private static final String WSDL = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"));
    private static final ReadLimits QUICK =
            new ReadLimits(new XmlLimits(1_000, 2_000, 100_000, true), 2_000, Duration.ofMillis(400));

    private final HttpCaller caller = new HttpCaller();
    private final HttpFetcher fetcher = new HttpFetcher(() -> caller, QUICK, LoginAsker.NONE);

    @AfterEach
    void close() {
        caller.close();
    }

    private static Fetched fetch(HttpFetcher fetcher, String address) {
        return fetcher.fetch(URI.create(address), new StopSignal());
    }

    private static String redirect(int status, String location) {
        return "HTTP/1.1 " + status + " Moved\r\nLocation: " + location + "\r\nContent-Length: 0\r\n\r\n";
    }

    private static byte[] zipped(String text) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream zip = new GZIPOutputStream(out)) {
            zip.write(text.getBytes(StandardCharsets.UTF_8));
        }
        return out.toByteArray();
    }

    @Test
    void compressedDocumentsAreRead() throws IOException {
        byte[] zipped = zipped(WSDL);
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(("HTTP/1.1 200 OK\r\nContent-Encoding: gzip\r\nContent-Length: " + zipped.length + "\r\n\r\n")
                    .getBytes(StandardCharsets.US_ASCII));
            out.write(zipped);
        })) {
            assertThat(new String(fetch(fetcher, server.address()).bytes(), StandardCharsets.UTF_8))
                    .isEqualTo(WSDL);
        }
    }

    @Test
    void aCompressedDocumentThatSwellsBeyondTheLimitIsStopped() throws IOException {
        byte[] zipped = zipped(" ".repeat(5_000_000));
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(("HTTP/1.1 200 OK\r\nContent-Encoding: gzip\r\nContent-Length: " + zipped.length + "\r\n\r\n")
                    .getBytes(StandardCharsets.US_ASCII));
            out.write(zipped);
        })) {
            assertThatThrownBy(() -> fetch(fetcher, server.address()))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("larger than the limit of 100000 bytes");
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {301, 302, 303, 307, 308})
    void redirectsAreFollowedAndImportsGoByWhereTheyLed(int status) {
        String importing = WSDL.replace(
                "<types>", "<types><xs:schema><xs:import namespace='urn:x' schemaLocation='x.xsd'/></xs:schema>");
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            String answer = request.startsWith("GET /old ")
                    ? redirect(status, "/new/place/service?wsdl")
                    : request.startsWith("GET /new/place/x.xsd")
                            ? PlainServer.ok(
                                    "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:x'/>")
                            : PlainServer.ok(importing);
            out.write(answer.getBytes(StandardCharsets.UTF_8));
        })) {
            Contract contract =
                    new ContractReader(fetcher).read(root(server) + "/old", Progress.NONE, new StopSignal());
            assertThat(contract.documents())
                    .extracting(d -> d.uri())
                    .containsExactly(root(server) + "/new/place/service?wsdl", root(server) + "/new/place/x.xsd");
            assertThat(contract.findings()).isEmpty();
        }
    }

    @Test
    void aCircleOfRedirectsEnds() {
        try (PlainServer server = PlainServer.says(redirect(302, "/again"))) {
            assertThatThrownBy(() -> fetch(fetcher, server.address()))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("without end");
        }
    }

    @Test
    void aLoginIsAskedForOnceAndSentToNoOtherServer() {
        List<String> asked = new ArrayList<>();
        HttpFetcher polite = new HttpFetcher(() -> caller, QUICK, (address, challenge, again) -> {
            asked.add(challenge + again);
            return Optional.of(new Login.Basic("ines", again ? "right" : "wrong"));
        });
        String right = new Login.Basic("ines", "right").header();
        try (PlainServer other = PlainServer.says(PlainServer.ok("<x/>"));
                PlainServer server = PlainServer.that((request, out, socket) -> {
                    String answer = !request.contains("Authorization: " + right)
                            ? "HTTP/1.1 401 No\r\nWWW-Authenticate: Basic realm=\"huts\"\r\nContent-Length: 0\r\n\r\n"
                            : request.startsWith("GET /away") ? redirect(302, other.address()) : PlainServer.ok(WSDL);
                    out.write(answer.getBytes(StandardCharsets.UTF_8));
                })) {
            assertThat(fetch(polite, server.address()).bytes()).isNotEmpty();
            assertThat(fetch(polite, root(server) + "/more").bytes()).isNotEmpty();
            assertThat(asked).containsExactly("Basic realm=\"huts\"false", "Basic realm=\"huts\"true");
            fetch(polite, root(server) + "/away");
            assertThat(other.requests()).singleElement().asString().doesNotContain("Authorization");
        }
    }

    @Test
    void aBearerTokenWorksAndARefusedOneIsTold() {
        HttpFetcher polite = new HttpFetcher(
                () -> caller,
                QUICK,
                (address, challenge, again) -> again ? Optional.empty() : Optional.of(new Login.Bearer("t-1")));
        try (PlainServer server = PlainServer.that(
                (request, out, socket) -> out.write((request.contains("Bearer t-1") && request.startsWith("GET /a")
                                ? PlainServer.ok("<x/>")
                                : "HTTP/1.1 401 No\r\nContent-Length: 0\r\n\r\n")
                        .getBytes(StandardCharsets.UTF_8)))) {
            assertThat(fetch(polite, root(server) + "/a").bytes()).isNotEmpty();
            assertThatThrownBy(() -> fetch(polite, root(server) + "/b"))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("refuses this login");
        }
        assertThat(new Login.Bearer("t-1").toString() + new Login.Basic("ines", "pw-9"))
                .doesNotContain("t-1")
                .doesNotContain("pw-9");
    }

    @Test
    void aServerThatDripsOrIsSilentIsGivenUp() {
        try (PlainServer silent = PlainServer.that((request, out, socket) -> Thread.sleep(20_000))) {
            long from = System.nanoTime();
            assertThatThrownBy(() -> fetch(fetcher, silent.address()))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("No answer from");
            assertThat(Duration.ofNanos(System.nanoTime() - from)).isLessThan(Duration.ofSeconds(10));
        }
        try (PlainServer dripping = PlainServer.that((request, out, socket) -> {
            out.write("HTTP/1.1 200 OK\r\nContent-Length: 100000\r\n\r\n".getBytes(StandardCharsets.US_ASCII));
            for (int i = 0; i < 200; i++) {
                out.write(' ');
                out.flush();
                Thread.sleep(100);
            }
        })) {
            assertThatThrownBy(() -> fetch(fetcher, dripping.address())).isInstanceOf(Problem.class);
        }
    }

    @Test
    void theCharsetOfTheContentTypeCounts() {
        byte[] latin = WSDL.replace("<types>", "<documentation>Fjäll</documentation><types>")
                .getBytes(StandardCharsets.ISO_8859_1);
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=\"iso-8859-1\"\r\nContent-Length: "
                            + latin.length + "\r\n\r\n")
                    .getBytes(StandardCharsets.US_ASCII));
            out.write(latin);
        })) {
            Contract contract = new ContractReader(fetcher).read(server.address(), Progress.NONE, new StopSignal());
            assertThat(contract.documents().get(0).text()).contains("Fjäll");
        }
    }

    @Test
    void aNamedProxyCarriesTheRequestAndTheEnvironmentIsHeeded() {
        try (PlainServer proxy = PlainServer.says(PlainServer.ok(WSDL));
                HttpCaller through = new HttpCaller(Connect.USUAL.through(Proxies.named(root(proxy))))) {
            fetch(new HttpFetcher(() -> through, QUICK, LoginAsker.NONE), "http://huts.northfell.example/service?wsdl");
            assertThat(proxy.requests())
                    .singleElement()
                    .asString()
                    .startsWith("GET http://huts.northfell.example/service?wsdl ");
        }
        assertThat(Proxies.named("proxy.example:3128")
                        .select(URI.create("http://127.0.0.1:8480/"))
                        .toString())
                .as("also to this machine")
                .contains("proxy.example");
        var chosen =
                Proxies.ofEnvironment(Map.of("HTTP_PROXY", "proxy.example:3128", "no_proxy", ".inner.example, here"));
        assertThat(chosen.select(URI.create("http://a.example/")).toString()).contains("proxy.example");
        assertThat(chosen.select(URI.create("http://x.inner.example/")).toString())
                .contains("DIRECT");
        assertThat(chosen.select(URI.create("https://a.example/")).toString()).contains("DIRECT");
        assertThatThrownBy(() -> Proxies.named("ftp://x:1"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("host:port");
    }

    /** The server's address without its path. */
    private static String root(PlainServer server) {
        return server.address().replaceAll("/stay$", "");
    }
}
