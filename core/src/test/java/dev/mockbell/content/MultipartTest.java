package dev.mockbell.content;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MultipartTest {
    private static final MediaType RELATED =
            new MediaType("Multipart/Related; type=\"application/xop+xml\"; start=\"<root@hut>\"; BOUNDARY=\"a b=c\"");

    private static Content content(String text) {
        return Content.of(text.replace("\n", "\r\n").getBytes(StandardCharsets.ISO_8859_1));
    }

    private static List<Part> parts(Content body, MediaType type) {
        return Multipart.of(body, type).parts();
    }

    private static String text(Part part) {
        return part.content().text(StandardCharsets.ISO_8859_1);
    }

    @Test
    void partsHaveTheirHeadersAndTheirVeryBytes() {
        Content body = content("a preamble\n--a b=c  \nContent-Type: image/png;\n name=\"x\"\nContent-ID:<p1@hut>\n\n"
                + "\u0089PNG\n\n--a b=x\n--a b=c\ncontent-id: <root@hut>\n\n<e/>\n--a b=c--\nan epilogue\n--a b=c\n");
        List<Part> parts = Multipart.of(body, RELATED).parts();
        assertThat(parts).hasSize(2);
        assertThat(text(parts.get(0))).isEqualTo("\u0089PNG\r\n\r\n--a b=x");
        assertThat(parts.get(0).header("content-type")).contains("image/png; name=\"x\"");
        assertThat(parts.get(0).id()).contains("p1@hut");
        assertThat(text(Multipart.of(body, RELATED).root())).isEqualTo("<e/>");
    }

    @Test
    void withoutAStartTheFirstIsTheRoot() {
        Content body = content("--x\n\none\n--x\n\ntwo\n--x--");
        MediaType type = new MediaType("multipart/related;boundary=x");
        assertThat(text(Multipart.of(body, type).root())).isEqualTo("one");
    }

    @Test
    void partsMayBeEmptyOrHaveNoHead() {
        List<Part> parts =
                parts(content("--x\n\n\n--x\n\n--x\nA: b\n\n\n--x--"), new MediaType("multipart/mixed;boundary=x"));
        assertThat(parts).extracting(MultipartTest::text).containsExactly("", "", "");
        assertThat(parts.get(2).header("a")).contains("b");
    }

    @Test
    void aBoundaryThatStartsAlikeIsContent() {
        List<Part> parts =
                parts(content("--x\n\none\n--xy\n\n-\n--x--"), new MediaType("multipart/mixed; boundary=\"x\""));
        assertThat(parts).extracting(MultipartTest::text).containsExactly("one\r\n--xy\r\n\r\n-");
    }

    @Test
    void aPartMayBeLargerThanMemoryIsUsedFor() {
        byte[] half = new byte[3 << 20];
        Content body = Content.joined(
                Content.joined(content("--x\n\n"), Content.joined(Content.of(half), Content.of(half))),
                content("\n--x--"));
        List<Part> parts = parts(body, new MediaType("multipart/mixed; boundary=x"));
        assertThat(parts)
                .singleElement()
                .satisfies(p -> assertThat(p.content().size()).isEqualTo(6 << 20));
    }

    @ParameterizedTest
    @CsvSource({
        "multipart/related, '', names no boundary",
        "multipart/related;boundary=x, 'nothing', stands nowhere",
        "multipart/related;boundary=\"\", '--x--', names no boundary"
    })
    void whatIsNotInPartsIsSaid(String type, String body, String words) {
        assertThatThrownBy(() -> parts(content(body), new MediaType(type)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining(words);
    }

    @Test
    void whatDoesNotEndIsReadAsFarAsItCameAndTold() {
        Multipart read =
                Multipart.of(content("--x\n\none\n--x\nA: b\n\ncut\n"), new MediaType("multipart/related;boundary=x"));
        assertThat(read.parts()).extracting(MultipartTest::text).containsExactly("one", "cut\r\n");
        assertThat(read.flaws())
                .singleElement()
                .asString()
                .contains("closing boundary")
                .contains("missing");
    }

    @Test
    void linesThatEndWithALineFeedAloneAreReadAndTold() {
        Content body = Content.of("preamble\n--x\nContent-ID: <a>;\n b=c\n\n<e>\n\n</e>\n--x\n\ntwo\r\n--x--\n"
                .getBytes(StandardCharsets.ISO_8859_1));
        Multipart read = Multipart.of(body, new MediaType("multipart/related;boundary=x"));
        assertThat(read.parts()).extracting(MultipartTest::text).containsExactly("<e>\n\n</e>", "two\r");
        assertThat(read.root().header("content-id")).contains("<a>; b=c");
        assertThat(read.flaws()).singleElement().asString().contains("line feed alone");
        assertThat(Multipart.of(content("--x\n\na\n--x--"), new MediaType("multipart/related;boundary=x"))
                        .flaws())
                .as("as it should be")
                .isEmpty();
    }

    @Test
    void aStartThatIsNoPartIsTold() {
        Multipart read = Multipart.of(
                content("--x\nContent-ID: <a>\n\none\n--x--"),
                new MediaType("multipart/related;boundary=x;start=\"<none>\""));
        assertThat(text(read.root())).isEqualTo("one");
        assertThat(read.attachments()).isEmpty();
        assertThat(read.flaws()).singleElement().asString().contains("<none>").contains("first was taken");
    }

    @ParameterizedTest
    @CsvSource({
        "base64, 'PGE+ w7w8L2\nE+', <a>\u00C3\u00BC</a>",
        "Quoted-Printable, '<a b=3D\"c\">=C3=\n=BC</a>', <a b=\"c\">\u00C3\u00BC</a>",
        "quoted-printable, 'one\ntwo=20\n', 'one\ntwo \n'",
        "binary, <a/>, <a/>",
        "x-own, PGE+, PGE+"
    })
    void whatWasDoneToAPartForTheWayIsUndone(String encoding, String came, String is) {
        Part part = new Part(
                List.of(new Header("Content-ID", "<r>"), new Header("content-transfer-encoding", encoding)),
                content(came));
        Part plain = TransferEncoding.undone(part);
        assertThat(text(plain)).isEqualTo(is.replace("\n", "\r\n"));
        assertThat(plain.id()).contains("r");
        assertThat(plain == part).isEqualTo(!TransferEncoding.isIn(part));
    }

    @Test
    void partsAndHeadsAreBounded() {
        MediaType type = new MediaType("multipart/mixed;boundary=x");
        assertThatThrownBy(() -> parts(content("--x\n\n\n".repeat(2_000) + "--x--"), type))
                .hasMessageContaining("more than 1000");
        assertThatThrownBy(() -> parts(content("--x\nA: " + "b".repeat(70_000) + "\n\n\n--x--"), type))
                .hasMessageContaining("head of more than");
    }

    @ParameterizedTest
    @ValueSource(strings = {"text/xml; charset=ISO-8859-1", "text/xml;a=\";charset=x\" ; Charset = \"iso-8859-1\""})
    void aParameterIsReadOutOfItsQuotationMarks(String text) {
        MediaType type = new MediaType(text);
        assertThat(type.name()).isEqualTo("text/xml");
        assertThat(type.charset()).contains(StandardCharsets.ISO_8859_1);
        assertThat(type.parameter("b")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "text/xml", "text/xml; charset=none-such", "text/xml; charset=\"?\"", ";;=;charset"})
    void aCharsetThatIsNotKnownIsNone(String text) {
        assertThat(new MediaType(text).charset()).isEmpty();
    }

    @Test
    void aQuotedPairIsWhatItStandsFor() {
        assertThat(new MediaType("application/soap+xml; action=\"urn:a\\\"b;c\"").parameter("ACTION"))
                .contains("urn:a\"b;c");
    }

    @Test
    void partsOfTheSameNameAreAFlaw() {
        String one = "--x\nContent-ID: <a>\n\none\n";
        MediaType type = new MediaType("multipart/related; boundary=x");
        assertThat(Multipart.of(content(one + one + one + "--x--"), type).flaws())
                .containsExactly("Several parts are named <a>; the first is taken");
        assertThat(Multipart.of(content(one + "--x--"), type).flaws()).isEmpty();
    }
}
