package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.jms.Broker;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import dev.mockbell.wire.jms.ProviderJars;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** An operation that is spoken over a queue too: all but sending is as with any other. */
class TransportsTest {
    static final String WSDL = """
            <definitions name="Rope" targetNamespace="urn:rope:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:rope:s"
              xmlns:r="urn:rope" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:rope"><xs:element name="Tie" type="xs:int"/><xs:element name="Tied" type="xs:string"/></xs:schema></types>
              <message name="In"><part name="b" element="r:Tie"/></message><message name="Out"><part name="b" element="r:Tied"/></message>
              <portType name="PT"><operation name="Tie"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="Q" type="tns:PT"><soap:binding transport="http://www.w3.org/2010/soapjms/"/>
                <operation name="Tie"><soap:operation soapAction="urn:tie"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <binding name="H" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Tie"><soap:operation soapAction="urn:tie"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Rope"><port name="Queue" binding="tns:Q"><soap:address location="jms:queue:ropes"/></port>
                <port name="Http" binding="tns:H"><soap:address location="%1$s/rope"/></port></service>
            </definitions>""";

    @TempDir
    private Path folder;

    private Desktops desktop;
    private Hand hand;

    @BeforeEach
    void open() throws Exception {
        desktop = new Desktops(folder, WSDL, "Tie", "<r:Tied xmlns:r='urn:rope'>yes</r:Tied>");
        hand = desktop.hand;
        desktop.addContract();
    }

    @AfterEach
    void close() {
        desktop.close();
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    @Test
    void theWireSaysWhatCarriesItAndHasItsSample() {
        hand.clickText("On the wire");
        hand.await("the sample", () -> hand.shows("<r:Tie"));
        shoot("transport-wire");
        assertThat(hand.shows("Queue · SOAP 1.1 over JMS")).isTrue();
        assertThat(hand.shows("jms:queue:ropes")).isTrue();
    }

    @Test
    void withoutABrokerItIsSaidWhatIsMissingAndOverHttpItIsCalled() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.clickText("SOAP 1.1 JMS");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the reason", () -> hand.shows("The address does not say where the broker is"));
        hand.clickText("SOAP 1.1");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "an answer",
                () -> Hand.on(() -> desktop.models.call().calledProperty().get()) != null);
    }

    @Test
    void aMessageGoesByAQueueAndItsAnswerIsShownAndKept() throws Exception {
        try (Broker broker = new Broker()) {
            String address = "jms:queue:ropes?jndiURL=" + broker.amqp();
            String answer =
                    "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><r:Tied xmlns:r='urn:rope'>fast</r:Tied></e:Body></e:Envelope>";
            JmsServer server = JmsServer.listen(
                    JmsAddress.of(address),
                    new JmsServer.Reach(Connect.USUAL, new ProviderJars(folder), told -> {}),
                    (request, envelope) -> Optional.of(new JmsServer.Reply(
                            Content.of(answer.getBytes(StandardCharsets.UTF_8)), "text/xml", false, sent -> {})));
            hand.press(KeyCode.ALT, KeyCode.DIGIT2);
            hand.clickText("SOAP 1.1 JMS");
            hand.type("#endpoint", address);
            hand.press(KeyCode.ENTER);
            hand.await("kept", () -> desktop.models.call().endpoint().address().equals(address));
            hand.press(KeyCode.CONTROL, KeyCode.ENTER);
            hand.await(
                    "an answer",
                    () -> Hand.on(() -> desktop.models.call().calledProperty().get()) != null);
            hand.await("the value", () -> hand.shows("fast"));
            shoot("transport-call");
            assertThat(Hand.on(
                            () -> desktop.models.call().exchange().orElseThrow().outcome()))
                    .isEqualTo(Exchange.Outcome.FINE);
            hand.press(KeyCode.ALT, KeyCode.DIGIT5);
            hand.await("its line", () -> hand.shows("jms:queue:ropes"));
            shoot("transport-traffic");
            server.close();
        }
    }

    @Test
    void theMockAnswersOnTheQueueToo() throws Exception {
        try (Broker broker = new Broker()) {
            String address = "jms:queue:ropes?jndiURL=" + broker.tcp();
            hand.press(KeyCode.ALT, KeyCode.DIGIT2);
            hand.clickText("SOAP 1.1 JMS");
            hand.type("#endpoint", address);
            hand.press(KeyCode.ENTER);
            hand.await("kept", () -> desktop.models.call().endpoint().address().equals(address));
            desktop.startMock();
            hand.press(KeyCode.ALT, KeyCode.DIGIT4);
            hand.await("the queue", () -> hand.shows("and queue ropes"));
            shoot("transport-mock");
            hand.press(KeyCode.ALT, KeyCode.DIGIT2);
            hand.press(KeyCode.CONTROL, KeyCode.ENTER);
            hand.await(
                    "an answer",
                    () -> Hand.on(() -> desktop.models.call().calledProperty().get()) != null);
            assertThat(Hand.on(
                            () -> desktop.models.call().exchange().orElseThrow().outcome()))
                    .isEqualTo(Exchange.Outcome.FINE);
            Hand.run(() -> desktop.models.mocks().startOrStop());
            desktop.settled();
        }
    }
}
