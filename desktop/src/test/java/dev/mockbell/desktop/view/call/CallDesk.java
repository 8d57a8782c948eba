package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.sheet.SheetRow;
import java.io.IOException;
import java.nio.file.Path;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;

/** A window at the Call station, over a contract with every kind of part. */
final class CallDesk implements AutoCloseable {
    private static final String WSDL = """
            <definitions name="Huts" targetNamespace="urn:huts:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:huts:s"
              xmlns:h="urn:huts" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:huts" elementFormDefault="qualified">
                <xs:simpleType name="HutId"><xs:restriction base="xs:token"><xs:pattern value="NF-[0-9]{2}"/></xs:restriction></xs:simpleType>
                <xs:element name="Reserve"><xs:complexType><xs:sequence>
                  <xs:element name="hutId" type="h:HutId"><xs:annotation><xs:documentation>The association's number of a hut.</xs:documentation></xs:annotation></xs:element>
                  <xs:element name="arrival" type="xs:date"/>
                  <xs:element name="nights"><xs:simpleType><xs:restriction base="xs:int"><xs:minInclusive value="1"/><xs:maxInclusive value="14"/></xs:restriction></xs:simpleType></xs:element>
                  <xs:element name="guest" maxOccurs="unbounded"><xs:complexType><xs:sequence><xs:element name="name" type="xs:string"/><xs:element name="age" type="xs:int" minOccurs="0"/></xs:sequence></xs:complexType></xs:element>
                  <xs:element name="board" minOccurs="0"><xs:simpleType><xs:restriction base="xs:string"><xs:enumeration value="NONE"/><xs:enumeration value="HALF"/><xs:enumeration value="FULL"/></xs:restriction></xs:simpleType></xs:element>
                  <xs:choice minOccurs="0"><xs:element name="phone" type="xs:string"/><xs:element name="email" type="xs:string"/></xs:choice>
                  <xs:element name="remark" type="xs:string" nillable="true" minOccurs="0"/>
                  <xs:any namespace="##other" processContents="lax" minOccurs="0"/>
                <xs:element name="plan" type="xs:base64Binary" minOccurs="0"/></xs:sequence><xs:attribute name="channel" type="xs:string"/></xs:complexType></xs:element>
                <xs:element name="ReserveResponse"><xs:complexType><xs:sequence><xs:element name="code" type="xs:string"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="h:Reserve"/></message><message name="Out"><part name="b" element="h:ReserveResponse"/></message>
              <portType name="PT"><operation name="Reserve"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Reserve"><soap:operation soapAction="urn:reserve"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Huts"><port name="Huts11" binding="tns:B"><soap:address location="%1$s/huts"/></port></service>
            </definitions>""";

    final Desktops desktop;
    final Hand hand;
    final CallModel call;

    CallDesk(Path folder) throws IOException {
        desktop = new Desktops(
                folder,
                WSDL,
                "Reserve",
                "<h:ReserveResponse xmlns:h='urn:huts'><h:code>{$request//hutId}/{$request//nights}</h:code></h:ReserveResponse>");
        hand = desktop.hand;
        call = desktop.models.call();
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> !call.request().lines().isEmpty());
    }

    @Override
    public void close() {
        desktop.close();
    }

    /** Takes a picture, when they are asked for. */
    void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    Scene scene() {
        return desktop.window.stage().getScene();
    }

    /** On the interface thread. */
    String xmlNow() {
        return call.request().xml();
    }

    String xml() {
        return Hand.on(() -> call.request().xml());
    }

    CodeArea editor() {
        return (CodeArea) hand.find("#request-xml").orElseThrow();
    }

    /** A row by its label; on the interface thread. */
    SheetRow row(String label) {
        return call.request().lines().stream()
                .map(l -> l.row())
                .filter(r -> r.label().equals(label))
                .findFirst()
                .orElseThrow();
    }

    /** The field of a row; on the interface thread. */
    ValueField field(String name) {
        return scene().getRoot().lookupAll("#value-" + name).stream()
                .filter(Parts::isShown)
                .map(n -> (ValueField) n.getParent())
                .findFirst()
                .orElseThrow();
    }

    /** Chooses a row and gives the sheet the keyboard, not the row's field. */
    void point(String label) {
        Hand.run(() -> {
            Grid<?> grid = (Grid<?>) scene().lookup("#request-sheet");
            int at = 0;
            while (!call.request().lines().get(at).row().label().equals(label)) {
                at++;
            }
            grid.list().getSelectionModel().clearAndSelect(at);
            grid.list().requestFocus();
        });
    }

    /** Opens the menu of a row. */
    void menuOn(String label) {
        point(label);
        Hand.run(() -> {
            Grid<?> grid = (Grid<?>) scene().lookup("#request-sheet");
            var bounds = grid.list().localToScreen(grid.list().getBoundsInLocal());
            Event.fireEvent(
                    grid.list(),
                    new ContextMenuEvent(
                            ContextMenuEvent.CONTEXT_MENU_REQUESTED,
                            40,
                            40,
                            bounds.getMinX() + 40,
                            bounds.getMinY() + 40,
                            true,
                            null));
        });
    }

    /** Whether some text that starts so is shown; on the interface thread. */
    boolean says(String start) {
        for (Node node : scene().getRoot().lookupAll(".label")) {
            if (node instanceof Label label && label.getText().startsWith(start) && Parts.isShown(node)) {
                return true;
            }
        }
        return false;
    }

    void awaitCopied(String text) {
        hand.await(
                "“" + text + "” on the clipboard",
                () -> text.equals(Clipboard.getSystemClipboard().getString()));
    }

    void awaitXml(String part) {
        hand.await("“" + part + "” in the XML", () -> call.request().xml().contains(part));
    }

    /** The words of the button that a selector finds. */
    String words(String selector) {
        return hand.find(selector)
                .map(n -> Hand.on(() -> ((Labeled) n).getText()))
                .orElse("");
    }
}
