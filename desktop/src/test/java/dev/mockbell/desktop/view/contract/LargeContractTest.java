package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import java.io.IOException;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A contract of a thousand operations in the window: the watchdog of the hand fails whatever holds the interface thread. */
class LargeContractTest {
    private static final int OPERATIONS = 1_000;
    private static final int ELEMENTS = 30;

    @TempDir
    Path folder;

    @Test
    void itIsLookedAtMockedAndCalledWithoutHoldingTheWindow() throws IOException {
        try (Desktops desktop =
                new Desktops(folder, wsdl(), "Op0", "<t:Op0Out xmlns:t='urn:large'><t:e0>AB-12</t:e0></t:Op0Out>")) {
            Hand hand = desktop.hand;
            desktop.addContract(OPERATIONS);
            hand.type("#board-filter", "Op77");
            hand.type("#board-filter", "");
            hand.press(KeyCode.ALT, KeyCode.DIGIT4);
            Hand.run(() -> {
                var plan = desktop.models.mocks().plan().orElseThrow().withPort(0);
                desktop.desk.change(p -> p.withMock(plan));
            });
            hand.click("#mock-start");
            hand.await("the mock", () -> desktop.models.mocks().host().isPresent());
            hand.await("its sample", () -> !desktop.models.mocks().answers().isEmpty());
            assertThat(Hand.on(() -> desktop.models.mocks().answers().get(0).body()))
                    .contains("e29");
            hand.press(KeyCode.ALT, KeyCode.DIGIT2);
            hand.await(
                    "the sheet", () -> desktop.models.call().request().lines().size() > ELEMENTS);
            hand.press(KeyCode.CONTROL, KeyCode.K);
            hand.type("#finder-field", "Op99");
            hand.press(KeyCode.ENTER);
            hand.await(
                    "the operation found",
                    () -> desktop.desk.placeProperty().get().operation().name().startsWith("Op99"));
            hand.press(KeyCode.ALT, KeyCode.DIGIT1);
        }
    }

    private static String wsdl() {
        StringBuilder types = new StringBuilder();
        StringBuilder messages = new StringBuilder();
        StringBuilder port = new StringBuilder();
        StringBuilder binding = new StringBuilder();
        for (int o = 0; o < OPERATIONS; o++) {
            for (String side : new String[] {"In", "Out"}) {
                types.append("<xs:element name='Op").append(o).append(side).append("'><xs:complexType><xs:sequence>");
                for (int e = 0; e < ELEMENTS; e++) {
                    types.append("<xs:element name='e")
                            .append(e)
                            .append("' type='")
                            .append(e % 3 == 0 ? "t:Code" : "xs:string");
                    types.append("' minOccurs='0'/>");
                }
                types.append("</xs:sequence></xs:complexType></xs:element>\n");
                messages.append("<message name='Op").append(o).append(side).append("'><part name='b' element='t:Op");
                messages.append(o).append(side).append("'/></message>\n");
            }
            port.append(
                    "<operation name='Op%1$s'><input message='w:Op%1$sIn'/><output message='w:Op%1$sOut'/></operation>\n"
                            .formatted(o));
            binding.append(
                    "<operation name='Op%1$s'><soap:operation soapAction='urn:op%1$s'/><input><soap:body use='literal'/></input><output><soap:body use='literal'/></output></operation>\n"
                            .formatted(o));
        }
        return """
                <definitions name="Large" targetNamespace="urn:large:w" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:w="urn:large:w"
                  xmlns:t="urn:large" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
                  <types><xs:schema targetNamespace="urn:large" elementFormDefault="qualified">
                    <xs:simpleType name="Code"><xs:restriction base="xs:string"><xs:pattern value="[A-Z]{2}-[0-9]{2}"/></xs:restriction></xs:simpleType>
                """
                + types + "</xs:schema></types>" + messages + "<portType name='P'>" + port + "</portType>"
                + "<binding name='B' type='w:P'><soap:binding transport='http://schemas.xmlsoap.org/soap/http'/>"
                + binding
                + "</binding><service name='Large'><port name='L' binding='w:B'><soap:address location='%1$s/large'/></port></service></definitions>";
    }
}
