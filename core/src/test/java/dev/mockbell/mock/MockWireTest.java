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
import java.io.InputStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The mock as clients of every manner meet it, byte by byte. */
class MockWireTest {
    private final EventLoops loops = new EventLoops("test", 2);
    private final Contract stay = Contracts.stay();
    private final String envelope = Envelope.around(SoapVersion.V11, Stays.BODY, List.of());
    private MockHost host;

    @BeforeEach
    void start() {
        MockPlan plan = MockPlan.of("stay", stay, 0);
        List<MockAnswer> answers = new ArrayList<>(plan.of("Book"));
        answers.add(MockAnswer.otherwise("seven", "<x xmlns='urn:seven'/>").withWhen("$request//nights = 7"));
        host = MockHost.start(
                stay,
                plan.withAnswers("Book", answers),
                MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
    }

    @AfterEach
    void stop() {
        host.close();
        loops.close();
    }

    private String post(String body, String more) {
        return "POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml; charset=utf-8\r\n" + more + "Content-Length: "
                + body.getBytes(StandardCharsets.UTF_8).length + "\r\n\r\n" + body;
    }

    private String exchange(String... pieces) throws IOException {
        try (Socket socket = new Socket("127.0.0.1", host.port())) {
            socket.setSoTimeout(5_000);
            for (String piece : pieces) {
                socket.getOutputStream().write(piece.getBytes(StandardCharsets.UTF_8));
                socket.getOutputStream().flush();
            }
            socket.shutdownOutput();
            InputStream in = socket.getInputStream();
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private static int count(String text, String word) {
        return text.split(java.util.regex.Pattern.quote(word), -1).length - 1;
    }

    @Test
    void severalRequestsMayShareAConnection() throws IOException {
        String answers = exchange(
                post(envelope, ""),
                post(envelope.replace("nights>2", "nights>7"), ""),
                post(envelope, "Connection: close\r\n"));
        assertThat(count(answers, "HTTP/1.1 200 OK")).isEqualTo(3);
        assertThat(answers.indexOf("urn:seven"))
                .isBetween(answers.indexOf("BookResponse"), answers.lastIndexOf("BookResponse"));
    }

    @Test
    void aRequestInChunksIsRead() throws IOException {
        String chunked =
                "POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nTransfer-Encoding: chunked\r\nConnection: close\r\n\r\n"
                        + Integer.toHexString(10) + "\r\n" + envelope.substring(0, 10) + "\r\n"
                        + Integer.toHexString(envelope.length() - 10) + "\r\n" + envelope.substring(10)
                        + "\r\n0\r\n\r\n";
        assertThat(exchange(chunked)).contains("200 OK").contains("BookResponse");
    }

    @Test
    void aRequestThatDripsInIsAnsweredOnce() throws IOException {
        String whole = post(envelope, "Connection: close\r\n");
        assertThat(count(exchange(whole.substring(0, 20), whole.substring(20, 90), whole.substring(90)), "HTTP/1.1"))
                .isEqualTo(1);
        assertThat(host.hits("Book")).isEqualTo(1);
    }

    @Test
    void otherMethodsAndNonsenseAreRefusedInWords() throws IOException {
        assertThat(exchange("PUT /stay HTTP/1.1\r\nHost: h\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"))
                .startsWith("HTTP/1.1 405")
                .contains("Use POST to call");
        assertThat(exchange("nonsense\r\n\r\n")).startsWith("HTTP/1.1 400");
        assertThat(exchange("GET / HTTP/1.1\r\nHost: h\r\nConnection: close\r\n\r\n"))
                .startsWith("HTTP/1.1 200")
                .contains("?wsdl");
        assertThat(exchange("GET /other HTTP/1.1\r\nHost: h\r\nConnection: close\r\n\r\n"))
                .startsWith("HTTP/1.1 404");
    }

    @Test
    void documentTypesAndDeepNestingAreRefused() throws IOException {
        String bomb = "<!DOCTYPE a [<!ENTITY e 'x'>]>" + envelope;
        assertThat(exchange(post(bomb, "Connection: close\r\n")))
                .startsWith("HTTP/1.1 500")
                .contains("document type declaration");
        String deep = envelope.replace("NF-07", "<a>".repeat(6_000) + "</a>".repeat(6_000))
                .replace("nights>2", "nights>7");
        assertThat(exchange(post(deep, "Connection: close\r\n")))
                .startsWith("HTTP/1.1 500")
                .contains("nested more than");
    }

    @Test
    void manyClientsAtOnceAreAllAnsweredAndCounted() throws Exception {
        ExecutorService clients = Executors.newFixedThreadPool(8);
        List<Future<Integer>> results = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            String[] requests = new String[40];
            for (int r = 0; r < requests.length; r++) {
                requests[r] = post(
                        r % 4 == 0 ? envelope.replace("nights>2", "nights>7") : envelope,
                        r == 39 ? "Connection: close\r\n" : "");
            }
            Callable<Integer> client = () -> count(exchange(requests), "HTTP/1.1 200 OK");
            results.add(clients.submit(client));
        }
        for (Future<Integer> result : results) {
            assertThat(result.get()).isEqualTo(40);
        }
        clients.shutdown();
        assertThat(host.hits("Book")).isEqualTo(320);
        assertThat(host.answerHits("Book")).containsExactly(80L, 240L);
        assertThat(host.answered()).isEqualTo(320);
    }
}
