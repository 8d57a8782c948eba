package dev.mockbell.redact;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class RedactorTest {
    private static final String VALUE = "p4ss/w<o>r&d \"é'";
    private static final Redactor KNOWING = Redactor.of(Map.of("token", VALUE));

    static List<String> encodings() {
        byte[] bytes = VALUE.getBytes(StandardCharsets.UTF_8);
        String xml = VALUE.replace("&", "&amp;").replace("<", "&lt;");
        return List.of(
                VALUE,
                xml,
                xml.replace(">", "&gt;"),
                xml.replace(">", "&gt;").replace("\"", "&quot;"),
                xml.replace(">", "&gt;").replace("\"", "&quot;").replace("'", "&apos;"),
                VALUE.replace("\"", "\\\""),
                URLEncoder.encode(VALUE, StandardCharsets.UTF_8),
                URLEncoder.encode(VALUE, StandardCharsets.UTF_8).replace("+", "%20"),
                HexFormat.of().formatHex(bytes),
                HexFormat.of().withUpperCase().formatHex(bytes));
    }

    @ParameterizedTest
    @MethodSource("encodings")
    void aSecretIsMaskedInEveryEncoding(String encoded) {
        assertThat(KNOWING.text("before " + encoded + " after")).isEqualTo("before ••• after");
    }

    @Test
    void aSecretIsMaskedWithinBase64AtAnyOffset() {
        for (String before : List.of("", "u", "us", "user:", "anna:x")) {
            for (String after : List.of("", "!", "@@", "\n\n\n")) {
                byte[] bytes = (before + VALUE + after).getBytes(StandardCharsets.UTF_8);
                String encoded = Base64.getEncoder().encodeToString(bytes);
                String shown = KNOWING.text("<a>" + encoded + "</a>");
                assertThat(shown).as(before + "…" + after).contains(Redactor.MASK);
                // what is left around the mask is no more than the parts of groups that are shared with the neighbours
                String left = shown.replace("<a>", "").replace("</a>", "").replace(Redactor.MASK, "");
                assertThat(left.length()).isLessThan(encoded.length() - VALUE.length() / 2);
            }
        }
    }

    @ParameterizedTest
    @CsvSource({
        "Authorization, Basic YW5uYTp4, Basic •••",
        "authorization, Bearer abc.def, Bearer •••",
        "Proxy-Authorization, 'Digest username=\"anna\", response=\"1\"', Digest •••",
        "Authorization, something else, •••",
        "Cookie, JSESSIONID=1, •••",
        "Set-Cookie, a=b; Path=/, •••",
        "X-Api-Key, 123, •••",
        "X-Auth-Token, 123, •••",
        "Content-Type, text/xml, text/xml",
        "SOAPAction, urn:author, urn:author",
        "Location, http://anna:pw@h/x, http://•••@h/x"
    })
    void headersOfCredentialsShowTheirSchemeAlone(String name, String value, String shown) {
        assertThat(Redactor.USUAL.header(name, value)).isEqualTo(shown);
    }

    @Test
    void theWireKeepsItsShape() {
        String wire = "POST /s?u=http://a:b@h/ HTTP/1.1\r\nHost: h\r\nAuthorization: Basic YTpi\r\n\r\n"
                + "<s:Envelope><s:Header><wsse:Security xmlns:wsse='w'><wsse:UsernameToken><wsse:Username>anna</wsse:Username>"
                + "<wsse:Password Type='x#PasswordText'>geheim</wsse:Password></wsse:UsernameToken></wsse:Security></s:Header>"
                + "<s:Body><Password>a field of the business</Password></s:Body></s:Envelope>";
        assertThat(Redactor.USUAL.wire(wire))
                .isEqualTo(wire.replace("a:b@h", "•••@h").replace("YTpi", "•••").replace(">geheim<", ">•••<"));
    }

    @Test
    void passwordsAreMaskedAlsoInAMessageThatIsCutOff() {
        String cut = "<Security><UsernameToken><Password>gehei";
        assertThat(Redactor.USUAL.message(cut)).doesNotContain("gehei").contains("<Password>•••");
    }

    @ParameterizedTest
    @CsvSource({
        "http://anna:pw@h:80/x?wsdl, http://h:80/x?wsdl",
        "https://anna@h/x, https://h/x",
        "http://h/x?a=b@c, http://h/x?a=b@c",
        "/home/anna@work/x.wsdl, /home/anna@work/x.wsdl"
    })
    void addressesLoseTheirLoginAndNothingElse(String address, String plain) {
        assertThat(Redactor.withoutLogin(address)).isEqualTo(plain);
    }

    @Test
    void whatIsKeptRefersToTheSecretInsteadOfHoldingIt() {
        Redactor two = Redactor.of(Map.of("token", "s3cr<t", "long", "s3cr<t-and-more"));
        assertThat(two.unfilled("<a>s3cr&lt;t</a><b>s3cr&lt;t-and-more</b>"))
                .isEqualTo("<a>{$secret:token}</a><b>{$secret:long}</b>");
    }

    @Test
    void aSecretOfOneCharacterMasksNothing() {
        assertThat(Redactor.of(Map.of("x", "1")).text("1 + 1")).isEqualTo("1 + 1");
    }

    /** However the head is written: who reads it is lenient too. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "POST / HTTP/1.1\nCookie: open\n\n<a/>",
                "POST / HTTP/1.1\r\nCookie : open\r\n\r\n<a/>",
                "POST / HTTP/1.1\r\nCookie:\r\n open\r\n\topen\r\n\r\n<a/>",
                "\r\n\r\nPOST / HTTP/1.1\r\nCookie: open\r\n\r\n<a/>",
                "HTTP/1.1 103 Early Hints\r\nCookie: open\r\n\r\nHTTP/1.1 200 OK\r\nSet-Cookie: open\r\n\r\n<a/>",
                "POST / HTTP/1.1\r\nCookie: open"
            })
    void credentialsAreMaskedInEveryHeadThatCanBeRead(String wire) {
        assertThat(Redactor.USUAL.wire(wire))
                .doesNotContain("open")
                .contains("Cookie")
                .contains(Redactor.MASK);
    }

    @Test
    void aHeadThatGoesOnForVeryManyLinesIsMaskedToo() {
        String wire = "HTTP/1.1 200 OK\r\nCookie: a" + "\r\n open".repeat(100_000) + "\r\n\r\n";
        assertThat(Redactor.USUAL.wire(wire)).isEqualTo("HTTP/1.1 200 OK\r\nCookie: •••\r\n\r\n");
    }

    @Test
    void whatIsNoHttpIsNotTakenApartAtAnEmptyLine() {
        String xml = "<Security>\n<Password>\n\nopen\n\n</Password></Security>";
        assertThat(Redactor.USUAL.wire(xml)).isEqualTo("<Security>\n<Password>•••</Password></Security>");
    }
}
