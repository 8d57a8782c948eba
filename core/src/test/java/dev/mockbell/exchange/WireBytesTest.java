package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.redact.Redactor;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The very bytes, but for what is masked. */
class WireBytesTest {
    private static HttpMessage message(byte[] wire) {
        return new HttpMessage("", List.of(), Content.NONE, Content.of(wire));
    }

    private static byte[] of(byte[] wire, Redactor redactor) {
        return new WireBytes(Optional.of(redactor)).of(message(wire)).bytes();
    }

    @Test
    void bytesThatAreNoTextStayAsTheyCame() {
        byte[] bytes = new byte[100_000];
        new Random(3).nextBytes(bytes);
        byte[] wire = ("HTTP/1.1 200 OK\r\nContent-Encoding: gzip\r\n\r\n"
                        + new String(bytes, StandardCharsets.ISO_8859_1))
                .getBytes(StandardCharsets.ISO_8859_1);
        assertThat(of(wire, Redactor.USUAL)).isEqualTo(wire);
        assertThat(new WireBytes(Optional.empty()).of(message(wire)).bytes()).isEqualTo(wire);
    }

    @Test
    void aSecretIsMaskedAmongBytesThatAreNoTextAndTheRestStays() {
        byte[] wire =
                "Authorization: Basic abc\r\n\r\n\u00ff\u00fe granite-17 \u0081".getBytes(StandardCharsets.ISO_8859_1);
        String shown = new String(of(wire, Redactor.of(Map.of("key", "granite-17"))), StandardCharsets.ISO_8859_1);
        assertThat(shown)
                .doesNotContain("granite")
                .doesNotContain("abc")
                .contains("\u00ff\u00fe ")
                .endsWith(" \u0081");
    }

    @Test
    void aLongMessageIsMaskedInPiecesToItsEnd() {
        String row = "<row>granite-17</row><other>Kåld</other>\n";
        byte[] wire = ("POST / HTTP/1.1\r\n\r\n" + row.repeat(500_000)).getBytes(StandardCharsets.UTF_8);
        String shown = new String(of(wire, Redactor.of(Map.of("key", "granite-17"))), StandardCharsets.UTF_8);
        assertThat(shown).doesNotContain("granite").startsWith("POST / HTTP/1.1\r\n\r\n<row>•••</row>");
        assertThat(shown.length()).isEqualTo("POST / HTTP/1.1\r\n\r\n".length() + 500_000 * (row.length() - 7));
    }

    /** Pieces end behind markup and lines, which a secret and a security header may hold themselves. */
    @Test
    void noSeamBetweenPiecesCutsASecret() {
        String secret = "one>two\nthree>four\nö-five";
        Redactor redactor = Redactor.of(Map.of("key", secret));
        String security = "<wsse:Security>\n<wsse:UsernameToken>\n<wsse:Username>mira</wsse:Username>\n"
                + "<wsse:Password>granite</wsse:Password>\n</wsse:UsernameToken>\n</wsse:Security>\n";
        String head = "POST / HTTP/1.1\r\n\r\n";
        for (String hidden : List.of(secret, security)) {
            int length = hidden.getBytes(StandardCharsets.UTF_8).length;
            for (int back = 0; back < length + 4; back += 7) {
                String before = head + "x".repeat((1 << 20) - head.length() - back);
                byte[] wire = (before + hidden + "<end/>".repeat(20_000)).getBytes(StandardCharsets.UTF_8);
                byte[] shown = of(wire, redactor);
                String there = new String(shown, before.length() - 10, length + 30, StandardCharsets.UTF_8);
                assertThat(there).as("%d before the end", back).contains("•••");
                assertThat(there).doesNotContain("granite", "one>", "three", "five");
                assertThat(new String(shown, StandardCharsets.UTF_8)).endsWith("<end/>".repeat(20_000));
            }
        }
    }

    /** Whatever of it is larger than a piece. */
    @Test
    void aSecurityHeaderThatIsLongerThanAPieceIsMaskedAsAWhole() {
        String head = "POST / HTTP/1.1\r\n\r\n<e:Header>";
        String opened = "<w:Security\n xmlns:w='u'><w:BinarySecurityToken\n  Id='t'>";
        String closed = "</w:BinarySecurityToken>" + "<w:Reference>kept</w:Reference>".repeat(50_000)
                + "<Password>granite</Password></w:Security><Password>theirs</Password>" + "<end/>".repeat(200_000);
        for (String line : List.of("QUJD".repeat(19) + "\n", "QUJD")) {
            for (int before : List.of(0, (1 << 20) - 8_300, (1 << 20) - 8_250, (1 << 20) - 8_210)) {
                String start = head + "x".repeat(before);
                byte[] wire = (start + opened + line.repeat(2_500_000 / line.length()) + closed)
                        .getBytes(StandardCharsets.UTF_8);
                String shown = new String(of(wire, Redactor.USUAL), StandardCharsets.UTF_8);
                assertThat(shown.equals(start + opened + "•••" + closed.replace("granite", "•••")))
                        .as("%d characters before, lines of %d", before, line.length())
                        .isTrue();
            }
        }
    }
}
