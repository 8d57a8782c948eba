package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.task.StopSignal;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Proxies that want to know who is there. */
class ProxyLoginTest {
    private static final String ANNA =
            "Basic " + Base64.getEncoder().encodeToString("anna:open sesame".getBytes(StandardCharsets.UTF_8));

    private final HttpCaller http = new HttpCaller();

    @AfterEach
    void close() {
        http.close();
    }

    private static CallRequest request(String address) {
        return new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml")),
                Content.of("<a/>".getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(60));
    }

    private static Connect by(String proxy, String password) {
        return Connect.USUAL
                .through(Proxies.parsed(proxy).forAll())
                .withProxyLogin(Optional.of(new ProxyLogin("anna", password)));
    }

    private static final String ASKS = "HTTP/1.1 407 Who\r\nProxy-Authenticate: %s\r\nContent-Length: 0\r\n\r\n";

    @ParameterizedTest
    @ValueSource(
            strings = {"Basic realm=\"out\"", "Digest realm=\"out\", nonce=\"n\", qop=\"auth\", algorithm=SHA-256"})
    void aProxyForPlainRequestsIsToldInTheWayThatItAsks(String challenge) {
        try (PlainServer proxy = PlainServer.that((request, out, socket) ->
                out.write((request.contains("Proxy-Authorization") ? PlainServer.ok("<b/>") : ASKS.formatted(challenge))
                        .getBytes(StandardCharsets.UTF_8)))) {
            List<CallResult> all = http.converse(
                    request("http://huts.northfell.example/stay"),
                    by("127.0.0.1:" + proxy.port(), "open sesame"),
                    new StopSignal());
            assertThat(all).hasSize(2);
            assertThat(all.get(1).response().orElseThrow().status()).isEqualTo(200);
            assertThat(proxy.requests().get(0)).doesNotContain("Proxy-Authorization");
            assertThat(proxy.requests().get(1))
                    .contains("Proxy-Authorization: " + challenge.split(" ")[0]);
        }
    }

    @Test
    void aProxyThatTakesNobodyIsAskedNoMoreThanOnceAgain() {
        try (PlainServer proxy = PlainServer.says(ASKS.formatted("Basic realm=\"out\""))) {
            List<CallResult> all = http.converse(
                    request("http://huts.northfell.example/stay"),
                    by("127.0.0.1:" + proxy.port(), "wrong"),
                    new StopSignal());
            assertThat(all).hasSize(2);
            assertThat(all.get(1).response().orElseThrow().status()).isEqualTo(407);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"keep-alive", "close"})
    void aTunnelForTlsIsAskedForWithTheLogin(String connection, @TempDir Path folder) throws Exception {
        Certificates certificates = Certificates.of("localhost", folder);
        try (PlainServer server = PlainServer.secure(
                        certificates.server(),
                        (request, out, socket) ->
                                out.write(PlainServer.ok("<b/>").getBytes(StandardCharsets.UTF_8)));
                PlainServer proxy = PlainServer.that((request, out, socket) -> {
                    if (!request.contains("Proxy-Authorization: " + ANNA)) {
                        String asks = ASKS.formatted("Basic realm=\"out\"\r\nConnection: " + connection);
                        out.write(asks.getBytes(StandardCharsets.UTF_8));
                        if (connection.equals("close")) {
                            socket.shutdownOutput();
                        }
                        return;
                    }
                    out.write("HTTP/1.1 200 Through\r\n\r\n".getBytes(StandardCharsets.UTF_8));
                    out.flush();
                    joined(socket, server.port());
                })) {
            Connect by = by("127.0.0.1:" + proxy.port(), "open sesame").withTrust(certificates.client());
            List<CallResult> all = http.converse(request(server.address()), by, new StopSignal());
            assertThat(all).singleElement().satisfies(r -> {
                assertThat(r.whyNot()).isEmpty();
                assertThat(r.response().orElseThrow().status()).isEqualTo(200);
                assertThat(r.secured().orElseThrow().version()).startsWith("TLSv1.");
                assertThat(r.secured().orElseThrow().chain())
                        .singleElement()
                        .asString()
                        .contains("CN=localhost");
            });
            assertThat(server.requests().get(0))
                    .as("the login is the proxy's alone")
                    .doesNotContain("Proxy-Auth");
            CallResult refused = http.call(
                    request(server.address()),
                    by("127.0.0.1:" + proxy.port(), "wrong").withTrust(certificates.client()),
                    new StopSignal());
            assertThat(refused.failure().orElseThrow()).contains("The proxy does not let the request through", "407");
        }
    }

    /** Carries bytes both ways until either side ends. */
    private static void joined(Socket one, int port) throws IOException {
        try (Socket other = new Socket(InetAddress.getLoopbackAddress(), port)) {
            Thread back = new Thread(() -> carry(other, one), "carrying-back");
            back.setDaemon(true);
            back.start();
            carry(one, other);
        }
    }

    private static void carry(Socket from, Socket to) {
        try {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            byte[] piece = new byte[8_192];
            for (int count = in.read(piece); count >= 0; count = in.read(piece)) {
                out.write(piece, 0, count);
                out.flush();
            }
        } catch (IOException closed) {
            return;
        }
    }

    /** RFC 1928, with a name and a password (RFC 1929). */
    @Test
    void aProxyOfSocksIsGoneThroughWithTheLogin() throws IOException {
        List<String> seen = Collections.synchronizedList(new ArrayList<>());
        try (PlainServer server = PlainServer.says(PlainServer.ok("<b/>"));
                ServerSocket socks = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            Thread serving = new Thread(() -> socks(socks, server.port(), seen), "socks");
            serving.setDaemon(true);
            serving.start();
            CallResult result = http.call(
                    request(server.address()),
                    by("socks://127.0.0.1:" + socks.getLocalPort(), "open sesame"),
                    new StopSignal());
            assertThat(result.whyNot()).isEmpty();
            assertThat(result.response().orElseThrow().status()).isEqualTo(200);
            assertThat(seen).containsExactly("anna", "open sesame", "to " + server.port());
            assertThat(server.requests()).hasSize(1);
        }
    }

    private static void socks(ServerSocket listening, int port, List<String> seen) {
        try (Socket client = listening.accept()) {
            DataInputStream in = new DataInputStream(client.getInputStream());
            OutputStream out = client.getOutputStream();
            in.readByte();
            in.skipNBytes(in.readUnsignedByte());
            out.write(new byte[] {5, 2});
            in.readByte();
            seen.add(new String(in.readNBytes(in.readUnsignedByte()), StandardCharsets.UTF_8));
            seen.add(new String(in.readNBytes(in.readUnsignedByte()), StandardCharsets.UTF_8));
            out.write(new byte[] {1, 0});
            in.skipNBytes(3);
            in.skipNBytes(in.readByte() == 1 ? 4 : in.readUnsignedByte());
            seen.add("to " + in.readUnsignedShort());
            out.write(new byte[] {5, 0, 0, 1, 127, 0, 0, 1, 0, 0});
            joined(client, port);
        } catch (IOException closed) {
            return;
        }
    }
}
