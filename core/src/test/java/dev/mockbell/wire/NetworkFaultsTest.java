package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What can go wrong on the way: a sentence for each, and the bytes that came. */
@Timeout(60)
class NetworkFaultsTest {
    private final HttpCaller caller = new HttpCaller();

    @TempDir
    private Path folder;

    @AfterEach
    void close() {
        caller.close();
    }

    private static CallRequest post(String address, int millis) {
        return new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml")),
                Content.of("<a/>".getBytes(StandardCharsets.UTF_8)),
                Duration.ofMillis(millis));
    }

    private CallResult call(String address, int millis) {
        return caller.call(post(address, millis), new StopSignal());
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.ISO_8859_1);
    }

    private static String came(CallResult result) {
        return result.response().orElseThrow().wire().text(StandardCharsets.ISO_8859_1);
    }

    /** A server that says this to a request, and closes. */
    private static PlainServer once(String bytes) {
        return PlainServer.that((request, out, socket) -> {
            out.write(bytes(bytes));
            out.flush();
            socket.close();
        });
    }

    private static void isTold(CallResult result, String words, String next) {
        assertThat(result.failure().orElseThrow()).contains(words);
        assertThat(result.next()).contains(next);
        assertThat(result.whyNot().orElseThrow())
                .isEqualTo(result.failure().get() + ". " + result.next())
                .endsWith(".");
    }

    @ParameterizedTest
    @CsvSource({
        "'HTTP/1.1 200 OK\r\nContent-Length: 99\r\n\r\nshort', 'in the middle of the answer, after 5 of 99 bytes'",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n5\r\nsh', closed the connection in the middle",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\nsh\r\n0\r\n\r\n', 'chunks that break HTTP/1.1: “zz” stands where'",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n-5\r\nsh\r\n0\r\n\r\n', 'chunks that break HTTP/1.1: “-5” stands where'",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nffffffffffffffffff\r\nsh\r\n', 'chunks that break HTTP/1.1: “ffffffffffffffffff” st'",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: rot13\r\n\r\nsh', 'breaks HTTP/1.1: Unsupported transfer encoding: rot13'",
        "'\0\0\u0012\u0004\0\0\0\0\0\0\u0003\0\0\0d', 'speaks HTTP/2 without being asked to'",
        "'HTTP/1.1 200 OK\r\nContent-Length: many\r\n\r\nshort', content length: many",
        "'HTTP/1.1 200 OK\r\nContent-Length: -3\r\n\r\nshort', content length: -3",
        "'HTTP/1.1 200 OK\r\nContent-Encoding: gzip\r\nContent-Length: 5\r\n\r\nshort', by gzip",
        "'HTTP/1.1 200 OK\r\nContent-Encoding: deflate\r\nContent-Length: 5\r\n\r\nshort', by deflate",
        "'HTTP/1.1 200 OK\r\nContent-Encoding: br\r\nContent-Length: 5\r\n\r\nshort', 'by br, which was not asked for'",
        "'HTTP/1.1 200 OK\r\nConte', breaks HTTP/1.1",
        "'<html>an old server</html>', does not speak HTTP: its answer begins with “<html>an old server</html>”",
        "'HTTP/2.0 200 OK\r\n\r\n', Unsupported version",
        "'SSH-2.0-northfell\r\nmore', 'begins with “SSH-2.0-northfell”'"
    })
    void aBrokenAnswerIsToldAndItsBytesAreKept(String answer, String words) {
        try (PlainServer server = once(answer)) {
            CallResult result = call(server.address(), 3_000);
            assertThat(result.failure().orElseThrow()).contains(words).contains("127.0.0.1:" + server.port());
            assertThat(result.next()).isNotEmpty();
            assertThat(came(result)).isEqualTo(answer);
        }
    }

    @Test
    void whatIsNoHttpIsAllThatThereIsToShow() {
        try (PlainServer server = once("220 mail ready\r\n")) {
            assertThat(call(server.address(), 3_000)
                            .response()
                            .orElseThrow()
                            .body()
                            .text(StandardCharsets.UTF_8))
                    .isEqualTo("220 mail ready\r\n");
        }
    }

    @ParameterizedTest
    @CsvSource({
        "'\r\n\nHTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nsh', 'Empty lines stand before the start line, which RFC 9112 §2.1 has no place for'",
        "'HTTP/1.1 200 OK\nContent-Length: 2\n\nsh', 'Lines of the head end with a line feed alone, where RFC 9112 §2.2 wants CR LF'",
        "'HTTP/1.1 200 OK\r\nX-A: one\r\n\ttwo\r\nContent-Length: 2\r\n\r\nsh', 'The field X-A goes on in the next line, which RFC 9112 §5.2 forbids'",
        "'HTTP/1.1 200 OK\r\nX-A : one\r\nContent-Length: 2\r\n\r\nsh', 'White space stands before the colon of X-A, which RFC 9112 §5.1 forbids'",
        "'HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nshort', '3 bytes came behind the end that its Content-Length gives the message, and are not in the body'",
        "'HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n2\r\nsh\r\n0\r\nA: b\r\n\r\n!', '1 byte came behind the end that its last chunk gives the message, and is not in the body'"
    })
    void whatIsWrongAboutAnAnswerThatCanBeReadIsItsFlaw(String answer, String flaw) {
        try (PlainServer server = once(answer)) {
            CallResult result = call(server.address(), 3_000);
            assertThat(result.failure()).isEmpty();
            Message response = result.response().orElseThrow();
            assertThat(response.status()).isEqualTo(200);
            assertThat(response.body().text(StandardCharsets.UTF_8)).isEqualTo("sh");
            assertThat(came(result)).isEqualTo(answer);
            assertThat(response.flaws()).containsExactly(flaw);
        }
    }

    @Test
    void aBodyWhereThereIsToBeNoneIsAFlaw() {
        try (PlainServer server = once("HTTP/1.1 204 No Content\r\nContent-Length: 2\r\n\r\nsh")) {
            assertThat(call(server.address(), 3_000).response().orElseThrow().flaws())
                    .containsExactly("2 bytes came behind the head, where 204 has no body (RFC 9110 §6.4.1)");
        }
    }

    private static byte[] zipped(String text) throws IOException {
        ByteArrayOutputStream gzip = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(gzip)) {
            out.write(bytes(text));
        }
        return gzip.toByteArray();
    }

    private CallResult coded(String coding, byte[] body) {
        String head = "HTTP/1.1 200 OK\r\nContent-Encoding: " + coding + "\r\nContent-Length: " + body.length;
        try (PlainServer server = once(head + "\r\n\r\n" + new String(body, StandardCharsets.ISO_8859_1))) {
            return call(server.address(), 3_000);
        }
    }

    @Test
    void aCompressedBodyIsReadToItsEnd() throws IOException {
        byte[] good = zipped("huts");
        assertThat(coded("gzip", good).response().orElseThrow().text()).isEqualTo("huts");
        assertThat(coded("x-gzip, identity", good).response().orElseThrow().text())
                .isEqualTo("huts");
        assertThat(coded("gzip", new byte[0]).failure()).isEmpty();
        isTold(coded("gzip", Arrays.copyOf(good, good.length - 9)), "its end is missing", "fault");
        byte[] spoilt = good.clone();
        // the checksum (RFC 1952 §2.3.1)
        spoilt[good.length - 8] ^= 1;
        isTold(coded("gzip", spoilt), "says that it is compressed by gzip, but cannot be unpacked", "fault");
    }

    @Test
    void deflateIsReadWithItsWrappingAndWithout() {
        for (boolean bare : List.of(true, false)) {
            Deflater deflater = new Deflater(9, bare);
            deflater.setInput(bytes("huts and huts"));
            deflater.finish();
            byte[] made = new byte[100];
            int length = deflater.deflate(made);
            deflater.end();
            assertThat(coded("deflate", Arrays.copyOf(made, length))
                            .response()
                            .orElseThrow()
                            .text())
                    .isEqualTo("huts and huts");
        }
    }

    @Test
    void aHeadThatIsTooLargeIsNotTaken() {
        for (String lines : List.of("X: " + "y".repeat(1_000_000) + "\r\n", "X: y\r\n".repeat(10_000))) {
            try (PlainServer server = once("HTTP/1.1 200 OK\r\n" + lines + "\r\n")) {
                isTold(call(server.address(), 3_000), "The head of the answer of 127.0.0.1", "service's fault");
            }
        }
    }

    @ParameterizedTest
    @CsvSource({
        "'', broke without an answer",
        "'HTTP/1.1 200 OK\r\nContent-Length: 9\r\n\r\nsh', 'broke in the middle of the answer, after 2 of 9 bytes'"
    })
    void aResetIsTold(String before, String words) {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(bytes(before));
            out.flush();
            // what is written must be read before the reset overtakes it
            Thread.sleep(200);
            socket.setSoLinger(true, 0);
            socket.close();
        })) {
            CallResult result = call(server.address(), 10_000);
            isTold(result, words, "service's fault");
            assertThat(result.response().map(r -> came(result)).orElse("")).isEqualTo(before);
        }
    }

    @ParameterizedTest
    @CsvSource({"'', No answer from", "'HTTP/1.1 200 OK\r\nContent-Length: 9\r\n\r\nsh', No whole answer from"})
    void whatTakesTooLongIsToldWithWhatCame(String before, String words) {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(bytes(before));
            out.flush();
            socket.getInputStream().read();
        })) {
            CallResult result = call(server.address(), 500);
            isTold(result, words, "Allow more time");
            assertThat(result.response().map(r -> came(result)).orElse("")).isEqualTo(before);
        }
    }

    @Test
    void aConnectionThatNobodyTakesIsNotAnAnswerThatIsLate() throws IOException {
        List<Socket> waiting = new ArrayList<>();
        try (ServerSocket full = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            for (int i = 0; i < 4; i++) {
                Socket socket = new Socket();
                waiting.add(socket);
                try {
                    socket.connect(full.getLocalSocketAddress(), 200);
                } catch (SocketTimeoutException isFull) {
                    break;
                }
            }
            isTold(
                    call("http://127.0.0.1:" + full.getLocalPort() + "/", 400),
                    "No connection to 127.0.0.1:" + full.getLocalPort() + " within 400 ms",
                    "Check the address");
            for (Socket socket : waiting) {
                socket.close();
            }
        }
    }

    @Test
    void whoSpeaksTheOtherProtocolIsTold() throws Exception {
        Certificates localhost = Certificates.of("localhost", folder);
        try (PlainServer secure = PlainServer.secure(localhost.server(), (r, o, s) -> {})) {
            isTold(call("http://localhost:" + secure.port() + "/", 3_000), "speaks TLS at that port", "with https:");
        }
        // it takes the greeting for a request that it does not understand
        try (ServerSocket plain = new ServerSocket(0, 9, InetAddress.getLoopbackAddress())) {
            Thread serving = new Thread(() -> {
                try (Socket socket = plain.accept()) {
                    socket.getInputStream().read();
                    socket.getOutputStream().write(bytes("HTTP/1.1 400 Bad Request\r\nContent-Length: 0\r\n\r\n"));
                    socket.getOutputStream().flush();
                    socket.getInputStream().readAllBytes();
                } catch (IOException gone) {
                    return;
                }
            });
            serving.setDaemon(true);
            serving.start();
            isTold(
                    call("https://localhost:" + plain.getLocalPort() + "/", 5_000),
                    "does not speak TLS at that port",
                    "with http:");
        }
    }

    @Test
    void aGreetingThatIsNotAnsweredIsNoConnection() {
        try (PlainServer silent = PlainServer.that((r, o, s) -> {})) {
            isTold(call("https://localhost:" + silent.port() + "/", 400), "by TLS within 400 ms", "Check the address");
        }
    }

    @Test
    void aCertificateThatHasExpiredIsTold() throws Exception {
        Certificates expired = Certificates.expired("localhost", folder);
        Trust authority = new Trust(Set.of(), List.of(folder.resolve("authority.der")), Optional.empty());
        try (PlainServer server = PlainServer.secure(expired.server(), (r, o, s) -> {})) {
            isTold(
                    caller.call(post(server.address(), 5_000), Connect.USUAL.with(authority), new StopSignal()),
                    "is not trusted: it has expired",
                    "trust its fingerprint");
            assertThat(server.requests()).isEmpty();
        }
    }

    @Test
    void namesAndPortsWithoutAnybodyAreTold() {
        isTold(call("http://no-such-host.invalid/", 9_000), "The name no-such-host.invalid is not known", "written");
        isTold(call("http://127.0.0.1:1/", 9_000), "Nothing answers at 127.0.0.1:1", "service is up");
    }

    @ParameterizedTest
    @ValueSource(strings = {"403 Forbidden", "407 Proxy Authentication Required", "502 Bad Gateway"})
    void whatAProxySaysIsNotTheServicesAnswer(String status) {
        try (PlainServer proxy = once("HTTP/1.1 " + status + "\r\nContent-Length: 2\r\n\r\nno");
                HttpCaller through =
                        new HttpCaller(Connect.USUAL.through(Proxies.named("http://127.0.0.1:" + proxy.port())))) {
            CallResult result = through.call(post("https://huts.northfell.example/", 3_000), new StopSignal());
            isTold(result, "The proxy does not let the request through to huts.northfell.example: " + status, "proxy");
            assertThat(came(result)).contains(status).endsWith("no");
        }
    }

    @Test
    void aProxyThatIsNotThereIsToldAsOne() {
        try (HttpCaller through = new HttpCaller(Connect.USUAL.through(Proxies.named("http://127.0.0.1:1")))) {
            isTold(
                    through.call(post("http://huts.northfell.example/", 3_000), new StopSignal()),
                    "Nothing answers at the proxy 127.0.0.1:1",
                    "that it runs");
        }
    }
}
