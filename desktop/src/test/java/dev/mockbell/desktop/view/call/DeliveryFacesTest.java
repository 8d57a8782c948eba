package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.PartText;
import dev.mockbell.security.Token;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Headers as sheets, files that go along and come back, delivery, and where a request goes. */
class DeliveryFacesTest {
    private static final String WSDL = """
            <definitions name="Huts" targetNamespace="urn:huts:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:huts:s"
              xmlns:h="urn:huts" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:huts" elementFormDefault="qualified">
                <xs:element name="Photo"><xs:complexType><xs:sequence><xs:element name="hutId" type="xs:string"/>
                  <xs:element name="picture" type="xs:base64Binary"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="PhotoResponse"><xs:complexType><xs:sequence><xs:element name="picture" type="xs:base64Binary"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="Trace"><xs:complexType><xs:sequence><xs:element name="trip" type="xs:int"/><xs:element name="guide" type="xs:string" minOccurs="0"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="Region" type="xs:string"/>
              </xs:schema></types>
              <message name="In"><part name="b" element="h:Photo"/></message><message name="Out"><part name="b" element="h:PhotoResponse"/></message>
              <message name="Heads"><part name="trace" element="h:Trace"/><part name="region" element="h:Region"/></message>
              <portType name="PT"><operation name="Photo"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><wsp:Policy xmlns:wsp="http://www.w3.org/ns/ws-policy" xmlns:sp="http://docs.oasis-open.org/ws-sx/ws-securitypolicy/200702">
                <sp:SupportingTokens><wsp:Policy><sp:UsernameToken><wsp:Policy><sp:HashPassword/></wsp:Policy></sp:UsernameToken></wsp:Policy></sp:SupportingTokens></wsp:Policy><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Photo"><soap:operation soapAction="urn:photo"/><input><soap:body use="literal"/>
                  <soap:header message="tns:Heads" part="trace" use="literal"/><soap:header message="tns:Heads" part="region" use="literal"/></input>
                  <output><soap:body use="literal"/></output></operation></binding>
              <service name="Huts"><port name="Huts11" binding="tns:B"><soap:address location="%1$s/huts"/></port></service>
            </definitions>""";

    private static final String ENVELOPE =
            "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><h:PhotoResponse xmlns:h='urn:huts'><h:picture>"
                    + "<x:Include xmlns:x='http://www.w3.org/2004/08/xop/include' href='cid:back@huts'/></h:picture></h:PhotoResponse></e:Body></e:Envelope>";

    @TempDir
    private Path folder;

    private final List<String> came = new CopyOnWriteArrayList<>();
    private HttpServer parts;
    private Desktops desktop;
    private Hand hand;
    private CallModel call;

    @BeforeEach
    void open() throws IOException {
        desktop = new Desktops(
                folder,
                WSDL,
                "Photo",
                "<h:PhotoResponse xmlns:h='urn:huts'><h:picture>AAAA</h:picture></h:PhotoResponse>");
        hand = desktop.hand;
        call = desktop.models.call();
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> !call.request().lines().isEmpty());
        parts = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
        parts.createContext("/", exchange -> {
            came.add(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
            byte[] body = ("--b\r\nContent-Type: application/xop+xml; type=\"text/xml\"\r\nContent-ID: <root>\r\n\r\n"
                            + ENVELOPE
                            + "\r\n--b\r\nContent-Type: text/plain\r\nContent-ID: <back@huts>\r\n\r\nthe picture comes back\r\n--b--\r\n")
                    .getBytes(StandardCharsets.UTF_8);
            exchange.getResponseHeaders()
                    .set(
                            "Content-Type",
                            "multipart/related; type=\"application/xop+xml\"; start=\"<root>\"; boundary=b");
            exchange.sendResponseHeaders(200, body.length);
            exchange.getResponseBody().write(body);
            exchange.close();
        });
        parts.createContext("/moved", exchange -> {
            exchange.getRequestBody().readAllBytes();
            exchange.getResponseHeaders().set("Location", "/huts");
            exchange.sendResponseHeaders(307, -1);
            exchange.close();
        });
        parts.start();
    }

    @AfterEach
    void close() {
        desktop.close();
        parts.stop(0);
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private Case now() {
        return Hand.on(() -> call.currentProperty().get());
    }

    private Exchange send() {
        int before = Hand.on(call::calls);
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("an answer", () -> Hand.on(call::calls) > before);
        return Hand.on(() -> call.exchange().orElseThrow());
    }

    @Test
    void declaredBlocksAreSheetsWithASwitchEachAndOthersStandBesideThem() {
        hand.click("#segment-headers");
        assertThat(now().soapHeaders()).contains("Trace").contains("Region");
        hand.await("its sheet", () -> hand.find("#header-sheet-Trace").isPresent());
        hand.type("#header-sheet-Trace #value-trip", "no number");
        hand.await("what is wrong", () -> hand.text("#request-validity").startsWith("Header Trace: "));
        shoot("headers-sheet");
        hand.type("#header-sheet-Trace #value-trip", "42");
        hand.await("kept", () -> now().soapHeaders().contains(">42<"));
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("undone in the header", () -> !now().soapHeaders().contains(">42<"));
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
        hand.await("done again", () -> now().soapHeaders().contains(">42<"));
        hand.await("valid", () -> hand.text("#request-validity").equals("Valid"));
        hand.click("#header-block-Trace");
        hand.await("left out", () -> !now().soapHeaders().contains("Trace"));
        assertThat(now().soapHeaders()).contains("Region");
        hand.click("#header-block-Trace");
        hand.await("back as it was", () -> now().soapHeaders().contains(">42<"));
        Hand.run(() -> call.headers().keepFree("<o:Own xmlns:o='urn:own'/>"));
        assertThat(now().soapHeaders()).contains("Own").contains(">42<");
        assertThat(Hand.on(() -> call.headers().free())).contains("Own").doesNotContain("Trace");
        Exchange sent = send();
        assertThat(SoapMessage.of(sent.request(), "sent").headers())
                .extracting(h -> h.getLocalName())
                .containsExactlyInAnyOrder("Trace", "Region", "Own");
    }

    @Test
    void anHttpHeaderWithoutANameYetIsNotKept() {
        hand.click("#segment-headers");
        hand.click("#add-header");
        hand.type("#header-value-0", "x");
        Hand.run(call::settle);
        desktop.settled();
        assertThat(now().headers()).isEmpty();
        assertThat(hand.shows("must not be empty")).isFalse();
        hand.type("#header-name-0", "X-Trip");
        hand.await("kept", () -> now().headers().size() == 1);
        assertThat(now().headers().get(0).value()).isEqualTo("x");
    }

    @SuppressWarnings("unchecked")
    private static <T> T cast(Object node) {
        return (T) node;
    }

    @Test
    void howItIsDeliveredIsChosenAndSent() {
        hand.click("#segment-headers");
        Hand.run(() -> {
            ComboBox<Addressing> box = cast(hand.find("#delivery-addressing").orElseThrow());
            box.setValue(Addressing.V10);
        });
        hand.await(
                "a place for the answer", () -> hand.find("#delivery-reply-to").isPresent());
        hand.type("#delivery-charset", "UTF-16");
        hand.press(KeyCode.ENTER);
        hand.click("#delivery-chunked");
        hand.await("in chunks", () -> now().delivery().framing().chunked());
        hand.click("#delivery-own");
        hand.await("alone", () -> now().delivery().ownConnection());
        shoot("delivery");
        assertThat(now().delivery())
                .isEqualTo(Delivery.USUAL
                        .with(Addressing.V10)
                        .in("UTF-16")
                        .with(new dev.mockbell.wire.Framing(true, false))
                        .onOwnConnection(true));
        Hand.run(() -> call.endpoint().keep(address(), CalledEndpoint.For.CASE));
        Exchange sent = send();
        assertThat(sent.request().header("Content-Type").orElseThrow()).contains("utf-16");
        assertThat(sent.request().header("Transfer-Encoding")).contains("chunked");
        assertThat(sent.note()).contains("does not say which message it relates to");
        Hand.run(() -> call.keep(now().withDelivery(Delivery.USUAL.to(address()))));
        send();
        Exchange second = send();
        assertThat(second.timing().connect()).isZero();
        hand.await("the strip", () -> hand.shows("kept"));
        shoot("kept");
    }

    private String address() {
        return "http://127.0.0.1:" + parts.getAddress().getPort() + "/huts";
    }

    @Test
    void aFileGoesAlongAndWhatComesBackIsListedAndKept() throws IOException {
        Path picture = Files.writeString(folder.resolve("hut photo.txt"), "a picture of a hut");
        hand.click("#segment-parts");
        shoot("parts-empty");
        String[] refers = new String[1];
        Hand.run(() -> call.parts().add(picture, a -> refers[0] = a));
        hand.await("the file", () -> now().parts().size() == 1);
        assertThat(now().parts()).containsExactly(new PartText("hut-photo.txt", "parts/hut photo.txt", ""));
        assertThat(refers[0]).isEqualTo("cid:hut-photo.txt");
        Hand.run(() -> call.request()
                .type(
                        call.request().lines().stream()
                                .map(l -> l.row())
                                .filter(r -> r.label().equals("picture"))
                                .findFirst()
                                .orElseThrow(),
                        refers[0]));
        Hand.run(call::settle);
        hand.await("valid", () -> hand.text("#request-validity").equals("Valid"));
        hand.click("#segment-sheet");
        hand.click("#segment-parts");
        hand.await("its place", () -> hand.shows("in the place of a value"));
        Hand.run(() -> call.endpoint().keep(address(), CalledEndpoint.For.CASE));
        Exchange sent = send();
        assertThat(came.get(0)).contains("xop:Include").contains("a picture of a hut");
        assertThat(sent.response().orElseThrow().attachments()).hasSize(1);
        Node response = hand.find("#answer-parts").orElse(null);
        assertThat(response).as("not shown yet").isNull();
        Hand.run(() -> hand.stage().getScene().getRoot().lookupAll("#segment-parts").stream()
                .map(n -> (javafx.scene.control.ToggleButton) n)
                .skip(1)
                .findFirst()
                .orElseThrow()
                .fire());
        hand.await("the part", () -> hand.shows("cid:back@huts"));
        shoot("parts");
        hand.clickText("Look into it");
        hand.await("what it is", () -> hand.text("#inside-facts").startsWith("text, 22 bytes in the answer"));
        hand.click("#inside-close");
        Path kept = folder.resolve("kept.txt");
        Hand.run(() -> call.parts().save(call.parts().came().get(0), kept));
        hand.await("the file", () -> Files.exists(kept));
        desktop.settled();
        assertThat(Files.readString(kept)).isEqualTo("the picture comes back");
        Hand.run(() -> call.parts().remove(now().parts().get(0)));
        hand.await("what is missing", () -> !hand.text("#request-validity").equals("Valid"));
        assertThat(desktop.project.resolve("parts/hut photo.txt")).exists();
    }

    @Test
    void anAddressIsForTheCaseOrForTheEnvironmentAndChosenFromThoseThereAre() {
        String before = hand.text("#endpoint");
        hand.click("#endpoint-more");
        hand.await("the contract's", () -> hand.shows("the contract"));
        shoot("endpoint-choices");
        hand.press(KeyCode.ESCAPE);
        hand.type("#endpoint", address());
        hand.await("whom it is for", () -> hand.shows("this case"));
        shoot("endpoint-for");
        hand.clickText("this case");
        hand.press(KeyCode.ENTER);
        hand.await("the case's", () -> now().delivery().endpoint().equals(address()));
        assertThat(hand.text("#endpoint-from")).isEqualTo("of this case");
        assertThat(Hand.on(() -> desktop.desk.project().current().endpoints())).isEmpty();
        send();
        assertThat(came).hasSize(1);
        hand.type("#endpoint", "");
        hand.press(KeyCode.ENTER);
        hand.await("as before", () -> now().delivery().endpoint().isEmpty());
        assertThat(Hand.on(() -> call.endpoint().address())).isEqualTo(before);
        List<CalledEndpoint.Choice> all = new CopyOnWriteArrayList<>();
        Hand.run(() -> call.endpoint().choices(all::addAll));
        hand.await("what was called", () -> all.stream().anyMatch(c -> c.from().equals("called before")));
        assertThat(all).extracting(c -> c.address()).contains(before, address());
    }

    @Test
    void aRedirectIsFollowedWhereTheCaseSaysSo() {
        Hand.run(() -> call.endpoint().keep(address().replace("/huts", "/moved"), CalledEndpoint.For.CASE));
        assertThat(send().status()).isEqualTo(307);
        hand.click("#segment-headers");
        hand.click("#delivery-follow");
        hand.await("following", () -> now().delivery().follows());
        assertThat(send().status()).isEqualTo(200);
        assertThat(came).hasSize(1);
        hand.await(
                "every hop on the ledger",
                () -> desktop.desk.ledger().list(LedgerFilter.ALL, 10).size() == 3);
    }

    @Test
    void anAnswerThatIsNotSecuredAsItMustBeIsShownAndDoesNotCount() {
        Hand.run(() -> {
            call.security().add();
            call.security().edit("Profile", p -> p.with(p.message().facing("", true)));
            call.endpoint().keep(address(), CalledEndpoint.For.CASE);
        });
        Exchange sent = send();
        assertThat(sent.outcome()).isEqualTo(Exchange.Outcome.FAILED);
        hand.await("why", () -> hand.text("#answer-note").contains("no security header"));
        assertThat(hand.shows("no whole answer")).as("it came whole").isFalse();
        assertThat(Hand.on(() -> call.response().lines())).as("and is shown").isNotEmpty();
        shoot("unsecured");
    }

    @Test
    void aBinaryValueOffersToTakeAFileAsAPart() {
        Hand.run(() -> {
            var line = call.request().lines().stream()
                    .filter(l -> l.row().label().equals("picture"))
                    .findFirst()
                    .orElseThrow();
            ((dev.mockbell.desktop.part.Grid<?>) hand.stage().getScene().lookup("#request-sheet"))
                    .list()
                    .getSelectionModel()
                    .clearAndSelect(call.request().lines().indexOf(line));
            hand.stage().getScene().lookup("#request-sheet").requestFocus();
        });
        hand.click("#value-picture");
        hand.press(KeyCode.F4);
        hand.await("the way to a part", () -> hand.find("#value-as-part").isPresent());
        hand.press(KeyCode.ESCAPE);
    }

    @Test
    void whatTheContractDemandsIsAProfileToFillIn() {
        hand.click("#segment-security");
        hand.click("#add-demanded");
        hand.await(
                "the profile",
                () -> !Hand.on(() -> desktop.desk.project().settings().profiles())
                        .isEmpty());
        Profile made = Hand.on(() -> call.security().current().orElseThrow());
        assertThat(made.message().token()).isEqualTo(Token.DIGEST);
        assertThat(Hand.on(() -> desktop.desk.project().current().security("huts", "Huts11")))
                .isEqualTo(made.name());
        shoot("demanded");
    }

    @Test
    void withoutAnAnswerTheMockIsStartedAndCalled() {
        desktop.mockAnywhere();
        Hand.run(() -> call.endpoint().keep("http://127.0.0.1:1/nobody", CalledEndpoint.For.CASE));
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("what helps", () -> hand.find("#call-mock").isPresent());
        shoot("no-answer");
        hand.click("#call-mock");
        hand.await(
                "the mock's answer",
                () -> Hand.on(() -> call.exchange().map(Exchange::status).orElse(0)) == 200);
        assertThat(hand.text("#endpoint-from")).isEqualTo("of this case, the mock");
        Optional<Contract> contract =
                Hand.on(() -> desktop.models.mocks().host("huts").map(h -> h.contract()));
        assertThat(contract).isPresent();
    }
}
