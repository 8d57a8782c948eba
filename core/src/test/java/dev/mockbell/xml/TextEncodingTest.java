package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How bytes become characters, by XML 1.0 §4.3.3 and appendix F. */
class TextEncodingTest {
    private static final String HUT = "<hut name=\"Kåldfjell €\"/>";

    private static byte[] with(int[] mark, String text, Charset charset) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int b : mark) {
            out.write(b);
        }
        out.writeBytes(text.getBytes(charset));
        return out.toByteArray();
    }

    private static String name(byte[] bytes, String contentType) {
        return Xml.parse(bytes, contentType, "hut", XmlLimits.MESSAGE)
                .getDocumentElement()
                .getAttribute("name");
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-8", "UTF-16BE", "UTF-16LE", "UTF-32BE", "UTF-32LE"})
    void aByteOrderMarkTells(String charset) {
        Charset used = Charset.forName(charset);
        byte[] bytes = with(new int[0], "\uFEFF" + HUT, used);
        TextEncoding encoding = TextEncoding.of(bytes, "");
        assertThat(encoding.charset()).isEqualTo(used);
        assertThat(encoding.decode(bytes)).isEqualTo(HUT);
        assertThat(name(bytes, "text/xml; charset=ISO-8859-1"))
                .as("before whatever the header says")
                .isEqualTo("Kåldfjell €");
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-16BE", "UTF-16LE", "UTF-32BE", "UTF-32LE"})
    void withoutOneTheWidthOfTheFirstCharacterTells(String charset) {
        byte[] bytes = HUT.getBytes(Charset.forName(charset));
        assertThat(TextEncoding.of(bytes, "").charset()).isEqualTo(Charset.forName(charset));
        assertThat(name(bytes, "")).isEqualTo("Kåldfjell €");
    }

    @ParameterizedTest
    @ValueSource(strings = {"ISO-8859-15", "windows-1252", "UTF-8", "ISO-8859-1"})
    void theDeclarationTells(String charset) {
        String text = "<?xml version='1.0' encoding='" + charset + "'?><hut name='Kåld'/>";
        byte[] bytes = text.getBytes(Charset.forName(charset));
        assertThat(TextEncoding.of(bytes, "text/xml").charset()).isEqualTo(Charset.forName(charset));
        assertThat(name(bytes, "text/xml")).isEqualTo("Kåld");
    }

    @ParameterizedTest
    @CsvSource({
        "text/html, <html><head><meta charset=windows-1252><title>Gr\u00FC\u00DFe</title>, windows-1252, windows-1252",
        "text/html, <meta http-equiv='Content-Type' content='text/html; charset=iso-8859-15'>\u20AC, ISO-8859-15, ISO-8859-15",
        "text/html, <html>Gr\u00FC\u00DFe</html>, UTF-8, UTF-8",
        "text/html, <html>Gr\u00FC\u00DFe</html>, windows-1252, windows-1252",
        "text/html; charset=utf-8, <meta charset=windows-1252>\u00FC, UTF-8, UTF-8",
        "text/html, <meta charset=none-such>\u00FC, UTF-8, UTF-8",
        "text/plain, Gr\u00FC\u00DFe, windows-1252, windows-1252",
        "text/plain, Gr\u00FC\u00DFe, UTF-8, UTF-8",
        "text/xml, <a/>, UTF-8, UTF-8"
    })
    void aPageOrTextThatNamesNoCharsetIsReadAsBrowsersDo(String type, String text, String in, String as) {
        byte[] bytes = text.getBytes(Charset.forName(in));
        TextEncoding encoding = TextEncoding.of(bytes, type);
        assertThat(encoding.charset()).isEqualTo(Charset.forName(as));
        assertThat(encoding.decode(bytes)).isEqualTo(text);
        byte[] cut = Arrays.copyOf(bytes, Math.max(1, bytes.length - 1));
        assertThat(TextEncoding.of(cut, type).charset()).as("cut anywhere").isEqualTo(Charset.forName(as));
    }

    @Test
    void theHeaderTellsBeforeTheDeclarationAndThatIsToldWhereTheyDiffer() {
        byte[] bytes = "<?xml version='1.0' encoding='UTF-8'?><hut name='Kåld'/>".getBytes(StandardCharsets.ISO_8859_1);
        String type = "text/xml; charset=ISO-8859-1";
        assertThat(name(bytes, type)).as("RFC 7303 §3.2").isEqualTo("Kåld");
        assertThat(TextEncoding.of(bytes, type).doubt())
                .hasValueSatisfying(d -> assertThat(d).contains("UTF-8").contains("read as ISO-8859-1"));
        byte[] agreeing = "<?xml version='1.0' encoding='utf8'?><a/>".getBytes(StandardCharsets.UTF_8);
        assertThat(TextEncoding.of(agreeing, "text/xml; charset=UTF-8").doubt())
                .as("two names of one encoding")
                .isEmpty();
    }

    @Test
    void aHeaderThatTheFirstBytesShowToBeWrongIsPassedOverAndTold() {
        byte[] wide = HUT.getBytes(StandardCharsets.UTF_16LE);
        assertThat(name(wide, "text/xml; charset=utf-8")).isEqualTo("Kåldfjell €");
        assertThat(TextEncoding.of(wide, "text/xml; charset=utf-8").doubt())
                .hasValueSatisfying(d -> assertThat(d).contains("utf-8").contains("wider"));
        assertThat(TextEncoding.of(wide, "text/xml; charset=utf-16").doubt()).isEmpty();
        byte[] narrow = HUT.getBytes(StandardCharsets.UTF_8);
        assertThat(name(narrow, "text/xml; charset=utf-16")).isEqualTo("Kåldfjell €");
        assertThat(TextEncoding.of(narrow, "text/xml; charset=utf-16").doubt())
                .hasValueSatisfying(d -> assertThat(d).contains("one byte each"));
        byte[] ebcdic = "<?xml version='1.0' encoding='IBM037'?><hut name='Kåld'/>".getBytes(Charset.forName("IBM037"));
        assertThat(name(ebcdic, "text/xml; charset=UTF-8")).isEqualTo("Kåld");
    }

    @Test
    void theHeaderTellsWhereTheDocumentDoesNot() {
        byte[] bytes = "<hut name='Kåld'/>".getBytes(StandardCharsets.ISO_8859_1);
        assertThat(name(bytes, "text/xml; charset=\"iso-8859-1\"")).isEqualTo("Kåld");
        assertThat(TextEncoding.of(bytes, "text/xml; charset=nonsense!").charset())
                .isEqualTo(StandardCharsets.UTF_8);
        assertThat(TextEncoding.of(bytes, "text/xml").charset()).isEqualTo(StandardCharsets.UTF_8);
    }

    @ParameterizedTest
    @CsvSource({
        "UTF-16, one byte each",
        "utf-32le, one byte each",
        "ISO-10646-UCS-4, one byte each",
        "klingon-1, not known here"
    })
    void aDeclarationThatCannotBeTrueIsToldAndTheTextReadAllTheSame(String declared, String doubt) {
        byte[] bytes = ("<?xml version='1.0' encoding='" + declared + "'?><hut name='Kåld'/>")
                .getBytes(StandardCharsets.UTF_8);
        TextEncoding encoding = TextEncoding.of(bytes, "");
        assertThat(encoding.charset()).isEqualTo(StandardCharsets.UTF_8);
        assertThat(encoding.doubt())
                .hasValueSatisfying(
                        d -> assertThat(d).contains(declared).contains(doubt).contains("read as UTF-8"));
        assertThat(name(bytes, "")).isEqualTo("Kåld");
        assertThat(TextEncoding.of(bytes, "text/xml; charset=ISO-8859-1").charset())
                .as("the header's word is the next best")
                .isEqualTo(StandardCharsets.ISO_8859_1);
    }

    @Test
    void aDeclarationBehindEmptyLinesDoesNoHarmAndPlacesStay() {
        byte[] bytes = "\n\n <?xml version='1.0'?>\n<hut name='x'><odd></hut>".getBytes(StandardCharsets.UTF_8);
        assertThat(new String(TextEncoding.of(bytes, "").withoutLateDeclaration(bytes), StandardCharsets.UTF_8))
                .hasSameSizeAs(new String(bytes, StandardCharsets.UTF_8))
                .doesNotContain("<?xml");
        byte[] plain = "\n<hut/>".getBytes(StandardCharsets.UTF_8);
        assertThat(TextEncoding.of(plain, "").withoutLateDeclaration(plain)).isSameAs(plain);
        byte[] first = "<?xml version='1.0'?><hut/>".getBytes(StandardCharsets.UTF_8);
        assertThat(TextEncoding.of(first, "").withoutLateDeclaration(first)).isSameAs(first);
    }

    @Test
    void shortAndEmptyTextsAreNoTrouble() {
        for (String text : List.of("", "<", "\uFEFF", "x")) {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            assertThat(TextEncoding.of(bytes, "").decode(bytes)).isEqualTo(text.replace("\uFEFF", ""));
        }
        assertThat(TextEncoding.of(new byte[] {(byte) 0xFF}, "").charset()).isEqualTo(StandardCharsets.UTF_8);
    }

    @Test
    void whetherATextIsMentionedIsFoundWithoutDecodingAll() {
        byte[] plain = "<a xmlns='urn:x'/>".getBytes(StandardCharsets.UTF_8);
        assertThat(TextEncoding.mentions(plain, "urn:", List.of("urn:x", "urn:y")))
                .isTrue();
        assertThat(TextEncoding.mentions(plain, "urn:", List.of("urn:z"))).isFalse();
        assertThat(TextEncoding.mentions(plain, "http:", List.of("urn:x"))).isFalse();
        byte[] wide = "<a xmlns='urn:x'/>".getBytes(StandardCharsets.UTF_16);
        assertThat(TextEncoding.mentions(wide, "urn:", List.of("urn:z")))
                .as("cannot be told")
                .isTrue();
    }
}
