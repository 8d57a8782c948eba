package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AnswerTest {
    private static final Optional<MessageOutline> DUE = MessageOutline.ofAnswer(
            Contracts.stay(),
            Contracts.stay().operation("Book", null).orElseThrow().operation());

    private static Exchange exchange(Message response, String note) {
        HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE);
        return new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "a case",
                request,
                Optional.ofNullable(response),
                new Timing(1, 2, 3, 4),
                response == null ? Outcome.FAILED : Outcome.FINE,
                note);
    }

    private static Answer answer(int status, String body, Optional<MessageOutline> outline) {
        Message response = new HttpMessage(
                "HTTP/1.1 " + status + " X",
                List.of(),
                Content.of(body.getBytes(StandardCharsets.UTF_8)),
                Content.NONE);
        return Answer.of(exchange(response, ""), outline, new Expressions());
    }

    @ParameterizedTest
    @CsvSource({
        "200, FINE, ''",
        "202, FINE, ''",
        "404, FAILED, status 404 X",
        "500, FAILED, status 500 X",
    })
    void anEnvelopeIsAsGoodAsItsStatus(int status, Outcome outcome, String note) {
        Answer answer = answer(status, Envelope.around(SoapVersion.V11, "<r/>", List.of()), DUE);
        assertThat(answer.exchange().outcome()).isEqualTo(outcome);
        assertThat(answer.exchange().note()).isEqualTo(note);
        assertThat(answer.payload()).isPresent();
        assertThat(answer.flaw()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"200", "500", "400"})
    void aFaultIsAFaultWhateverTheStatus(int status) {
        String fault = SoapFault.xml(SoapVersion.V12, SoapFault.Code.RECEIVER, "no bunk", "<HutFull xmlns='urn:x'/>");
        Answer answer = answer(status, Envelope.around(SoapVersion.V12, fault, List.of()), DUE);
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAULT);
        assertThat(answer.exchange().note())
                .isEqualTo(answer.fault().orElseThrow().title());
    }

    @ParameterizedTest
    @CsvSource({
        "200, true, FAILED, status 200 X; there is no body, true",
        "202, true, FINE, '', false",
        "200, false, FINE, '', false",
        "204, false, FINE, '', false",
        "500, false, FAILED, status 500 X; there is no body, false",
    })
    void nothingIsRightWhereNothingIsDue(int status, boolean due, Outcome outcome, String note, boolean flaw) {
        Answer answer = answer(status, "", due ? DUE : Optional.empty());
        assertThat(answer.exchange().outcome()).isEqualTo(outcome);
        assertThat(answer.exchange().note()).isEqualTo(note);
        assertThat(answer.flaw().isPresent()).isEqualTo(flaw);
    }

    private static Answer odd(String title, String type, String body, Header... more) {
        List<Header> headers = new ArrayList<>(List.of(more));
        if (!type.isEmpty()) {
            headers.add(new Header("Content-Type", type));
        }
        Message response =
                new HttpMessage(title, headers, Content.of(body.getBytes(StandardCharsets.UTF_8)), Content.NONE);
        return Answer.of(exchange(response, ""), DUE, new Expressions());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "502 Bad Gateway | text/html; charset=x | <html><head><title>Down &amp; out</title></head></html> | Status 502 Bad Gateway; the body is a web page titled “Down & out” (text/html). What stands before",
                "200 OK | text/html | <!DOCTYPE html><p>Hello | Status 200 OK; the body is a web page (text/html).",
                "200 OK | application/json | {\"hut\":[1,2]} | Status 200 OK; the body is JSON (application/json).",
                "404 Not Found | text/plain | No such path here | Status 404 Not Found; the body is text, 17 bytes (text/plain). Check the path",
                "200 OK | text/xml | <wrong><a>1</a></wrong> | Status 200 OK; the body is XML, <wrong>, not a SOAP envelope (text/xml).",
                "200 OK | text/xml | <a><b></a> | Status 200 OK; the XML is not well-formed: ",
                "200 OK | text/xml | <e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Bo | Status 200 OK; the XML is not well-formed: ",
                "200 OK | | <d:definitions xmlns:d='http://schemas.xmlsoap.org/wsdl/'/> | Status 200 OK; the body is a WSDL, not an answer (without a type). The endpoint is a contract's address",
                "200 OK | image/png | %PDF-1.4 1 0 obj | Status 200 OK; the body is PDF, 16 bytes (image/png).",
            })
    void whatCameInPlaceOfAnEnvelopeIsSaidAsWhatItIs(String title, String type, String body, String words) {
        Answer answer = odd("HTTP/1.1 " + title, type == null ? "" : type, body);
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAILED);
        assertThat(answer.flaw().orElseThrow()).startsWith(words);
        assertThat(words).startsWith("S" + answer.exchange().note().substring(1, 20));
        assertThat(answer.whole()).isTrue();
        assertThat(answer.instead()).isPresent();
    }

    @Test
    void whereToGoAndWhatIsAskedForStandsFirst() {
        assertThat(odd("HTTP/1.1 302 Found", "", "", new Header("Location", "/else"))
                        .flaw())
                .hasValueSatisfying(f -> assertThat(f)
                        .startsWith("Status 302 Found, it leads to /else; there is no body. It is followed"));
        assertThat(odd(
                                "HTTP/1.1 401 Unauthorized",
                                "text/plain",
                                "who?",
                                new Header("WWW-Authenticate", "Basic realm=\"huts\""),
                                new Header("WWW-Authenticate", "Digest nonce=\"1\""))
                        .exchange()
                        .note())
                .startsWith(
                        "status 401 Unauthorized, it asks for Basic realm=\"huts\" or Digest nonce=\"1\"; the body is text");
        assertThat(odd("HTTP/1.1 407 Proxy", "", "", new Header("Proxy-Authenticate", "Basic"))
                        .flaw())
                .hasValueSatisfying(
                        f -> assertThat(f).contains("the proxy asks for Basic").contains("--proxy-user"));
        assertThat(odd("HTTP/1.1 405 No", "", "", new Header("Allow", "GET")).flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("it allows GET"));
        assertThat(odd("HTTP/1.1 503 Busy", "", "", new Header("Retry-After", "30"))
                        .flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("asked again after 30 s;"));
    }

    @Test
    void xmlThatIsNoEnvelopeIsKeptToBeShown() {
        Answer answer = odd("HTTP/1.1 200 OK", "text/xml", "<a><b>1</b></a>");
        assertThat(answer.content().orElseThrow().getDocumentElement().getTagName())
                .isEqualTo("a");
        assertThat(answer.payload()).as("no payload of a SOAP body").isEmpty();
        assertThat(odd("HTTP/1.1 200 OK", "", "<d:definitions xmlns:d='http://schemas.xmlsoap.org/wsdl/'/>")
                        .instead()
                        .orElseThrow()
                        .isContract())
                .isTrue();
        assertThat(answer.instead().orElseThrow().isContract()).isFalse();
    }

    @Test
    void xmlWithACharacterThatNoneMayHaveIsToldAsXml() {
        for (String bad : List.of("\u0000", "\uFFFE", "\u0001")) {
            assertThat(odd("HTTP/1.1 200 OK", "text/xml; charset=utf-8", "<a>x" + bad + "</a>")
                            .flaw())
                    .hasValueSatisfying(
                            f -> assertThat(f).contains("not well-formed").contains("answer:1:"));
        }
        assertThat(odd("HTTP/1.1 200 OK", "application/octet-stream", "<\u0000\u0001")
                        .flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("binary"));
        assertThat(odd("HTTP/1.1 200 OK", "text/xml", "\u0000\u0001<a/>").flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("binary"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    application/json | {"a":        | the body is text, 5 bytes (application/json, which it is not)
                    application/problem+json | <a/> | the body is XML, <a>, not a SOAP envelope (application/problem+json, which it is not)
                    text/xml | {"a": 1}             | the body is JSON (text/xml, which it is not)
                    text/xml | the hut is closed    | the body is text, 17 bytes (text/xml, which it is not)
                    text/plain | {"a": 1}           | the body is JSON (text/plain)
                    """)
    void aTypeThatIsNotTrueIsToldAsThat(String type, String body, String words) {
        assertThat(odd("HTTP/1.1 200 OK", type, body).flaw())
                .hasValueSatisfying(f -> assertThat(f).contains(words));
    }

    @Test
    void aBodyOfNothingThatCanBeSeenIsToldAsThat() {
        assertThat(odd("HTTP/1.1 200 OK", "text/xml", " \n ").flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("the body is nothing but white space (text/xml)"));
        assertThat(odd("HTTP/1.1 200 OK", "text/xml; charset=utf-8", "\uFEFF").flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("nothing but a byte order mark"));
    }

    @Test
    void aBodyThatShouldBeInPartsAndIsNotIsToldAsThat() {
        assertThat(odd("HTTP/1.1 200 OK", "multipart/related", "--b\r\n\r\n<a/>\r\n--b--")
                        .flaw())
                .hasValueSatisfying(f -> assertThat(f)
                        .contains("the body should be in several parts, but its Content-Type names no boundary"));
        assertThat(odd("HTTP/1.1 200 OK", "multipart/related; boundary=c", "--b\r\n\r\n<a/>\r\n--b--")
                        .flaw())
                .hasValueSatisfying(f -> assertThat(f).contains("its boundary stands nowhere in it"));
    }

    @Test
    void anEnvelopeThatWasEncodedForTheWayIsRead() {
        String envelope =
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><a b='\u00FC'/></e:Body></e:Envelope>";
        String quoted = envelope.replace("=", "=3D").replace("\u00FC", "=C3=BC").replace("<e:Body>", "<e:=\r\nBody>");
        String encoded = Base64.getMimeEncoder().encodeToString(envelope.getBytes(StandardCharsets.UTF_8));
        Map.of("quoted-printable", quoted, "base64", encoded).forEach((how, text) -> {
            Answer answer = odd(
                    "HTTP/1.1 200 OK",
                    "multipart/related; boundary=b",
                    "--b\r\nContent-Type: text/xml\r\nContent-Transfer-Encoding: " + how + "\r\n\r\n" + text
                            + "\r\n--b--");
            assertThat(answer.flaw()).as(how).isEmpty();
            assertThat(answer.content().orElseThrow().getDocumentElement().getAttribute("b"))
                    .isEqualTo("\u00FC");
        });
    }

    @Test
    void withoutAResponseItIsAsItWasJudged() {
        Answer answer = Answer.of(exchange(null, "nobody there"), DUE, new Expressions());
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAILED);
        assertThat(answer.flaw()).contains("nobody there");
    }

    @Test
    void aSecretInANoteIsNotListed() {
        Answer answer = answer(502, "<hush-hush/>", DUE).masked(Redactor.of(Map.of("key", "hush-hush")));
        assertThat(answer.exchange().note())
                .startsWith("status 502 X; the body is XML, <")
                .doesNotContain("hush-hush");
        assertThat(answer.flaw().orElseThrow()).doesNotContain("hush-hush");
    }
}
