package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.wire.WireHead;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

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

    @ParameterizedTest
    @ValueSource(
            strings = {"", "HTTP/1.1 100 Continue\r\n\r\n", "HTTP/1.1 102 P\r\nA: b\r\n\r\nHTTP/1.1 103 E\r\n\r\n"})
    void whatFollowsACompressedBodyIsAFlaw(String interim) throws IOException {
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
            out.write("<hut/>".getBytes(StandardCharsets.UTF_8));
        }
        packed.write(0);
        assertThat(arrived(interim, "Content-Encoding: gzip", packed.toByteArray())
                        .flaws())
                .containsExactly("1 byte follows the end of what is compressed by gzip, and is passed over");
        ByteArrayOutputStream chunked = new ByteArrayOutputStream();
        chunked.writeBytes((Integer.toHexString(packed.size()) + "\r\n").getBytes(StandardCharsets.UTF_8));
        chunked.writeBytes(packed.toByteArray());
        chunked.writeBytes("\r\n0\r\n\r\n".getBytes(StandardCharsets.UTF_8));
        assertThat(arrived(interim, "Content-Encoding: gzip\r\nTransfer-Encoding: chunked", chunked.toByteArray())
                        .flaws())
                .containsExactly("1 byte follows the end of what is compressed by gzip, and is passed over");
        assertThat(arrived(interim, "Transfer-Encoding: chunked", chunked.toByteArray())
                        .flaws())
                .isEmpty();
    }

    private static Message arrived(String interim, String fields, byte[] body) {
        String head = interim + "HTTP/1.1 200 OK\r\n" + fields + "\r\n\r\n";
        Content wire = Content.joined(Content.of(head.getBytes(StandardCharsets.UTF_8)), Content.of(body));
        return WireHead.read(wire, Content.of("<hut/>".getBytes(StandardCharsets.UTF_8)))
                .orElseThrow();
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
