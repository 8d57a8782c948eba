package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpServer;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What {@code call} makes of answers of all kinds, and what it takes out of them. */
class AnswersTest {
    private static final String WSDL = """
            <definitions name="Huts" targetNamespace="urn:huts:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:huts:s"
              xmlns:h="urn:huts" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:huts" elementFormDefault="qualified">
                <xs:element name="List" type="xs:string"/>
                <xs:element name="Huts"><xs:complexType><xs:sequence><xs:element name="hut" maxOccurs="unbounded"><xs:complexType><xs:sequence>
                  <xs:element name="name" type="xs:string"/><xs:element name="bunks" type="xs:int" minOccurs="0"/></xs:sequence></xs:complexType></xs:element>
                  <xs:element name="report" type="xs:base64Binary" minOccurs="0"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="h:List"/></message><message name="Out"><part name="b" element="h:Huts"/></message>
              <portType name="PT"><operation name="List"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="List"><soap:operation soapAction=""/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="S"><port name="P" binding="tns:B"><soap:address location="http://127.0.0.1:%d/"/></port></service>
            </definitions>""";

    @TempDir
    private Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();
    private final Map<String, String> headers = new HashMap<>();
    private HttpServer server;
    private Path wsdl;
    private int status = 200;
    private byte[] body = new byte[0];

    @BeforeEach
    void serve() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 5);
        server.createContext("/", exchange -> {
            exchange.getRequestBody().readAllBytes();
            headers.forEach((name, value) -> exchange.getResponseHeaders().set(name, value));
            exchange.sendResponseHeaders(status, body.length == 0 ? -1 : body.length);
            exchange.getResponseBody().write(body);
            exchange.close();
        });
        server.start();
        wsdl = Files.writeString(
                folder.resolve("huts.wsdl"), WSDL.formatted(server.getAddress().getPort()));
        headers.put("Content-Type", "text/xml; charset=utf-8");
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private int call(String... more) {
        out.reset();
        err.reset();
        String[] all = new String[more.length + 4];
        System.arraycopy(new String[] {"call", wsdl.toString(), "--operation", "List"}, 0, all, 0, 4);
        System.arraycopy(more, 0, all, 4, more.length);
        return MockBellCommand.commandLine(new Console(
                        new PrintStream(out, true, StandardCharsets.UTF_8),
                        new PrintStream(err, true, StandardCharsets.UTF_8)))
                .execute(all);
    }

    private String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    private static String envelope(String payload) {
        return "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body>" + payload
                + "</e:Body></e:Envelope>";
    }

    private void answers(String payload) {
        body = envelope(payload).getBytes(StandardCharsets.UTF_8);
    }

    private static String huts(String more) {
        return "<h:Huts xmlns:h='urn:huts'><h:hut><h:name>Kåldfjell</h:name><h:bunks>18</h:bunks></h:hut>"
                + "<h:hut><h:name>Skarn</h:name></h:hut>" + more + "</h:Huts>";
    }

    @Test
    void anAnswerWithFlawsCountsUnlessItIsToBeStrict() {
        answers("<h:Huts xmlns:h='urn:huts'/>");
        assertThat(call()).isZero();
        assertThat(err()).contains("Not valid against the contract: ").contains("hut");
        assertThat(call("--strict")).isEqualTo(1);
        answers(huts(""));
        assertThat(call("--strict")).as(err()).isZero();
        answers("<h:List xmlns:h='urn:huts'>x</h:List>");
        assertThat(call("--strict")).isEqualTo(1);
        assertThat(err()).contains("Huts").contains("is expected");
        body = "<e:Envelope xmlns:e='http://www.w3.org/2003/05/soap-envelope'/>".getBytes(StandardCharsets.UTF_8);
        assertThat(call("--strict", "--json")).isEqualTo(1);
        assertThat(err())
                .contains("The answer is SOAP 1.2, the request was SOAP 1.1.")
                .contains("has no Body");
        assertThat(out()).contains("\"remarks\"");
    }

    @Test
    void latinTextIsReadByItsHeaderWhateverTheDocumentSays() {
        headers.put("Content-Type", "text/xml; charset=ISO-8859-1");
        body = ("<?xml version='1.0' encoding='UTF-8'?>" + envelope(huts(""))).getBytes(Charset.forName("ISO-8859-1"));
        assertThat(call()).isZero();
        assertThat(out()).contains("Kåldfjell");
        assertThat(err()).contains("it is read as ISO-8859-1");
        headers.put("Content-Type", "text/xml; charset=klingon");
        answers(huts(""));
        assertThat(call()).as("an unknown charset loses nothing").isZero();
        assertThat(out()).contains("Kåldfjell");
    }

    @Test
    void whatIsNoEnvelopeIsSaidWithItsStatusFirst() {
        status = 401;
        headers.put("Content-Type", "text/html");
        headers.put("WWW-Authenticate", "Negotiate");
        body = "<html><title>Log in</title></html>".getBytes(StandardCharsets.UTF_8);
        assertThat(call()).isEqualTo(4);
        assertThat(err())
                .startsWith("status 401 Unauthorized, it asks for Negotiate; the body is a web page titled “Log in”");
        assertThat(out()).contains("<title>Log in</title>");
    }

    @Test
    void theWireIsWrittenByteForByte() throws IOException {
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
            gzip.write(envelope(huts("")).getBytes(StandardCharsets.UTF_8));
        }
        body = packed.toByteArray();
        headers.put("Content-Encoding", "gzip");
        assertThat(call("--wire")).isZero();
        String wire = out.toString(StandardCharsets.ISO_8859_1);
        assertThat(wire).endsWith(new String(body, StandardCharsets.ISO_8859_1));
        body[body.length - 6] ^= 0x55;
        assertThat(call("--wire")).as("a wrong checksum").isEqualTo(4);
        assertThat(out.toString(StandardCharsets.ISO_8859_1))
                .as("what came is there all the same")
                .endsWith(new String(body, StandardCharsets.ISO_8859_1));
    }

    @Test
    void rowsAreTakenAsCsvJsonAndIntoADatabase() throws Exception {
        answers(huts(""));
        assertThat(call("--table", "//hut")).isZero();
        assertThat(out().strip()).isEqualTo("name,bunks\r\nKåldfjell,18\r\nSkarn,");
        assertThat(call("--table", "//hut", "--where", "bunks > 4", "--columns", "bunks", "--json"))
                .isZero();
        assertThat(new ObjectMapper().readTree(out()).toString()).isEqualTo("[{\"bunks\":18}]");
        Path csv = folder.resolve("huts.csv");
        Path json = folder.resolve("huts.json");
        Path file = folder.resolve("huts.db");
        assertThat(call(
                        "--table",
                        "//hut",
                        "--limit",
                        "1",
                        "--csv",
                        csv.toString(),
                        "--json-file",
                        json.toString(),
                        "--sqlite",
                        file + ":huts"))
                .isZero();
        assertThat(err()).contains("Wrote 1 row to " + csv).contains("Wrote 1 row to huts");
        assertThat(csv).hasContent("name,bunks\nKåldfjell,18");
        assertThat(json).content().contains("\"bunks\" : 18");
        call("--table", "//hut", "--jdbc", "jdbc:sqlite:" + file + ":huts", "--replace");
        try (var connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                var found = connection.createStatement().executeQuery("select count(*), sum(bunks) from huts")) {
            found.next();
            assertThat(found.getInt(1)).isEqualTo(2);
            assertThat(found.getInt(2)).isEqualTo(18);
        }
        assertThat(call("--table", "//hut", "--columns", "beds")).isEqualTo(2);
        assertThat(err()).contains("There is no column beds").contains("There are name, bunks.");
        assertThat(call("--csv", csv.toString())).isEqualTo(2);
        assertThat(err()).contains("Say by --table which elements are rows");
        assertThat(call("--table", "//hut", "--sqlite", "no-table")).isEqualTo(2);
        assertThat(call("--table", "//[")).isEqualTo(2);
    }

    @Test
    void whatAValueHoldsIsTakenOut() throws IOException {
        String report =
                Base64.getEncoder().encodeToString("hour,wind\n06,14\n07,18\n".getBytes(StandardCharsets.UTF_8));
        answers(huts("<h:report>" + report + "</h:report>"));
        assertThat(call("--decode", "//report")).isZero();
        assertThat(out().strip()).isEqualTo("hour,wind\n06,14\n07,18");
        assertThat(err()).contains("base64: CSV, 2 rows");
        Path file = folder.resolve("report.csv");
        assertThat(call("--decode", "//report", "--out", file.toString())).isZero();
        assertThat(file).hasContent("hour,wind\n06,14\n07,18");
        assertThat(call("--decode", "//name")).isEqualTo(1);
        assertThat(err()).contains("holds nothing but its text");
        assertThat(call("--decode", "//nothing")).isEqualTo(1);
        answers(huts("<h:report>/wAB</h:report>"));
        assertThat(call("--decode", "//report")).isEqualTo(2);
        assertThat(err()).contains("is no text").contains("--out");
    }

    @Test
    void anAnswerIsHeldAgainstOneInAFile() throws IOException {
        Path before = Files.writeString(folder.resolve("before.xml"), envelope(huts("").replace(">18<", ">12<")));
        answers(huts(""));
        assertThat(call("--compare", before.toString())).isEqualTo(1);
        assertThat(out().strip()).isEqualTo("/Huts/hut[1]/bunks: 12 → 18");
        assertThat(err()).contains("1 changed");
        assertThat(call("--compare", before.toString(), "--leave-out", "//bunks"))
                .isZero();
        Path spaced = Files.writeString(folder.resolve("spaced.xml"), huts("").replace(">18<", "> 18<"));
        assertThat(call("--compare", spaced.toString())).isZero();
        assertThat(call("--compare", spaced.toString(), "--strict")).isEqualTo(1);
        assertThat(call("--compare", folder.resolve("none").toString())).isEqualTo(2);
        assertThat(err()).contains("The file to compare with is missing");
        assertThat(call("--leave-out", "//x")).isEqualTo(2);
        status = 500;
        body = new byte[0];
        assertThat(call("--compare", before.toString()))
                .as("the call's own failure counts")
                .isEqualTo(4);
    }

    @Test
    void aBodyOfAFileIsReadByItsOwnEncoding() throws IOException {
        answers(huts(""));
        Path latin = folder.resolve("latin.xml");
        String text =
                "<?xml version='1.0' encoding='ISO-8859-1'?><!-- said --><h:List xmlns:h='urn:huts'>Kåld</h:List>";
        Files.write(latin, text.getBytes(StandardCharsets.ISO_8859_1));
        assertThat(call("--body", latin.toString(), "--wire")).isZero();
        assertThat(out()).contains("Kåld</h:List>").containsOnlyOnce("POST ");
        Path marked = Files.writeString(
                folder.resolve("marked.xml"), "\uFEFF<!-- a --> " + envelope("<h:List xmlns:h='urn:huts'/>"));
        assertThat(call("--body", marked.toString(), "--wire")).isZero();
        assertThat(out().substring(0, out().indexOf("HTTP/1.1 200"))).containsOnlyOnce(":Envelope xmlns");
    }
}
