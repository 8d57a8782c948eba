package dev.mockbell.desktop.view.call;

import com.sun.net.httpserver.HttpServer;
import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.exchange.Exchange;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.GZIPOutputStream;
import javafx.scene.input.KeyCode;

/** A window at the Call station over a service whose every answer is laid down beforehand, byte for byte. */
final class AnswerDesk implements AutoCloseable {
    private static final String WSDL = """
            <definitions name="Trails" targetNamespace="urn:trails:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:trails:s"
              xmlns:t="urn:trails" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:trails" elementFormDefault="qualified">
                <xs:element name="ListClosures"><xs:complexType><xs:sequence><xs:element name="area" type="xs:string"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="ListClosuresResponse"><xs:complexType><xs:sequence>
                  <xs:element name="issued" type="xs:dateTime" minOccurs="0"/>
                  <xs:element name="bulletin" type="xs:base64Binary" minOccurs="0"/><xs:element name="map" type="xs:base64Binary" minOccurs="0"/>
                  <xs:element name="closure" minOccurs="0" maxOccurs="unbounded"><xs:complexType><xs:sequence>
                    <xs:element name="trail" type="xs:string"/><xs:element name="from" type="xs:date"/><xs:element name="until" type="xs:date" minOccurs="0"/>
                    <xs:element name="grade" type="xs:int"/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="t:ListClosures"/></message><message name="Out"><part name="b" element="t:ListClosuresResponse"/></message>
              <portType name="PT"><operation name="ListClosures"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="ListClosures"><soap:operation soapAction="urn:list"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Trails"><port name="Trails11" binding="tns:B"><soap:address location="%1$s/trails"/></port></service>
            </definitions>""";

    final Desktops desktop;
    final Hand hand;
    final CallModel call;
    final Map<String, String> headers = new LinkedHashMap<>();
    private final HttpServer server;
    private volatile int status = 200;
    private volatile byte[] body = new byte[0];

    AnswerDesk(Path folder) throws IOException {
        desktop = new Desktops(folder, WSDL, "ListClosures", "<t:ListClosuresResponse xmlns:t='urn:trails'/>");
        hand = desktop.hand;
        call = desktop.models.call();
        desktop.addContract();
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
        server.createContext("/", exchange -> {
            exchange.getRequestBody().readAllBytes();
            headers.forEach((name, value) -> exchange.getResponseHeaders().set(name, value));
            exchange.sendResponseHeaders(status, body.length == 0 ? -1 : body.length);
            exchange.getResponseBody().write(body);
            exchange.close();
        });
        server.start();
        headers.put("Content-Type", "text/xml; charset=utf-8");
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> !call.request().lines().isEmpty());
        Hand.run(() -> call.endpoint().keep(address(), CalledEndpoint.For.CASE));
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort() + "/trails";
    }

    static byte[] envelope(String payload) {
        return ("<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body>" + payload
                        + "</e:Body></e:Envelope>")
                .getBytes(StandardCharsets.UTF_8);
    }

    static String closure(String trail, String from, String until, int grade) {
        return "<t:closure><t:trail>" + trail + "</t:trail><t:from>" + from + "</t:from>"
                + (until.isEmpty() ? "" : "<t:until>" + until + "</t:until>") + "<t:grade>" + grade
                + "</t:grade></t:closure>";
    }

    static String closures(String more) {
        return closures("", more);
    }

    static String closures(String first, String more) {
        return "<t:ListClosuresResponse xmlns:t='urn:trails'><t:issued>2027-01-20T06:00:00Z</t:issued>"
                + first
                + closure("Skarn ridge", "2027-02-14", "2027-03-30", 4)
                + closure("Tarn loop", "2027-02-12", "2027-02-20", 3)
                + closure("Birch saddle", "2027-02-11", "", 5)
                + more
                + "</t:ListClosuresResponse>";
    }

    static String base64(byte[] bytes) {
        return Base64.getEncoder().encodeToString(bytes);
    }

    static byte[] zipped(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes);
        }
        return out.toByteArray();
    }

    /** What the service answers from now on. */
    AnswerDesk answers(int wanted, byte[] bytes) {
        status = wanted;
        body = bytes;
        return this;
    }

    AnswerDesk answers(String payload) {
        return answers(200, envelope(payload));
    }

    /** Sends the case and waits for its answer to be shown. */
    Exchange send() {
        int before = Hand.on(call::calls);
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("an answer", () -> call.calls() > before);
        return Hand.on(() -> call.exchange().orElseThrow());
    }

    /** Takes a picture, when they are asked for. */
    void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    @Override
    public void close() {
        desktop.close();
        server.stop(0);
    }
}
