package dev.mockbell.content;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Where a head ends, and what it says. */
class HttpHeadTest {
    private static HttpHead head(String text) {
        return HttpHead.of(text).orElseThrow();
    }

    @Test
    void fieldsAreTakenInTheirOrder() {
        HttpHead head = head("POST /a HTTP/1.1\r\nHost: hut\r\nX-A:1 \r\nodd\r\nx-a: 2:3\r\nEmpty:\r\n\r\nbody: no");
        assertThat(head.title()).isEqualTo("POST /a HTTP/1.1");
        assertThat(head.headers())
                .containsExactly(
                        new Header("Host", "hut"),
                        new Header("X-A", "1"),
                        new Header("x-a", "2:3"),
                        new Header("Empty", ""));
        assertThat(head.end())
                .isEqualTo("POST /a HTTP/1.1\r\nHost: hut\r\nX-A:1 \r\nodd\r\nx-a: 2:3\r\nEmpty:\r\n\r\n".length());
        assertThat(head.flaws()).isEmpty();
    }

    @Test
    void interimResponsesAreSteppedOverWithWhatIsWrongAboutThem() {
        assertThat(head("HTTP/1.1 100 Continue\n\nHTTP/1.1 103 Early\r\nA: 1\r\n\r\nHTTP/1.1 200 OK\r\nB: 2\r\n\r\nx")
                        .headers())
                .containsExactly(new Header("B", "2"));
        assertThat(head("HTTP/1.1 100 Continue\n\nHTTP/1.1 200 OK\r\n\r\n").flaws())
                .isEmpty();
        assertThat(head("HTTP/1.1 101 Switching Protocols\r\n\r\nHTTP/1.1 200 OK\r\n\r\n")
                        .title())
                .isEqualTo("HTTP/1.1 101 Switching Protocols");
    }

    @Test
    void eachKindOfFlawIsToldOnce() {
        assertThat(head("\n\nHTTP/1.1 200 OK\nA : 1\nB : 2\nC:\n 3\n 4\nD:\n\t5\n\nx"))
                .isEqualTo(new HttpHead(
                        "HTTP/1.1 200 OK",
                        List.of(
                                new Header("A", "1"),
                                new Header("B", "2"),
                                new Header("C", "3 4"),
                                new Header("D", "5")),
                        46,
                        List.of(
                                "Empty lines stand before the start line, which RFC 9112 §2.1 has no place for",
                                "The field C goes on in the next line, which RFC 9112 §5.2 forbids",
                                "White space stands before the colon of A, which RFC 9112 §5.1 forbids",
                                "Lines of the head end with a line feed alone, where RFC 9112 §2.2 wants CR LF")));
    }

    /** Messages of queues stand behind a head of the same shape. */
    @Test
    void whatIsNoHttpHasLinesThatEndAsTheyShould() {
        HttpHead head = head("TO queue trails\r\nnote: a\n\nb\r\n\r\n<e/>\n\n\r\n\r\n");
        assertThat(head.headers()).containsExactly(new Header("note", "a\n\nb"));
        assertThat(head.end()).isEqualTo("TO queue trails\r\nnote: a\n\nb\r\n\r\n".length());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "\r\n",
                "HTTP/1.1 200 OK",
                "HTTP/1.1 200 OK\r\nA: 1\r\n",
                "HTTP/1.1 100 Continue\r\n\r\n",
                "<a>\n\n</a>",
                "220 ready\n\n"
            })
    void whatDoesNotEndIsNone(String text) {
        assertThat(HttpHead.of(text)).isEmpty();
    }

    @Test
    void aLongHeadIsReadToItsEnd() {
        String text = "HTTP/1.1 200 OK\r\n" + "X-A: y\r\n".repeat(50_000) + "\r\n";
        assertThat(HttpHead.of(Content.of((text + "body").getBytes(StandardCharsets.ISO_8859_1)))
                        .map(HttpHead::end))
                .contains(text.length());
    }
}
