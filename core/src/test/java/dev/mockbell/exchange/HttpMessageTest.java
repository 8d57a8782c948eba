package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.wire.WireHead;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class HttpMessageTest {
    @ParameterizedTest
    @CsvSource({"HTTP/1.1 200 OK, 200", "HTTP/1.0 404, 404", "POST /x HTTP/1.1, 0", "HTTP/1.1 abc, 0", "'', 0"})
    void theStatusIsOfResponsesAlone(String line, int status) {
        assertThat(new HttpMessage(line, List.of(), Content.NONE, Content.NONE).status())
                .isEqualTo(status);
    }

    @ParameterizedTest
    @CsvSource({
        "text/xml; charset=iso-8859-1, ISO-8859-1",
        "text/xml; charset=\"UTF-16\", UTF-16",
        "text/xml, UTF-8",
        "text/xml; charset=nonsense, UTF-8"
    })
    void theTextIsReadByItsCharset(String type, String charset) {
        Content body = Content.of("høyde".getBytes(java.nio.charset.Charset.forName(charset)));
        assertThat(new HttpMessage("HTTP/1.1 200 OK", List.of(new Header("content-type", type)), body, body).text())
                .isEqualTo("høyde");
    }

    @Test
    void interimResponsesAreSteppedOver() {
        Content wire = Content.of("HTTP/1.1 100 Continue\r\n\r\nHTTP/1.1 200 OK\r\nA: 1\r\nB:2\r\n\r\nbody"
                .getBytes(StandardCharsets.UTF_8));
        Message message = WireHead.read(wire, Content.NONE).orElseThrow();
        assertThat(message.title()).isEqualTo("HTTP/1.1 200 OK");
        assertThat(message.headers()).containsExactly(new Header("A", "1"), new Header("B", "2"));
        assertThat(message.wire()).isSameAs(wire);
    }

    @Test
    void aHeadThatNeverEndsIsNone() {
        assertThat(WireHead.read(Content.of("HTTP/1.1 200 OK\r\nA: 1".getBytes(StandardCharsets.UTF_8)), Content.NONE))
                .isEmpty();
    }

    @Test
    void theTotalIsTheSumOfTheParts() {
        assertThat(new Timing(1_000_000, 2_000_000, 30_400_000, 4_000_000).totalMillis())
                .isEqualTo(37);
    }
}
