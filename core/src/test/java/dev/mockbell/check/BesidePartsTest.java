package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.contract.Attachment;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.validation.MessageValidator.Breach;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BesidePartsTest {
    private static final Attachment PHOTO = new Attachment("photo", List.of("image/jpeg", "image/png"));
    private static final Attachment PLAN = new Attachment("floor plan", List.of());

    private static Part part(String id, String type) {
        List<Header> headers = new ArrayList<>();
        if (!id.isEmpty()) {
            headers.add(new Header("Content-ID", "<" + id + ">"));
        }
        if (!type.isEmpty()) {
            headers.add(new Header("Content-Type", type));
        }
        return new Part(headers, Content.NONE);
    }

    private static List<String> told(List<Attachment> due, Part... came) {
        return BesideParts.breaches(due, List.of(came)).stream()
                .map(Breach::text)
                .toList();
    }

    @Test
    void partsAreKnownByTheirNameElseByTheirType() {
        assertThat(told(List.of(PHOTO, PLAN), part("photo=1@h", "image/png"), part("floor%20plan=2@h", "")))
                .isEmpty();
        assertThat(told(List.of(PHOTO), part("x@h", "text/plain"), part("y@h", "IMAGE/JPEG; q=1")))
                .isEmpty();
        assertThat(told(List.of(PHOTO, PHOTO), part("", "image/png"))).hasSize(1);
    }

    @Test
    void whatIsMissingOrOfAnotherTypeIsToldWithWhatCame() {
        assertThat(told(List.of(PHOTO), part("photo=1@h", "text/plain")))
                .containsExactly(
                        "The part “photo” beside the envelope should be image/jpeg or image/png, is text/plain");
        assertThat(told(List.of(PHOTO), part("x@h", "text/plain")))
                .containsExactly(
                        "The part “photo” beside the envelope, image/jpeg or image/png, is missing; 1 part came");
        assertThat(told(List.of(PLAN)))
                .containsExactly("The part “floor plan” beside the envelope, of any type, is missing; 0 parts came");
        // RFC 2045 §5.2: a part that does not say what it is is plain text
        assertThat(told(List.of(PHOTO), part("photo=1@h", ""))).hasSize(1);
    }

    @ParameterizedTest
    @CsvSource({
        "image/*, image/png, true",
        "image/*, imagery/png, false",
        "*/*, a/b, true",
        "*, a/b, true",
        "text/xml, 'text/xml; charset=utf-8', true",
        "text/xml, application/xml, false"
    })
    void aTypeMayStandForMany(String declared, String type, boolean fits) {
        assertThat(new Attachment("p", List.of(declared)).mayBe(type)).isEqualTo(fits);
    }

    @ParameterizedTest
    @CsvSource({"image/png, true", "text/plain, false"})
    void anAnswerIsValidOnlyWithThePartsOfItsContract(String type, boolean valid) {
        Contract contract = Contracts.of("a.wsdl", """
                <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
                  xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:mime="http://schemas.xmlsoap.org/wsdl/mime/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
                  <types><xs:schema targetNamespace="urn:t"><xs:element name="Seen" type="xs:int"/></xs:schema></types>
                  <message name="In"/><message name="Out"><part name="seen" element="t:Seen"/><part name="photo" type="xs:base64Binary"/></message>
                  <portType name="P"><operation name="Look"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
                  <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Look"><soap:operation soapAction=""/><input><soap:body use="literal"/></input>
                      <output><mime:multipartRelated><mime:part><soap:body use="literal" parts="seen"/></mime:part>
                        <mime:part><mime:content part="photo" type="image/*"/></mime:part></mime:multipartRelated></output></operation></binding>
                  <service name="S"><port name="Port" binding="tns:B"><soap:address location="http://127.0.0.1:1/t"/></port></service>
                </definitions>""");
        String body =
                "--b\r\nContent-Type: text/xml\r\n\r\n<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'>"
                        + "<e:Body><t:Seen xmlns:t='urn:t'>3</t:Seen></e:Body></e:Envelope>\r\n--b\r\nContent-Type: "
                        + type
                        + "\r\nContent-ID: <photo=1@h>\r\n\r\nabc\r\n--b--\r\n";
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "huts",
                "Look",
                "http://h/s",
                "a case",
                new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE),
                Optional.of(new HttpMessage(
                        "HTTP/1.1 200 OK",
                        List.of(new Header("Content-Type", "multipart/related; boundary=b")),
                        Content.of(body.getBytes(StandardCharsets.UTF_8)),
                        Content.NONE)),
                new Timing(0, 0, 5_000_000, 0),
                Exchange.Outcome.FINE,
                "");
        Expressions expressions = new Expressions();
        Answer answer = Answer.of(
                exchange,
                MessageOutline.ofAnswer(
                        contract, contract.operation("Look", null).orElseThrow().operation()),
                expressions);
        CheckResult result = new Checker(expressions)
                .check(List.of(new Check.Valid()), answer, Scope.EMPTY, Optional.empty())
                .get(0);
        assertThat(result.passed()).isEqualTo(valid);
        assertThat(result.where()).isEqualTo(valid ? "" : "part photo");
    }
}
