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
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is wrong with an envelope that came. */
class RemarksTest {
    private static final Optional<MessageOutline> DUE = MessageOutline.ofAnswer(
            Contracts.stay(),
            Contracts.stay().operation("Book", null).orElseThrow().operation());

    private static HttpMessage message(String title, String type, byte[] body, byte[] wire) {
        List<Header> headers = new ArrayList<>();
        for (String line : ("Content-Type: " + type).split("\n")) {
            headers.add(new Header(line.split(": ?", 2)[0], line.split(": ?", 2)[1]));
        }
        return new HttpMessage(title, headers, Content.of(body), Content.of(wire));
    }

    private static Remarks remarks(String asked, int status, String type, byte[] body) {
        return remarks(asked, status, type, body, new byte[0]);
    }

    private static Remarks remarks(String asked, int status, String type, byte[] body, byte[] wire) {
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "a case",
                message("POST /s HTTP/1.1", asked, new byte[0], new byte[0]),
                Optional.of(message("HTTP/1.1 " + status + " X", type, body, wire)),
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

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    <e:Body/><e:Body/>       | The envelope has 2 Bodies; the first is read
                    <e:Header/><e:Header/><e:Body/> | The envelope has 2 Headers; the blocks of all are read
                    <e:Body/><e:Header/>     | The Header is not the first in the envelope, which SOAP 1.1 §4.2 demands
                    <e:Body/><x xmlns='u'/>  | <x> stands beside the Body, which the WS-I Basic Profile forbids (R1011)
                    <e:Body><a><?run it?></a></e:Body> | A processing instruction (run) stands in the message, which SOAP 1.1 §3 forbids
                    <e:Body/><!-- a note -->  |
                    <e:Header/><e:Body><a><b/></a><c/></e:Body> |
                    <e:Body>no <!-- hut -->hut</e:Body> | Text (“no”) stands where SOAP 1.1 §4 has a place for elements alone
                    <e:Header><![CDATA[loose]]></e:Header><e:Body/> | Text (“loose”) stands where SOAP 1.1 §4 has a place for elements alone
                    words<e:Body>words</e:Body> | Text (“words”) stands where SOAP 1.1 §4 has a place for elements alone
                    <e:Header><h/></e:Header><e:Body/> | The header block <h> is in no namespace, which SOAP 1.1 §4.2 demands
                    <e:Header><h xmlns='u' e:mustUnderstand='1'/></e:Header><e:Body/> |
                    <e:Header><h xmlns='u' e:mustUnderstand='true'/></e:Header><e:Body/> | mustUnderstand of <h> is neither 0 nor 1, which SOAP 1.1 §4.2.3 demands
                    <e:Body e:encodingStyle='http://schemas.xmlsoap.org/soap/encoding/'/> |
                    """)
    void whatOfAnEnvelopeIsNotInItsPlaceIsTold(String inside, String told) {
        String text = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'>" + inside + "</e:Envelope>";
        assertThat(remarks("text/xml", 200, "text/xml", bytes(text)).others())
                .isEqualTo(told == null ? List.of() : List.of(told));
    }

    @Test
    void whatIsNotRightAboutItsPartsIsTold() {
        String root = envelope("<a><x:Include xmlns:x='http://www.w3.org/2004/08/xop/include' href='cid:gone'/></a>");
        String body = "--b\r\nContent-Type: application/xop+xml\r\nContent-ID: <r>\r\n\r\n" + root;
        assertThat(remarks("text/xml", 200, "multipart/related; boundary=b; start=\"<s>\"", bytes(body))
                        .others())
                .containsExactly(
                        "The last part has no end: its closing boundary, which RFC 2046 §5.1.1 wants, is missing",
                        "The Content-Type says that it starts with <s>, which is no part; the first was taken",
                        "The message leaves a value to cid:gone, which is no part beside it");
        String there = body + "\r\n--b\r\nContent-ID: <gone>\r\n\r\nx\r\n--b--";
        assertThat(remarks("text/xml", 200, "multipart/related; boundary=b; start=\"<r>\"", bytes(there))
                        .others())
                .isEmpty();
    }

    @Test
    void theSecondVersionHasItsOwnParagraphs() {
        String text =
                "<?xml version='1.0'?><?style sheet?><e:Envelope xmlns:e='http://www.w3.org/2003/05/soap-envelope'>"
                        + "<e:Body e:encodingStyle='u'/><e:Header><h e:mustUnderstand='yes'/></e:Header><x/></e:Envelope>";
        assertThat(remarks("application/soap+xml", 200, "application/soap+xml", bytes(text))
                        .others())
                .containsExactly(
                        "The Header is not the first in the envelope, which SOAP 1.2 part 1 §5.1 demands",
                        "<x> stands beside the Body, which SOAP 1.2 part 1 §5.1 forbids",
                        "The header block <h> is in no namespace, which SOAP 1.2 part 1 §5.2 demands",
                        "mustUnderstand of <h> is neither true nor false, which SOAP 1.2 part 1 §5.2.3 demands",
                        "encodingStyle stands at <e:Body>, where SOAP 1.2 part 1 §5.1.1 forbids it",
                        "A processing instruction (style) stands in the message, which SOAP 1.2 part 1 §5 forbids");
    }

    @Test
    void aDeclarationThatComesLateAndALengthBesideChunksAreTold() {
        String fine = envelope("");
        assertThat(remarks("text/xml", 200, "text/xml", bytes("\r\n<?xml version='1.0'?>" + fine))
                        .others())
                .containsExactly(
                        "White space stands before the XML declaration, which XML 1.0 §2.8 does not allow; it is passed over");
        assertThat(remarks("text/xml", 200, "text/xml", bytes("<?xml version='1.0'?>" + fine))
                        .others())
                .isEmpty();
        assertThat(remarks("text/xml", 200, "multipart/mixed; boundary=b", bytes("--b\r\n\r\n" + fine + "\r\n--b--"))
                        .others())
                .containsExactly(
                        "The Content-Type is multipart/mixed; SOAP with attachments and MTOM want multipart/related");
        byte[] wire = bytes(
                "HTTP/1.1 200 OK\r\n\r\n" + Integer.toHexString(bytes(fine).length) + "\r\n" + fine + "\r\n0\r\n\r\n");
        assertThat(remarks(
                                "text/xml",
                                200,
                                "text/xml\nContent-Length: 5\nTransfer-Encoding: chunked",
                                bytes(fine),
                                wire)
                        .others())
                .containsExactly("Content-Length and Transfer-Encoding came both, which RFC 9112 §6.2 forbids;"
                        + " the chunks were read");
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

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    <faultcode>e:Server</faultcode><faultstring/><faultactor/><detail/> |
                    <faultcode>e:Client.Quota</faultcode><faultstring/> |
                    <faultcode xmlns='u'>own</faultcode><faultstring/> | <faultcode> is in the namespace u; what stands in a Fault is in none (WS-I Basic Profile R1001)
                    <faultstring/>                 | The Fault has no faultcode, which SOAP 1.1 §4.4 demands
                    <faultcode>e:Server</faultcode> | The Fault has no faultstring, which SOAP 1.1 §4.4 demands
                    <faultcode/><faultstring/>     | The faultcode is empty, where SOAP 1.1 §4.4 wants a qualified name
                    <faultcode>500</faultcode><faultstring/> | The faultcode "500" is no qualified name, which SOAP 1.1 §4.4 wants
                    <faultcode>x:Server</faultcode><faultstring/> | The faultcode "x:Server" has a prefix that is not declared
                    <faultcode>Server.x</faultcode><faultstring/> | The faultcode "Server.x" is in no namespace; the one that SOAP defines is in http://schemas.xmlsoap.org/soap/envelope/
                    <faultcode>Quota</faultcode><faultstring/> | The faultcode "Quota" is in no namespace, which SOAP 1.1 §4.4 wants
                    <faultcode>e:Server</faultcode><faultstring/><e:why/> | <e:why> stands in the Fault, which the WS-I Basic Profile forbids (R1000)
                    <faultcode>e:Server</faultcode><faultstring/></e:Fault><e:Fault> | The Body has more than one Fault, which SOAP 1.1 §4.4 forbids; the first is read
                    """)
    void whatOfAFaultIsNotAsTheFirstVersionWantsItIsTold(String inside, String told) {
        String text = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><e:Fault>" + inside
                + "</e:Fault></e:Body></e:Envelope>";
        assertThat(remarks("text/xml", 500, "text/xml", bytes(text)).others())
                .isEqualTo(told == null ? List.of() : List.of(told));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    CODE REASON<e:Node/><e:Role/><e:Detail/> |
                    <e:Code><e:Value xmlns='http://www.w3.org/2003/05/soap-envelope'>Sender</e:Value></e:Code> REASON |
                    REASON                | The Fault has no Code, which SOAP 1.2 part 1 §5.4 demands
                    <e:Code/> REASON      | The Fault has no Code with a Value, which SOAP 1.2 part 1 §5.4.1 demands
                    CODE                  | The Fault has no Reason, which SOAP 1.2 part 1 §5.4 demands
                    CODE <e:Reason/>      | The Fault has no Reason with a Text, which SOAP 1.2 part 1 §5.4.2 demands
                    CODE <e:Reason><e:Text>no</e:Text></e:Reason> | The Reason's Text does not name its language (xml:lang), which SOAP 1.2 part 1 §5.4.2.1 demands
                    REASON CODE           | <e:Code> stands behind <e:Reason> in the Fault, which is not the order of SOAP 1.2 part 1 §5.4
                    CODE REASON <detail/> | <detail> stands in the Fault, which SOAP 1.2 part 1 §5.4 has no place for
                    CODE REASON</e:Fault><e:Fault> | <e:Fault> stands beside the Fault, which SOAP 1.2 part 1 §5.4 forbids
                    <e:Code><e:Value>e:Client</e:Value></e:Code> REASON | The Code's Value is "e:Client", which is none of those of SOAP 1.2 part 1 §5.4.6; others belong into a Subcode
                    <e:Code><e:Value>Sender</e:Value></e:Code> REASON | The Code's Value "Sender" is in no namespace; the one that SOAP defines is in http://www.w3.org/2003/05/soap-envelope
                    """)
    void whatOfAFaultIsNotAsTheSecondVersionWantsItIsTold(String inside, String told) {
        String text = "<e:Envelope xmlns:e='http://www.w3.org/2003/05/soap-envelope'><e:Body><e:Fault>"
                + inside.replace("CODE", "<e:Code><e:Value>e:Sender</e:Value></e:Code>")
                        .replace("REASON", "<e:Reason><e:Text xml:lang='en'>no</e:Text></e:Reason>")
                + "</e:Fault></e:Body></e:Envelope>";
        assertThat(remarks("application/soap+xml", 500, "application/soap+xml", bytes(text))
                        .others())
                .isEqualTo(told == null ? List.of() : List.of(told));
    }

    @Test
    void aFaultThatStandsBehindSomethingElseIsTold() {
        String text = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><a/><e:Fault/></e:Body>"
                + "</e:Envelope>";
        assertThat(remarks("text/xml", 200, "text/xml", bytes(text)).others())
                .containsExactly("A Fault stands behind <a> in the Body, and is passed over");
    }

    @Test
    void anotherVersionOfXmlIsTold() {
        String fine = envelope("");
        assertThat(remarks("text/xml", 200, "text/xml", bytes("<?xml version='1.1'?>" + fine))
                        .others())
                .containsExactly(
                        "The message is declared as XML 1.1; SOAP is written in XML 1.0, and many clients refuse"
                                + " others");
    }

    @Test
    void whatWasNotRightOnTheWayIsToldAlsoOfWhatIsNoEnvelope() {
        byte[] sent = bytes("<a><b/></a>");
        byte[] wire = bytes("HTTP/1.1 200 OK\r\nContent-Type: text/xml\r\nContent-Length: 7\r\n\r\n<a><b/></a>");
        Remarks remarks =
                remarks("text/xml", 200, "text/xml\nContent-Length: 7", java.util.Arrays.copyOf(sent, 7), wire);
        assertThat(remarks.others())
                .containsExactly(
                        "4 bytes came behind the end that its Content-Length gives the message, and are not in the body");
        assertThat(remarks.judged()).isFalse();
    }

    @Test
    void whatIsNoEnvelopeHasNoRemarks() {
        assertThat(remarks("text/xml", 200, "text/html", bytes("<html/>"))).isEqualTo(Remarks.NONE);
    }
}
