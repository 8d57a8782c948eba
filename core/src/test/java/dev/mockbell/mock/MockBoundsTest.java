package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Stays;
import dev.mockbell.wire.EventLoops;
import java.io.IOException;
import java.net.Socket;
import java.net.SocketException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** What a mock counts, and how much it lets in. */
@Timeout(30)
class MockBoundsTest {
    private static final MockAnswer OTHERWISE = MockAnswer.otherwise("sample", "<later/>");

    private final EventLoops loops = new EventLoops("test", 2);
    private final Contract stay = Contracts.stay();
    private final String envelope = Envelope.around(SoapVersion.V11, Stays.BODY, List.of());
    private MockHost host;

    private void start(MockLimits limits, MockAnswer... answers) {
        MockPlan plan = MockPlan.of("stay", stay, 0)
                .withAnswers("Book", List.of(answers))
                .with(Conduct.USUAL.with(limits));
        host = MockHost.start(stay, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
    }

    private static MockLimits limits(Duration idle, Duration whole, int connections, long held) {
        MockLimits usual = MockLimits.USUAL;
        return new MockLimits(
                usual.body(), usual.depth(), usual.attributes(), connections, usual.requests(), held, idle, whole);
    }

    @AfterEach
    void stop() {
        host.close();
        loops.close();
    }

    private String post(String body) throws IOException {
        try (Socket socket = new Socket("127.0.0.1", host.port())) {
            socket.getOutputStream().write(request(body));
            socket.shutdownOutput();
            return text(socket);
        }
    }

    private static byte[] request(String body) {
        byte[] content = body.getBytes(StandardCharsets.UTF_8);
        String head = "POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nContent-Length: " + content.length
                + "\r\n\r\n";
        return (head + body).getBytes(StandardCharsets.UTF_8);
    }

    private static String text(Socket socket) throws IOException {
        return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }

    @Test
    void exactlyOneOfManyRequestsAtOnceIsTheFirst() throws Exception {
        for (int round = 0; round < 20; round++) {
            start(MockLimits.USUAL, MockAnswer.otherwise("first", "<first/>").withWhen("$hits = 1"), OTHERWISE);
            int clients = 8;
            ExecutorService pool = Executors.newFixedThreadPool(clients);
            CountDownLatch together = new CountDownLatch(clients);
            List<Future<String>> answers = new ArrayList<>();
            for (int i = 0; i < clients; i++) {
                answers.add(pool.submit(() -> {
                    together.countDown();
                    together.await();
                    return post(envelope);
                }));
            }
            int firsts = 0;
            for (Future<String> answer : answers) {
                firsts += answer.get().contains("<first/>") ? 1 : 0;
            }
            pool.shutdownNow();
            assertThat(firsts).as("round " + round).isEqualTo(1);
            assertThat(host.hits("Book")).isEqualTo(clients);
            host.close();
        }
    }

    @Test
    void whatWasCountedOutlivesAnEditOfTheAnswers() throws IOException {
        MockAnswer first = MockAnswer.otherwise("first", "<first/>").withWhen("$hits = 1");
        start(MockLimits.USUAL, first, OTHERWISE);
        assertThat(post(envelope)).contains("<first/>");
        assertThat(post(envelope)).contains("<later/>");
        MockAnswer added = MockAnswer.otherwise("added", "<added/>").withWhen("false()");
        host.replace(host.plan().withAnswers("Book", List.of(added, first, OTHERWISE.withBody("<edited/>"))));
        assertThat(host.hits("Book")).isEqualTo(2);
        assertThat(host.answerHits("Book")).containsExactly(0L, 1L, 1L);
        assertThat(post(envelope)).as("it is the third, not the first again").contains("<edited/>");
        assertThat(host.answerHits("Book")).containsExactly(0L, 1L, 2L);
    }

    @Test
    void aSilentConnectionIsClosedAndOneThatWaitsForItsAnswerIsNot() throws IOException {
        start(limits(Duration.ofMillis(200), Duration.ofMinutes(1), 10, 1 << 20), OTHERWISE.withDelay(900));
        try (Socket silent = new Socket("127.0.0.1", host.port());
                Socket half = new Socket("127.0.0.1", host.port());
                Socket waiting = new Socket("127.0.0.1", host.port())) {
            half.getOutputStream().write("POST /stay HTTP/1.1\r\nHos".getBytes(StandardCharsets.UTF_8));
            waiting.getOutputStream().write(request(envelope));
            assertThat(text(silent)).isEmpty();
            assertThat(text(half)).startsWith("HTTP/1.1 408").contains("The rest of the request did not come");
            assertThat(text(waiting)).contains("<later/>");
        }
    }

    @Test
    void aRequestThatDripsInForTooLongIsEnded() throws Exception {
        start(limits(Duration.ofSeconds(5), Duration.ofMillis(300), 10, 1 << 20), OTHERWISE);
        try (Socket socket = new Socket("127.0.0.1", host.port())) {
            byte[] bytes = request(envelope);
            String answer = "";
            try {
                for (int i = 0; i < bytes.length && socket.getInputStream().available() == 0; i++) {
                    socket.getOutputStream().write(bytes[i]);
                    Thread.sleep(i > 60 ? 10 : 0);
                }
                answer = text(socket);
            } catch (SocketException closed) {
                // the mock may close before all is written
                answer = "408 closed";
            }
            assertThat(answer).contains("408");
        }
    }

    @Test
    void halfARequestInChunksIsToldThatItIsLate() throws Exception {
        start(limits(Duration.ofMillis(300), Duration.ofMinutes(1), 10, 1 << 20), OTHERWISE);
        try (Socket socket = new Socket("127.0.0.1", host.port())) {
            socket.setSoTimeout(10_000);
            socket.getOutputStream()
                    .write(
                            ("POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nTransfer-Encoding: chunked\r\n\r\n"
                                            + "5\r\n<e:En")
                                    .getBytes(StandardCharsets.UTF_8));
            assertThat(text(socket)).startsWith("HTTP/1.1 408").contains("did not come within");
        }
        try (Socket silent = new Socket("127.0.0.1", host.port())) {
            silent.setSoTimeout(10_000);
            silent.getOutputStream()
                    .write("GET /stay?wsdl HTTP/1.1\r\nHost: h\r\n\r\n".getBytes(StandardCharsets.UTF_8));
            String all = text(silent);
            assertThat(all).startsWith("HTTP/1.1 200").doesNotContain("408");
        }
    }

    @Test
    void manyThatAreSilentOrSlowDoNoHarmToOthers() throws Exception {
        start(MockLimits.USUAL, OTHERWISE);
        byte[] request = request(envelope);
        List<Socket> open = new ArrayList<>();
        try {
            for (int i = 0; i < 400; i++) {
                open.add(new Socket("127.0.0.1", host.port()));
            }
            List<Socket> slow = open.subList(0, 100);
            for (int sent = 0; sent < 200; sent += 10) {
                for (Socket socket : slow) {
                    socket.getOutputStream().write(request, sent, 10);
                }
                assertThat(post(envelope)).contains("200 OK");
            }
            for (Socket socket : slow) {
                socket.getOutputStream().write(request, 200, request.length - 200);
            }
            for (Socket socket : slow) {
                socket.setSoTimeout(10_000);
                assertThat(socket.getInputStream().read()).isEqualTo('H');
            }
        } finally {
            for (Socket socket : open) {
                socket.close();
            }
        }
        assertThat(host.hits("Book")).isEqualTo(120);
    }

    @Test
    void connectionsHaveABoundAndPlacesAreGivenBack() throws Exception {
        start(limits(Duration.ofSeconds(20), Duration.ofMinutes(1), 2, 1 << 20), OTHERWISE);
        try (Socket one = new Socket("127.0.0.1", host.port());
                Socket two = new Socket("127.0.0.1", host.port())) {
            one.getOutputStream().write(request(envelope));
            two.getOutputStream().write(request(envelope));
            assertThat(one.getInputStream().read()).isEqualTo('H');
            assertThat(two.getInputStream().read()).isEqualTo('H');
            try (Socket three = new Socket("127.0.0.1", host.port())) {
                assertThat(text(three)).contains("503").contains("2 connections already");
            }
        }
        for (int i = 0; i < 100 && !post(envelope).contains("200 OK"); i++) {
            Thread.sleep(20);
        }
        assertThat(post(envelope)).contains("200 OK");
    }

    @Test
    void theBytesOfAllRequestsTogetherHaveABound() throws Exception {
        start(limits(Duration.ofSeconds(20), Duration.ofMinutes(1), 10, 300_000), OTHERWISE);
        byte[] start =
                "POST /stay HTTP/1.1\r\nHost: h\r\nContent-Length: 200001\r\n\r\n".getBytes(StandardCharsets.UTF_8);
        try (Socket one = new Socket("127.0.0.1", host.port());
                Socket two = new Socket("127.0.0.1", host.port())) {
            one.getOutputStream().write(start);
            one.getOutputStream().write(new byte[200_000]);
            one.getOutputStream().flush();
            while (host.intake().held() < 200_000) {
                Thread.onSpinWait();
            }
            two.getOutputStream().write(start);
            two.getOutputStream().write(new byte[200_000]);
            byte[] first = two.getInputStream().readNBytes(12);
            assertThat(new String(first, StandardCharsets.UTF_8)).isEqualTo("HTTP/1.1 503");
            assertThat(one.getInputStream().available())
                    .as("the first waits for its end")
                    .isZero();
        }
        for (int i = 0; i < 100 && !post(envelope).contains("200 OK"); i++) {
            Thread.sleep(20);
        }
        assertThat(post(envelope)).as("what the others held is given back").contains("200 OK");
    }
}
