package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.mock.Trouble.Kind;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.Socket;
import java.net.SocketException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is made wrong with an answer on purpose, as it is on the wire. */
@Timeout(60)
class AnswerTroubleTest {
    private static final String CHUNKED = "Transfer-Encoding: chunked";

    private final MockUnderTest mock = new MockUnderTest();
    private final String two = MockUnderTest.book("NF-07", 2);

    @AfterEach
    void close() {
        mock.close();
    }

    private void answering(Trouble trouble) {
        mock.answering(MockAnswer.otherwise("said", "<said>twelve bunks</said>").with(trouble));
    }

    /** A request that is read as a plain call, or one that goes the library's way. */
    private byte[] request(boolean plain) {
        byte[] request = mock.request(two);
        if (plain) {
            return request;
        }
        String text = new String(request, StandardCharsets.UTF_8);
        String head = text.substring(0, text.indexOf("Content-Length"));
        String body = text.substring(text.indexOf("\r\n\r\n") + 4);
        String chunk = Integer.toHexString(body.getBytes(StandardCharsets.UTF_8).length);
        return (head + CHUNKED + "\r\n\r\n" + chunk + "\r\n" + body + "\r\n0\r\n\r\n").getBytes(StandardCharsets.UTF_8);
    }

    private String sent(boolean plain) throws IOException {
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(plain));
            return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    /** The head and as much of the body as its length says. */
    private static String answer(Socket socket) throws IOException {
        ByteArrayOutputStream head = new ByteArrayOutputStream();
        while (!head.toString(StandardCharsets.UTF_8).endsWith("\r\n\r\n")) {
            int read = socket.getInputStream().read();
            if (read < 0) {
                throw new IOException("ended in the head: " + head);
            }
            head.write(read);
        }
        String text = head.toString(StandardCharsets.UTF_8);
        int length = Integer.parseInt(text.replaceAll("(?s).*content-length: (\\d+).*", "$1"));
        return text + new String(socket.getInputStream().readNBytes(length), StandardCharsets.UTF_8);
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void closedSaysNothing(boolean plain) throws IOException {
        answering(Trouble.of(Kind.CLOSED));
        assertThat(sent(plain)).isEmpty();
        assertThat(mock.host.answerHits("Book")).containsExactly(1L);
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void resetComesAfterAPartOfTheBytes(boolean plain) throws IOException {
        answering(new Trouble(Kind.RESET, 60));
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(plain));
            ByteArrayOutputStream got = new ByteArrayOutputStream();
            assertThatThrownBy(() -> {
                        for (int b = socket.getInputStream().read();
                                b >= 0;
                                b = socket.getInputStream().read()) {
                            got.write(b);
                        }
                    })
                    .isInstanceOf(SocketException.class);
            assertThat(got.toString(StandardCharsets.UTF_8))
                    .startsWith("HTTP/1.1 200 OK\r\n")
                    .doesNotContain("</said>");
        }
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void cutShortIsWholeForHttpAndNotForXml(boolean plain) throws IOException {
        answering(new Trouble(Kind.CUT, 50));
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(plain));
            assertThat(answer(socket)).contains("Envelope").doesNotContain("</");
            // the connection is as it was
            socket.getOutputStream().write(request(true));
            assertThat(answer(socket)).startsWith("HTTP/1.1 200");
        }
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void malformedHasAnotherEndTag(boolean plain) throws IOException {
        answering(Trouble.of(Kind.MALFORMED));
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(plain));
            assertThat(answer(socket)).contains("</said>").containsPattern("</x\\w+:Envelope>");
        }
    }

    private static int lengthSaid(String all) {
        return Integer.parseInt(all.replaceAll("(?s).*content-length: (\\d+).*", "$1"));
    }

    private static int lengthThere(String all) {
        return all.substring(all.indexOf("\r\n\r\n") + 4).getBytes(StandardCharsets.UTF_8).length;
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void aLengthTooLargeLeavesTheClientWaitingForMore(boolean plain) throws IOException {
        answering(new Trouble(Kind.SAYS_MORE, 25));
        String all = sent(plain);
        assertThat(lengthSaid(all)).isEqualTo(lengthThere(all) + 25);
        assertThat(all).endsWith("Envelope>\n");
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void aLengthTooSmallLeavesBytesBehindTheBody(boolean plain) throws IOException {
        answering(new Trouble(Kind.SAYS_LESS, 25));
        String all = sent(plain);
        assertThat(lengthSaid(all)).isEqualTo(lengthThere(all) - 25);
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void slowBytesComeOneAfterTheOtherAndTheNextRequestWaits(boolean plain) throws IOException {
        answering(new Trouble(Kind.SLOW, 1_000));
        try (Socket socket = mock.connected()) {
            long began = System.nanoTime();
            socket.getOutputStream().write(request(plain));
            socket.getOutputStream().write(request(plain));
            String first = answer(socket);
            long took = (System.nanoTime() - began) / 1_000_000;
            assertThat(first).contains("twelve bunks");
            assertThat(answer(socket)).contains("twelve bunks");
            int bytes = first.substring(first.indexOf("\r\n\r\n") + 4).length();
            assertThat(took).isGreaterThanOrEqualTo(bytes - 100L);
        }
    }

    @Test
    void aSlowAnswerEndsWithItsConnection() throws Exception {
        answering(new Trouble(Kind.SLOW, 1));
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(true));
            assertThat(socket.getInputStream().read()).isEqualTo('H');
        }
        for (int i = 0; i < 200 && mock.recorded.isEmpty(); i++) {
            Thread.sleep(25);
        }
        assertThat(mock.recorded).hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void theTypeIsThatOfAPage(boolean plain) throws IOException {
        answering(Trouble.of(Kind.WRONG_TYPE));
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(plain));
            assertThat(answer(socket)).contains("content-type: text/html").contains("twelve bunks");
        }
    }

    @Test
    void headOfADocumentHasItsLengthAndNoBodyAlsoAfterACall() throws IOException {
        answering(Trouble.NONE);
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(request(false));
            assertThat(answer(socket)).contains("twelve bunks");
            socket.getOutputStream()
                    .write("HEAD /stay?wsdl HTTP/1.1\r\nHost: h\r\nConnection: close\r\n\r\n"
                            .getBytes(StandardCharsets.UTF_8));
            String head = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            assertThat(head).startsWith("HTTP/1.1 200").endsWith("\r\n\r\n");
            assertThat(head).containsPattern("content-length: [1-9]\\d{2,}");
        }
    }

    @Test
    void amountsStayWithinWhatTheirKindHas() {
        assertThat(new Trouble(Kind.CUT, 500).amount()).isEqualTo(99);
        assertThat(new Trouble(Kind.SLOW, -5).amount()).isEqualTo(1);
        assertThat(new Trouble(Kind.CLOSED, 12)).isEqualTo(Trouble.of(Kind.CLOSED));
    }
}
