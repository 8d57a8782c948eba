package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What is wrong with an envelope that came. */
class RemarksTest {
    private static final Optional<MessageOutline> DUE = MessageOutline.ofAnswer(
            Contracts.stay(),
            Contracts.stay().operation("Book", null).orElseThrow().operation());

    private static HttpMessage message(String title, String type, byte[] body) {
        return new HttpMessage(title, List.of(new Header("Content-Type", type)), Content.of(body), Content.NONE);
    }

    private static Remarks remarks(String asked, int status, String type, byte[] body) {
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "a case",
                message("POST /s HTTP/1.1", asked, new byte[0]),
                Optional.of(message("HTTP/1.1 " + status + " X", type, body)),
                new Timing(1, 2, 3, 4),
                Exchange.Outcome.FINE,
                "");
        return Remarks.of(Answer.of(exchange, DUE, new Expressions()));
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static String envelope(String payload) {
        return Envelope.around(SoapVersion.V11, payload, List.of());
    }

    @Test
    void anotherPayloadThanTheContractsIsToldWithItsName() {
        Remarks remarks = remarks("text/xml", 200, "text/xml", bytes(envelope("<other/>")));
        assertThat(remarks.judged()).isTrue();
        assertThat(remarks.words())
                .singleElement()
                .asString()
                .startsWith("Not valid against the contract: ")
                .contains("other");
    }

    @Test
    void anEnvelopeWithoutBodyAndOneOfAnotherVersionAreTold() {
        String none = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'/>";
        assertThat(remarks("text/xml", 200, "text/xml", bytes(none)).words())
                .containsExactly("The envelope has no Body, which SOAP 1.1 §4.3 demands");
        assertThat(remarks("application/soap+xml; action=\"x\"", 200, "text/xml", bytes(none))
                        .words())
                .first()
                .isEqualTo("The answer is SOAP 1.1, the request was SOAP 1.2");
        assertThat(remarks("text/xml", 200, "", bytes(none)).words())
                .first()
                .isEqualTo("The Content-Type is missing; SOAP 1.1 wants text/xml");
        String mismatch = envelope(SoapFault.xml(SoapVersion.V11, SoapFault.Code.RECEIVER, "no", ""))
                .replace("soap:Server", "soap:VersionMismatch");
        assertThat(remarks("application/soap+xml", 500, "text/xml", bytes(mismatch))
                        .words())
                .as("whoever does not speak a version says so in the one that it does")
                .isEmpty();
    }

    @Test
    void aFaultWithAGoodStatusAndADoubtfulEncodingAreTold() {
        String fault = envelope(SoapFault.xml(SoapVersion.V11, SoapFault.Code.RECEIVER, "no", ""));
        assertThat(remarks("text/xml", 200, "text/xml", bytes(fault)).words())
                .containsExactly("A fault came with status 200; SOAP 1.1 §6.2 wants 400 or 500");
        byte[] latin = ("<?xml version='1.0' encoding='UTF-8'?>" + fault).getBytes(Charset.forName("ISO-8859-1"));
        assertThat(remarks("text/xml", 500, "text/xml; charset=iso-8859-1", latin)
                        .words())
                .singleElement()
                .asString()
                .contains("read as ISO-8859-1");
    }

    @Test
    void whatIsNoEnvelopeHasNoRemarks() {
        assertThat(remarks("text/xml", 200, "text/html", bytes("<html/>"))).isEqualTo(Remarks.NONE);
    }
}
