package dev.mockbell.desktop;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.drive.Watchdog;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.UserFolders;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import javafx.application.Platform;
import javafx.stage.Stage;

/** A real window over a real project, with a service to call. */
public final class Desktops implements AutoCloseable {
    static final String WSDL = """
            <definitions name="Peaks" targetNamespace="urn:peaks:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:peaks:s"
              xmlns:p="urn:peaks" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:soap12="http://schemas.xmlsoap.org/wsdl/soap12/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:peaks" elementFormDefault="qualified">
                <xs:element name="Climb"><xs:complexType><xs:sequence><xs:element name="peak" type="xs:string"/>
                  <xs:element name="days"><xs:simpleType><xs:restriction base="xs:int"><xs:maxInclusive value="9"/></xs:restriction></xs:simpleType></xs:element>
                  <xs:element name="guide" type="xs:string" minOccurs="0" maxOccurs="3"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="ClimbResponse"><xs:complexType><xs:sequence><xs:element name="permit" type="xs:string"/><xs:element name="fee" type="xs:decimal"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="Closed"><xs:complexType><xs:sequence><xs:element name="why" type="xs:string"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="p:Climb"/></message>
              <message name="Out"><part name="b" element="p:ClimbResponse"/></message>
              <message name="No"><part name="f" element="p:Closed"/></message>
              <portType name="PT"><operation name="Climb"><documentation>Gives a permit.</documentation><input message="tns:In"/><output message="tns:Out"/><fault name="Closed" message="tns:No"/></operation></portType>
              <binding name="B11" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Climb"><soap:operation soapAction="urn:climb"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <binding name="B12" type="tns:PT"><soap12:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Climb"><soap12:operation soapAction="urn:climb"/><input><soap12:body use="literal"/></input><output><soap12:body use="literal"/></output></operation></binding>
              <service name="Peaks"><port name="Peaks11" binding="tns:B11"><soap:address location="%1$s/peaks"/></port>
                <port name="Peaks12" binding="tns:B12"><soap12:address location="%1$s/peaks-12"/></port></service>
            </definitions>""";

    public final Path wsdl;
    public final Path project;
    public final MockHost service;
    public final MockBellWindow window;
    public final Models models;
    public final Desk desk;
    public final Hand hand;
    private final Watchdog watchdog;
    private final EventLoops loops = new EventLoops("service", 1);

    public Desktops(Path folder) throws IOException {
        this(
                folder,
                WSDL,
                "Climb",
                "<p:ClimbResponse xmlns:p='urn:peaks'><p:permit>P-{$hits}</p:permit><p:fee>{number($request//days) * 20}</p:fee></p:ClimbResponse>");
    }

    /** Over another contract, whose addresses start with {@code %1$s}; one operation has an answer. */
    public Desktops(Path folder, String text, String operation, String answer) throws IOException {
        wsdl = Files.writeString(folder.resolve("peaks.wsdl"), text.formatted("http://127.0.0.1:1"));
        project = folder.resolve("project");
        Contract contract = new ContractReader(DocumentFetcher.files(16 << 20))
                .read(wsdl.toString(), Progress.NONE, new StopSignal());
        MockPlan plan =
                MockPlan.of("peaks", contract, 0).withAnswers(operation, List.of(MockAnswer.otherwise("echo", answer)));
        service = MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
        Files.writeString(wsdl, text.formatted(service.base()));
        Toolkit.start();
        desk = Hand.on(() -> Desk.open(
                project, Platform::runLater, Clock.systemUTC(), UserFolders.of(Map.of(), folder.resolve("home"))));
        window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        models = window.models();
        watchdog = Watchdog.start();
        hand = new Hand(window.stage(), watchdog);
    }

    /** Pastes the address of the contract, of one operation, and waits for the board. */
    public void addContract() {
        addContract(1);
    }

    /** As {@link #addContract()}, of so many operations. */
    public void addContract(int operations) {
        hand.type("#contract-address", wsdl.toString());
        hand.click("#contract-add");
        hand.await("the contract", () -> desk.places().size() == operations);
    }

    /** Adds a contract with findings beside the one that is there: a binding of a port type that does not exist. */
    public void addFlawedContract() throws IOException {
        Path flawed = wsdl.resolveSibling("flawed.wsdl");
        Files.writeString(
                flawed, Files.readString(wsdl).replace("type=\"tns:PT\"><soap12", "type=\"tns:Gone\"><soap12"));
        hand.click("#add-contract");
        hand.type("#contract-address", flawed.toString());
        hand.click("#contract-add");
        hand.await("the second contract", () -> desk.project().contracts().size() == 2);
    }

    /** Has the mock of the first contract take any port that is free: other tests have theirs at the same time. */
    public void mockAnywhere() {
        hand.await("a contract", () -> !desk.project().contracts().isEmpty());
        Hand.run(() -> desk.change(p -> {
            var kept = p.contracts().get(0);
            return p.withMock(MockPlan.of(kept.name(), kept.contract(), 0));
        }));
    }

    /** Starts the mock of the contract looked at, on a port that is free. */
    public void startMock() {
        Hand.run(() -> models.mocks()
                .start(
                        models.mocks().contractProperty().get(),
                        models.mocks().plan().orElseThrow().withPort(0)));
        hand.await("the mock", () -> models.mocks().running() == 1);
    }

    /** The project as it stands in its folder once everything is done and written. */
    public Project onDisk() {
        settled();
        return new ProjectStore().open(project);
    }

    /** Waits until no work goes on and everything that was changed is written. */
    public void settled() {
        hand.await("the work", () -> desk.tasks().running() == 0);
        try {
            desk.saver().settle();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while the project was saved", e);
        }
    }

    @Override
    public void close() {
        Hand.run(() -> window.stage().hide());
        window.closed().join();
        service.close();
        loops.close();
        watchdog.close();
    }
}
