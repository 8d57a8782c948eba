package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.SoapMessage;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class MessageTextTest {
    private static final MessageText ALL = MessageText.toLookAt(Optional.empty());

    private static Message message(String type, String body) {
        String head = "HTTP/1.1 200 OK\r\nContent-Type: " + type + "\r\n\r\n";
        return new HttpMessage(
                "HTTP/1.1 200 OK",
                List.of(new Header("Content-Type", type)),
                Content.of(body.getBytes(StandardCharsets.UTF_8)),
                Content.of((head + body).getBytes(StandardCharsets.UTF_8)));
    }

    @Test
    void xmlIsLaidOutOtherTextIsShownAsItIsNothingIsSaid() {
        assertThat(ALL.body(message("text/xml", "<a><b>1</b></a>"))).contains("<a>\n  <b>1</b>\n</a>");
        assertThat(ALL.body(message("application/json", "{\"hut\": 1}"))).isEqualTo("{\"hut\": 1}");
        assertThat(ALL.body(message("text/xml", ""))).isEqualTo("HTTP/1.1 200 OK\n\n(no body)");
    }

    @Test
    void whatIsLeftOutIsSaid() {
        MessageText short3 = new MessageText(Optional.empty(), 3);
        assertThat(short3.body(message("text/plain", "abcdefgh")))
                .isEqualTo("abc\n\n(5 more bytes are not shown; they are kept)");
        assertThat(short3.wire(message("text/plain", "abcdefgh"))).startsWith("HTT\n\n(");
    }

    @Test
    void credentialsAreMaskedInBothFaces() {
        Message message = message("text/xml", "<a><Password>hush</Password></a>");
        MessageText masked = MessageText.toLookAt(Optional.of(Redactor.of(Map.of("pin", "hush"))));
        assertThat(masked.body(message)).contains("Password").doesNotContain("hush");
        assertThat(masked.wire(message)).contains("Password").doesNotContain("hush");
    }

    @Test
    void theEnvelopeIsReadOutOfTheRootOfItsParts() {
        String envelope =
                "<s:Envelope xmlns:s='http://schemas.xmlsoap.org/soap/envelope/'><s:Body><r/></s:Body></s:Envelope>";
        Message message = message(
                "multipart/related; boundary=x; start=\"<r>\"",
                "--x\r\nContent-ID: <p>\r\n\r\nbytes\r\n--x\r\nContent-ID: <r>\r\n"
                        + "Content-Type: application/xop+xml; charset=utf-8\r\n\r\n" + envelope + "\r\n--x--\r\n");
        assertThat(message.parts()).hasSize(2);
        assertThat(SoapMessage.of(message, "answer").payload().orElseThrow().getLocalName())
                .isEqualTo("r");
        assertThat(ALL.body(message))
                .contains("<r/>")
                .doesNotContain("--x")
                .endsWith("(beside it in the same body: no type, 5 bytes)");
        assertThat(message.text()).isEqualTo(envelope);
    }

    @Test
    void aBodyThatIsNotInPartsIsTakenAsItIs() {
        Message message = message("multipart/related; boundary=x", "<a/>");
        assertThat(message.text()).isEqualTo("<a/>");
    }
}
