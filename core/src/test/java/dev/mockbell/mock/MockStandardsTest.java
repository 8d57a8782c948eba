package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Stays;
import dev.mockbell.wire.EventLoops;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Requests that break a rule of SOAP or HTTP, and what the standards say to answer them with. */
@Timeout(30)
class MockStandardsTest {
    private static final String TEXT = "text/xml; charset=utf-8";
    private static final String SOAP12 = "application/soap+xml; charset=utf-8";

    private final EventLoops loops = new EventLoops("test", 2);
    private final Contract stay = Contracts.stay();
    private final String in11 = Envelope.around(SoapVersion.V11, Stays.BODY, List.of());
    private final String in12 = Envelope.around(SoapVersion.V12, Stays.BODY, List.of());
    private MockHost host;

    @BeforeEach
    void start() {
        start(MockPlan.sampling("stay", 0));
    }

    private void start(MockPlan plan) {
        host = MockHost.start(stay, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
    }

    @AfterEach
    void stop() {
        host.close();
        loops.close();
    }

    private String send(byte[]... pieces) throws IOException {
        try (Socket socket = new Socket("127.0.0.1", host.port())) {
            socket.setSoTimeout(10_000);
            for (byte[] piece : pieces) {
                socket.getOutputStream().write(piece);
            }
            socket.shutdownOutput();
            return new String(socket.getInputStream().readAllBytes(), StandardCharsets.ISO_8859_1);
        }
    }

    private String send(String text) throws IOException {
        return send(text.getBytes(StandardCharsets.UTF_8));
    }

    private String post(String path, String type, String body, String... more) throws IOException {
        byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
        String head =
                "POST " + path + " HTTP/1.1\r\nHost: h\r\n" + (type.isEmpty() ? "" : "Content-Type: " + type + "\r\n")
                        + String.join("", more) + "Content-Length: " + bytes.length + "\r\n\r\n";
        return send(head.getBytes(StandardCharsets.UTF_8), bytes);
    }

    @Test
    void eachVersionIsAnsweredInItselfAndTheOtherIsToldWhatIsSpoken() throws IOException {
        assertThat(post("/stay", TEXT, in11)).startsWith("HTTP/1.1 200").contains(SoapVersion.V11.namespace());
        assertThat(post("/stay-12", SOAP12, in12)).startsWith("HTTP/1.1 200").contains(SoapVersion.V12.namespace());
        assertThat(post("/stay", SOAP12, in12))
                .startsWith("HTTP/1.1 500")
                .contains("content-type: text/xml")
                .contains("soap:VersionMismatch")
                .contains(SoapVersion.V11.namespace())
                .doesNotContain("Upgrade");
        assertThat(post("/stay-12", TEXT, in11))
                .startsWith("HTTP/1.1 500")
                .contains("content-type: text/xml")
                .contains("soap:VersionMismatch")
                .contains(
                        "<u:SupportedEnvelope xmlns:e=\"http://www.w3.org/2003/05/soap-envelope\" qname=\"e:Envelope\"");
        assertThat(post("/stay-12", SOAP12, in12.replace(SoapVersion.V12.namespace(), "urn:of-tomorrow")))
                .startsWith("HTTP/1.1 500")
                .contains("content-type: application/soap+xml")
                .contains("soap:VersionMismatch")
                .contains("u:Upgrade");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "application/json|415 Unsupported Media Type|it should be text/xml",
                "''|415 Unsupported Media Type|no Content-Type",
                "application/soap+xml|415 Unsupported Media Type|for an envelope of SOAP 1.1",
            })
    void aMediaTypeThatIsNotSpokenIsRefused(String type, String status, String why) throws IOException {
        assertThat(post("/stay", type, in11)).startsWith("HTTP/1.1 " + status).contains(why);
    }

    @Test
    void malformedXmlIsAFaultOfTheSenderWhereverItBreaks() throws IOException {
        String broken = in12.replace("</soap:Body>", "</soap:Bodi>");
        assertThat(post("/stay-12", SOAP12, broken))
                .startsWith("HTTP/1.1 400")
                .contains("soap:Sender")
                .contains("(request:4:5)")
                .doesNotContain("row,col")
                .doesNotContain("unknown-source");
        assertThat(post("/stay", TEXT, in11.substring(0, in11.length() - 5)))
                .startsWith("HTTP/1.1 500")
                .contains("soap:Client");
        assertThat(post("/stay-12", SOAP12, "")).startsWith("HTTP/1.1 400").contains("soap:Sender");
        assertThat(post("/stay", TEXT, in11.replaceAll("(?s)<soap:Body>.*</soap:Body>", "")))
                .contains("has no Body");
        assertThat(post("/stay", TEXT, in11.replace("<soap:Body>", "<?pi x?><soap:Body>")))
                .contains("processing instruction");
    }

    @Test
    void aHeaderThatMustBeUnderstoodAndIsNotIsAFault() throws IOException {
        String block = "<soap:Header><x:Seal xmlns:x='urn:x' soap:mustUnderstand='%s' %s/></soap:Header><soap:Body>";
        assertThat(post("/stay", TEXT, in11.replace("<soap:Body>", block.formatted("1", ""))))
                .startsWith("HTTP/1.1 500")
                .contains("soap:MustUnderstand");
        assertThat(post("/stay", TEXT, in11.replace("<soap:Body>", block.formatted("0", ""))))
                .startsWith("HTTP/1.1 200");
        assertThat(post("/stay", TEXT, in11.replace("<soap:Body>", block.formatted("1", "soap:actor='urn:other'"))))
                .startsWith("HTTP/1.1 200");
        assertThat(post("/stay-12", SOAP12, in12.replace("<soap:Body>", block.formatted("true", ""))))
                .startsWith("HTTP/1.1 500")
                .contains("<u:NotUnderstood")
                .contains("qname=\"b:Seal\"")
                .contains("xmlns:b=\"urn:x\"");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "PUT /stay HTTP/1.1\\r\\nHost: h\\r\\nContent-Length: 0|405 Method Not Allowed|allow: GET, HEAD, POST",
                "GET /stay?wsdl HTTP/1.1|400 Bad Request|no Host field",
                "GET /stay?wsdl HTTP/1.1\\r\\nHost: a\\r\\nHost: b|400 Bad Request|several Host fields",
                "GET /stay?wsdl HTTP/2.0\\r\\nHost: h|505 HTTP Version Not Supported|HTTP/1.1 is",
                "GET /stay?wsdl HTTP/1.0|200 OK|<definitions",
                "GET http://elsewhere/stay?wsdl HTTP/1.1\\r\\nHost: h|200 OK|<definitions",
                "GET /stay?xsd=99 HTTP/1.1\\r\\nHost: h|404 Not Found|?wsdl",
                "GET /stay?wsdl HTTP/1.1\\r\\nHost: huts.example:99|200 OK|location=\"http://huts.example:99/stay\"",
                "GET /stay?wsdl HTTP/1.1\\r\\nHost: a\"b<c|200 OK|location=\"http://127.0.0.1",
                "GET /stay?wsdl HTTP/1.1\\r\\nHost: h|200 OK|date: ",
            })
    void httpIsSpokenInFull(String head, String status, String has) throws IOException {
        assertThat(send(head.replace("\\r\\n", "\r\n") + "\r\nConnection: close\r\n\r\n"))
                .contains(status)
                .contains(has);
    }

    @Test
    void headHasNoBodyAndAbsoluteAddressesAreCalled() throws IOException {
        String head = send("HEAD /stay?wsdl HTTP/1.1\r\nHost: h\r\nConnection: close\r\n\r\n");
        assertThat(head).startsWith("HTTP/1.1 200").endsWith("\r\n\r\n").doesNotContain("<definitions");
        assertThat(post("http://h/stay", TEXT, in11)).startsWith("HTTP/1.1 200");
    }

    @Test
    void whatIsPackedIsReadAndAnswersArePackedForWhoTakesThem() throws IOException {
        host.close();
        String long_ = "<b xmlns='urn:x'>" + "snow ".repeat(1_000) + "</b>";
        start(MockPlan.sampling("stay", 0).withAnswers("Book", List.of(MockAnswer.otherwise("long", long_))));
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
            out.write(in11.getBytes(StandardCharsets.UTF_8));
        }
        String head = "POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nContent-Encoding: %s\r\n"
                + "Accept-Encoding: gzip;q=0.5\r\nContent-Length: " + packed.size() + "\r\n\r\n";
        String answer = send(head.formatted("gzip").getBytes(StandardCharsets.UTF_8), packed.toByteArray());
        assertThat(answer).startsWith("HTTP/1.1 200").contains("content-encoding: gzip");
        byte[] body = answer.substring(answer.indexOf("\r\n\r\n") + 4).getBytes(StandardCharsets.ISO_8859_1);
        assertThat(new String(
                        new GZIPInputStream(new java.io.ByteArrayInputStream(body)).readAllBytes(),
                        StandardCharsets.UTF_8))
                .contains("snow snow");
        assertThat(send(head.formatted("lzma").getBytes(StandardCharsets.UTF_8), packed.toByteArray()))
                .startsWith("HTTP/1.1 415");
        byte[] spoilt = Arrays.copyOf(packed.toByteArray(), packed.size());
        spoilt[15] ^= 0x55;
        spoilt[16] ^= 0x55;
        assertThat(send(head.formatted("gzip").getBytes(StandardCharsets.UTF_8), spoilt))
                .startsWith("HTTP/1.1 ")
                .doesNotContain("HTTP/1.1 200");
        assertThat(post("/stay", TEXT, in11)).startsWith("HTTP/1.1 200").doesNotContain("content-encoding");
    }

    @Test
    void aRequestInPartsIsReadByItsRoot() throws IOException {
        String parts =
                "--b\r\nContent-Type: application/xop+xml; charset=UTF-8; type=\"text/xml\"\r\nContent-ID: <r@h>\r\n\r\n"
                        + in11 + "\r\n--b\r\nContent-ID: <p@h>\r\n\r\nabc\r\n--b--\r\n";
        assertThat(post(
                        "/stay",
                        "multipart/related; boundary=b; type=\"application/xop+xml\"; start=\"<r@h>\"; start-info=\"text/xml\"",
                        parts))
                .startsWith("HTTP/1.1 200")
                .contains("BookResponse");
        assertThat(post("/stay", "multipart/related; boundary=c", parts)).startsWith("HTTP/1.1 500");
    }

    @Test
    void aWholeEnvelopeIsGivenInTheVersionThatIsAsked() throws IOException {
        host.close();
        String whole = "<e:Envelope xmlns:e='" + SoapVersion.V11.namespace()
                + "' xmlns:q='urn:q'><e:Header><q:Seal/></e:Header><e:Body><q:Done kind='q:x'>{$hits}</q:Done></e:Body></e:Envelope>";
        start(MockPlan.sampling("stay", 0).withAnswers("Book", List.of(MockAnswer.otherwise("whole", whole))));
        assertThat(post("/stay", TEXT, in11)).contains("<e:Envelope").contains(">1</q:Done>");
        assertThat(post("/stay-12", SOAP12, in12))
                .contains("<soap:Envelope xmlns:soap=\"" + SoapVersion.V12.namespace())
                .contains("<q:Seal")
                .contains("xmlns:q=\"urn:q\"")
                .contains(">2</q:Done>")
                .doesNotContain("<e:");
    }

    @Test
    void expressionsSeeHeadersAndHttp() throws IOException {
        host.close();
        start(MockPlan.sampling("stay", 0)
                .withAnswers(
                        "Book",
                        List.of(
                                MockAnswer.otherwise(
                                                "seen",
                                                "<s xmlns='urn:s'>{$headers//name} {$http?x-hut} {$http?method} {$operation}</s>")
                                        .withWhen("$http('x-hut') = 'NF-07' and exists($headers)"),
                                MockAnswer.otherwise("else", "<s xmlns='urn:s'>none</s>"))));
        String with = in11.replace(
                "<soap:Body>",
                "<soap:Header><w:Who xmlns:w='urn:w'><w:name>Ines</w:name></w:Who></soap:Header><soap:Body>");
        assertThat(post("/stay", TEXT, with, "X-Hut: NF-07\r\n")).contains(">Ines NF-07 POST Book<");
        assertThat(post("/stay", TEXT, in11, "X-Hut: NF-07\r\n")).contains(">none<");
    }

    @Test
    void aReasonKeepsItsCharactersAndMayHaveExpressions() throws IOException {
        host.close();
        start(MockPlan.sampling("stay", 0)
                .withAnswers(
                        "Book",
                        List.of(MockAnswer.fault(
                                "", "Full", "a < b & {if ($hits < 5) then '<few>' else 'many'} {{x}}", ""))));
        assertThat(post("/stay", TEXT, in11)).contains("a &lt; b &amp; &lt;few&gt; {x}");
    }

    @Test
    void whatTakesLongIsWorkedOutElsewhereAndCountedOnce() throws IOException {
        host.close();
        start(MockPlan.sampling("stay", 0)
                .withAnswers(
                        "Book",
                        List.of(MockAnswer.otherwise(
                                "long",
                                "<s xmlns='urn:s'>{count(for $i in 1 to 100000 return $i + $hits)} {$hits}</s>"))));
        assertThat(post("/stay", TEXT, in11)).contains(">100000 1<");
        assertThat(post("/stay", TEXT, in11)).contains(">100000 2<");
        assertThat(host.answerHits("Book")).containsExactly(2L);
    }

    @Test
    void noBytesHarmIt() throws IOException {
        Random random = new Random(7);
        byte[] good = ("POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nContent-Length: " + in11.length()
                        + "\r\n\r\n" + in11)
                .getBytes(StandardCharsets.UTF_8);
        for (int i = 0; i < 300; i++) {
            byte[] bytes;
            if (i % 3 == 0) {
                bytes = new byte[random.nextInt(2_000)];
                random.nextBytes(bytes);
            } else {
                bytes = good.clone();
                for (int j = random.nextInt(6); j >= 0; j--) {
                    bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
                }
            }
            try {
                send(bytes);
            } catch (java.net.SocketException reset) {
                // closed on, which is an answer to what is none
                continue;
            }
        }
        assertThat(post("/stay", TEXT, in11)).startsWith("HTTP/1.1 200");
    }
}
