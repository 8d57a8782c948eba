package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.redact.Redactor;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;

class WireTextTest {
    private static final String TEXT = "<closure><trail>Skarn ridge</trail><grade>4</grade></closure>";
    private static final Optional<Redactor> HIDING = Optional.of(Redactor.of(Map.of("pin", "granite-17")));

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] zipped(String text) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes(text));
        }
        return out.toByteArray();
    }

    private static byte[] chunked(byte[] body, int size) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < body.length; i += size) {
            int end = Math.min(body.length, i + size);
            out.write(bytes(Integer.toHexString(end - i) + "\r\n"));
            out.write(body, i, end - i);
            out.write(bytes("\r\n"));
        }
        out.write(bytes("0\r\n\r\n"));
        return out.toByteArray();
    }

    private static Message message(byte[] onTheWay, byte[] body, String... headers) {
        List<Header> all = new ArrayList<>();
        StringBuilder head = new StringBuilder("HTTP/1.1 200 OK\r\n");
        for (int i = 0; i < headers.length; i += 2) {
            all.add(new Header(headers[i], headers[i + 1]));
            head.append(headers[i]).append(": ").append(headers[i + 1]).append("\r\n");
        }
        head.append("\r\n");
        Content wire = Content.joined(Content.of(bytes(head.toString())), Content.of(onTheWay));
        return new HttpMessage("HTTP/1.1 200 OK", all, Content.of(body), wire);
    }

    private static WireText open(Message message) {
        return WireText.of(message, Optional.empty(), 1 << 20);
    }

    @Test
    void whatIsTextIsShownAsThatAndNeedsNoDecoding() {
        WireText shown = open(message(bytes(TEXT), bytes(TEXT), "Content-Type", "text/xml"));
        assertThat(shown.bytes()).isEqualTo("HTTP/1.1 200 OK\r\nContent-Type: text/xml\r\n\r\n" + TEXT);
        assertThat(shown.decoded()).isEmpty();
        assertThat(shown.how()).isEmpty();
    }

    @Test
    void compressedAndChunkedIsHexWithWhatItCameToBeside() throws IOException {
        byte[] way = chunked(zipped(TEXT), 20);
        WireText shown = open(message(
                way,
                bytes(TEXT),
                "Content-Type",
                "text/xml",
                "Content-Encoding",
                "gzip",
                "Transfer-Encoding",
                "chunked"));
        assertThat(shown.bytes()).contains("000000  31 34 0d 0a 1f 8b 08 00").doesNotContain("Skarn");
        assertThat(shown.decoded()).isEqualTo(TEXT);
        assertThat(shown.how()).isEqualTo("gzip, chunked");
    }

    @Test
    void gzipOfAWrongChecksumIsHexAndDecodedAsFarAsItGoes() throws IOException {
        byte[] spoilt = zipped(TEXT);
        spoilt[spoilt.length - 6] ^= 0x55;
        WireText shown = open(message(spoilt, spoilt, "Content-Type", "text/xml", "Content-Encoding", "gzip"));
        assertThat(shown.bytes()).contains("1f 8b");
        assertThat(shown.decoded()).isEqualTo(TEXT);
        assertThat(shown.how()).isEqualTo("gzip, as far as it goes");
        byte[] cut = Arrays.copyOf(zipped(TEXT.repeat(400)), 60);
        assertThat(open(message(cut, cut, "Content-Encoding", "gzip")).decoded())
                .startsWith("<closure>");
        assertThat(open(message(bytes("no gzip at all"), bytes("no gzip at all"), "Content-Encoding", "gzip"))
                        .decoded())
                .isEqualTo("no gzip at all");
    }

    @Test
    void ofPartsTheTextIsTextAndOnlyThePictureIsHex() {
        byte[] picture = new byte[300];
        for (int i = 0; i < picture.length; i++) {
            picture[i] = (byte) (i * 37);
        }
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        body.writeBytes(bytes("--b\r\nContent-Type: application/xop+xml\r\n\r\n" + TEXT + "\r\n--b\r\n\r\n"));
        body.writeBytes(picture);
        body.writeBytes(bytes("\r\n--b-- and so that this is long enough to be read\r\n"));
        WireText shown = open(message(body.toByteArray(), body.toByteArray(), "Content-Type", "multipart/related"));
        assertThat(shown.bytes())
                .contains("application/xop+xml\r\n\r\n" + TEXT)
                .contains("00 25 4a 6f 94")
                .contains("--b-- and so that this is long enough to be read");
    }

    @Test
    void otherEncodingsAreText() {
        String text = "<hut>Höhe über Tal</hut>";
        byte[] latin = text.getBytes(StandardCharsets.ISO_8859_1);
        assertThat(open(message(latin, latin, "Content-Type", "text/xml; charset=ISO-8859-1"))
                        .bytes())
                .endsWith(text);
        byte[] wide = ("\uFEFF" + text).getBytes(StandardCharsets.UTF_16LE);
        assertThat(open(message(wide, wide, "Content-Type", "text/xml")).bytes())
                .endsWith(text);
    }

    @Test
    void muchThatIsNoTextIsShownInPartAndThatIsSaid() {
        byte[] much = new byte[WireText.MOST_HEX + 1_000];
        assertThat(open(message(much, much)).bytes()).endsWith("… 1000 more bytes that are no text\n");
        assertThat(WireText.of(message(bytes(TEXT), bytes(TEXT)), Optional.empty(), 40)
                        .bytes())
                .contains("more bytes are not shown; they are kept");
    }

    @Test
    void aSecretIsNotInWhatItIsCompressedToNorCutInTwoByChunks() throws IOException {
        String secret = "<pin>granite-17</pin>";
        byte[] zipped = zipped(secret);
        Message compressed = message(zipped, bytes(secret), "Content-Encoding", "gzip");
        WireText masked = WireText.of(compressed, HIDING, 1 << 20);
        assertThat(masked.bytes()).contains("which holds a secret").doesNotContain("1f 8b");
        assertThat(masked.decoded()).startsWith("<pin>").doesNotContain("granite");
        assertThat(new String(new WireBytes(HIDING).of(compressed).bytes(), StandardCharsets.ISO_8859_1))
                .startsWith("HTTP/1.1 200 OK\r\n")
                .contains("which holds a secret");
        assertThat(open(compressed).bytes()).contains("1f 8b");

        Message inTwo = message(chunked(bytes(secret), 9), bytes(secret), "Transfer-Encoding", "chunked");
        assertThat(WireText.of(inTwo, HIDING, 1 << 20).bytes())
                .doesNotContain("gran")
                .contains("which holds a secret");
        Message inOne = message(chunked(bytes(secret), 900), bytes(secret), "Transfer-Encoding", "chunked");
        assertThat(WireText.of(inOne, HIDING, 1 << 20).bytes())
                .contains("15\r\n<pin>")
                .doesNotContain("granite");
    }

    @Test
    void whatIsMaskedOnlyIsNotDecodedFromAnything() {
        String secret = "<pin>granite-17</pin>";
        WireText masked = WireText.of(message(bytes(secret), bytes(secret)), HIDING, 1 << 20);
        assertThat(masked.bytes()).doesNotContain("granite");
        assertThat(masked.decoded()).isEmpty();
        assertThat(masked.how()).isEmpty();
    }

    @Test
    void whatWasDecryptedIsShownBesideWhatCame() {
        WireText shown = open(message(bytes("<xenc:EncryptedData/>"), bytes(TEXT)));
        assertThat(shown.bytes()).contains("EncryptedData");
        assertThat(shown.decoded()).isEqualTo(TEXT);
        assertThat(shown.how()).isEqualTo("encryption");
    }
}
