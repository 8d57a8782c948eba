package dev.mockbell.wire;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class HttpCallerTest {
    private final HttpCaller caller = new HttpCaller();

    @AfterEach
    void close() {
        caller.close();
    }

    private static CallRequest post(String address, long millis) {
        return new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml; charset=utf-8"), new Header("SOAPAction", "\"urn:x\"")),
                Content.of("<a>ø</a>".getBytes(StandardCharsets.UTF_8)),
                Duration.ofMillis(millis));
    }

    @Test
    void theWireHoldsTheVeryBytesOfBothSides() {
        String answer = "HTTP/1.1 200 Fine\r\nX-Odd:  two  \r\nContent-Length: 4\r\n\r\n<b/>";
        try (PlainServer server = PlainServer.says(answer)) {
            CallResult result = caller.call(post(server.address(), 5_000), new StopSignal());
            assertThat(result.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                    .isEqualTo(answer);
            assertThat(result.request().wire().text(StandardCharsets.UTF_8))
                    .isEqualTo(server.requests().get(0));
            assertThat(server.requests().get(0))
                    .startsWith("POST /stay HTTP/1.1\r\n")
                    .contains("SOAPAction: \"urn:x\"")
                    .endsWith("<a>ø</a>");
            assertThat(result.response().orElseThrow().status()).isEqualTo(200);
            assertThat(result.response().orElseThrow().header("x-odd")).contains("two");
        }
    }

    @Test
    void chunksAreJoinedInTheBodyAndKeptOnTheWire() {
        String answer = "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n3\r\n<b>\r\n4\r\n</b>\r\n0\r\n\r\n";
        try (PlainServer server = PlainServer.says(answer)) {
            CallResult result = caller.call(post(server.address(), 5_000), new StopSignal());
            assertThat(result.response().orElseThrow().text()).isEqualTo("<b></b>");
            assertThat(result.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                    .isEqualTo(answer);
        }
    }

    @Test
    void theTimeIsSplitIntoItsParts() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            Thread.sleep(120);
            out.write(PlainServer.ok("<b/>").getBytes(StandardCharsets.UTF_8));
        })) {
            CallResult result = caller.call(post(server.address(), 5_000), new StopSignal());
            assertThat(result.timing().await()).isGreaterThan(100_000_000L);
            assertThat(result.timing().total())
                    .isGreaterThanOrEqualTo(result.timing().await());
        }
    }

    @Test
    void nobodyThereIsSaidInWords() {
        CallResult result = caller.call(post("http://127.0.0.1:1/x", 2_000), new StopSignal());
        assertThat(result.response()).isEmpty();
        assertThat(result.failure()).contains("Nothing answers at 127.0.0.1:1");
    }

    @Test
    void noAnswerInTimeIsSaidInWords() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> Thread.sleep(5_000))) {
            CallResult result = caller.call(post(server.address(), 200), new StopSignal());
            assertThat(result.failure())
                    .hasValueSatisfying(
                            f -> assertThat(f).startsWith("No answer from").endsWith("within 200 ms"));
            assertThat(result.request().wire().text(StandardCharsets.UTF_8)).startsWith("POST");
        }
    }

    @ParameterizedTest
    @CsvSource({
        "'', closed the connection",
        "'garbage\r\n\r\n', does not speak HTTP",
        "'HTTP/1.1 200 OK\r\nContent-Length: 99\r\n\r\nshort', closed the connection"
    })
    void badAnswersAreSaidInWords(String bytes, String words) {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(bytes.getBytes(StandardCharsets.UTF_8));
            out.flush();
            socket.close();
        })) {
            CallResult result = caller.call(post(server.address(), 3_000), new StopSignal());
            assertThat(result.failure()).hasValueSatisfying(f -> assertThat(f).contains(words));
        }
    }

    @Test
    void aStopEndsTheWait() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> Thread.sleep(20_000))) {
            StopSignal stop = new StopSignal();
            new Thread(() -> {
                        while (server.requests().isEmpty()) {
                            Thread.onSpinWait();
                        }
                        stop.stop();
                    })
                    .start();
            assertThat(caller.call(post(server.address(), 20_000), stop).failure())
                    .contains("Stopped");
        }
    }

    @Test
    void aRedirectOfAPostIsShownNotFollowed() {
        try (PlainServer server =
                PlainServer.says("HTTP/1.1 302 Found\r\nLocation: /other\r\nContent-Length: 0\r\n\r\n")) {
            assertThat(caller.call(post(server.address(), 3_000), new StopSignal())
                            .response()
                            .orElseThrow()
                            .status())
                    .isEqualTo(302);
            assertThat(server.requests()).hasSize(1);
        }
    }

    @ParameterizedTest
    @CsvSource({"404, nothing at this address", "401, asks for a login", "503, answered with status 503"})
    void aContractThatCannotBeFetchedIsExplained(int status, String words) {
        try (PlainServer server = PlainServer.says("HTTP/1.1 " + status + " No\r\nContent-Length: 0\r\n\r\n")) {
            assertThatThrownBy(() -> new HttpFetcher(caller).fetch(URI.create(server.address()), new StopSignal()))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining(words);
        }
    }

    @Test
    void anAddressThatDoesNotAnswerIsAProblemOfItsOwnKind() {
        assertThatThrownBy(() -> new HttpFetcher(caller).fetch(URI.create("http://127.0.0.1:1/x"), new StopSignal()))
                .isInstanceOf(Problem.class)
                .extracting(p -> ((Problem) p).kind())
                .isEqualTo(Problem.Kind.NO_ANSWER);
    }

    @Test
    void aLargeRequestAndAnswerPassWhole() {
        byte[] large = new byte[9 << 20];
        new Random(1).nextBytes(large);
        String head = "HTTP/1.1 200 OK\r\nContent-Length: " + large.length + "\r\n\r\n";
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(head.getBytes(StandardCharsets.ISO_8859_1));
            out.write(large);
        })) {
            String body = "é".repeat(3 << 20);
            CallResult result = caller.call(
                    new CallRequest(
                            "POST",
                            URI.create(server.address()),
                            List.of(),
                            Content.of(body.getBytes(StandardCharsets.UTF_8)),
                            Duration.ofSeconds(20)),
                    new StopSignal());
            assertThat(server.requests().get(0)).endsWith("\r\n\r\n" + body);
            Message answer = result.response().orElseThrow();
            assertThat(answer.body().bytes()).isEqualTo(large);
            assertThat(answer.wire().start(head.length())).isEqualTo(head.getBytes(StandardCharsets.ISO_8859_1));
            assertThat(answer.wire().slice(head.length(), answer.wire().size()).bytes())
                    .isEqualTo(large);
        }
    }

    @ParameterizedTest
    @CsvSource({"POST, Content-Length: 0", "GET, ''"})
    void aRequestWithoutABodyIsSentToItsEnd(String method, String line) {
        try (PlainServer server = PlainServer.says("HTTP/1.1 202 Accepted\r\nContent-Length: 0\r\n\r\n")) {
            CallRequest request = new CallRequest(
                    method, URI.create(server.address()), List.of(), Content.NONE, Duration.ofSeconds(60));
            CallResult result = caller.call(request, new StopSignal());
            assertThat(result.failure()).isEmpty();
            assertThat(result.response().orElseThrow().status()).isEqualTo(202);
            assertThat(server.requests().get(0))
                    .startsWith(method)
                    .contains(line)
                    .endsWith("\r\n\r\n");
        }
    }

    @Test
    void whatTheProgramDoesBeforeTheConnectionIsAskedForIsNotTheServicesTime() {
        try (HttpCaller caller = new HttpCaller();
                PlainServer server = PlainServer.says(PlainServer.ok("<a/>"))) {
            caller.warmUp(3);
            long from = System.nanoTime();
            CallResult result = caller.call(post(server.address(), 5_000), new StopSignal());
            long whole = System.nanoTime() - from;
            assertThat(result.response()).isPresent();
            assertThat(result.timing().total()).isPositive().isLessThanOrEqualTo(whole);
            assertThat(result.timing().connect()).isPositive();
            assertThat(result.timing().tls()).as("there was none").isZero();
            // the peer of the warming up is not the server that counts
            assertThat(server.requests()).hasSize(1);
        }
    }

    @Test
    void aNameThatIsNotKnownTakesAllTheTimeThereIs() {
        try (HttpCaller caller = new HttpCaller()) {
            CallResult result = caller.call(post("http://no-such-hut.invalid:1/", 5_000), new StopSignal());
            assertThat(result.failure()).hasValueSatisfying(f -> assertThat(f).contains("is not known"));
            assertThat(result.timing().name())
                    .isPositive()
                    .isEqualTo(result.timing().total());
        }
    }

    @Test
    void anAnswerThatHasBegunAndDoesNotEndIsToldAsNotWhole() {
        try (HttpCaller caller = new HttpCaller();
                PlainServer server = PlainServer.that((r, out, s) -> {
                    out.write("HTTP/1.1 200 OK\r\nContent-Length: 100\r\n\r\nabc".getBytes(StandardCharsets.UTF_8));
                    out.flush();
                    s.getInputStream().read();
                })) {
            CallResult result = caller.call(post(server.address(), 300), new StopSignal());
            assertThat(result.failure()).hasValueSatisfying(f -> assertThat(f).startsWith("No whole answer from"));
        }
    }
}
