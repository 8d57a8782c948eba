package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.Inside;
import dev.mockbell.mock.AnswerHead;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import jakarta.xml.soap.AttachmentPart;
import jakarta.xml.soap.MessageFactory;
import jakarta.xml.soap.MimeHeaders;
import jakarta.xml.soap.SOAPConstants;
import jakarta.xml.soap.SOAPMessage;
import jakarta.xml.ws.BindingProvider;
import jakarta.xml.ws.Dispatch;
import jakarta.xml.ws.Service;
import jakarta.xml.ws.WebServiceFeature;
import jakarta.xml.ws.soap.AddressingFeature;
import jakarta.xml.ws.soap.SOAPFaultException;
import jakarta.xml.ws.spi.Provider;
import java.io.ByteArrayInputStream;
import java.io.StringReader;
import java.net.URL;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javax.xml.namespace.QName;
import javax.xml.transform.dom.DOMResult;
import javax.xml.transform.stream.StreamSource;
import org.apache.axis.client.Call;
import org.apache.axis.message.SOAPEnvelope;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.ws.client.core.WebServiceTemplate;
import org.springframework.ws.soap.client.SoapFaultClientException;
import org.w3c.dom.Document;

/** The mock beside the service that it stands in for: clients of other stacks read its WSDL from it and call every operation. */
class MockedServicesTest {
    private static final String NAMESPACE = "urn:northfell:peers";

    private final HttpCaller http = new HttpCaller();
    private final EventLoops loops = new EventLoops("mock", 1);
    private final List<MockHost> hosts = new ArrayList<>();

    static Stream<Arguments> clientsAndServices() {
        return Stream.of(new com.sun.xml.ws.spi.ProviderImpl(), new org.apache.cxf.jaxws.spi.ProviderImpl())
                .flatMap(client -> Stream.<Supplier<Peer>>of(
                                () -> Peer.metro(new Wrapped()),
                                () -> Peer.metro(new Bare()),
                                () -> Peer.cxf(new Rpc()),
                                () -> Peer.cxf(new Photos()))
                        .map(service -> Arguments.of(client, service)));
    }

    @AfterEach
    void close() {
        hosts.forEach(MockHost::close);
        loops.close();
        http.close();
    }

    private MockHost mock(Supplier<Peer> service, MockPlan plan) {
        try (Peer peer = service.get()) {
            Contract contract = new ContractReader(new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE))
                    .read(peer.wsdl(), Progress.NONE, new StopSignal());
            MockHost host =
                    MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
            hosts.add(host);
            return host;
        }
    }

    private static QName service(Contract contract) {
        return contract.services().get(0).name();
    }

    private static SOAPMessage message(SampleEnvelope sample, SoapVersion version) throws Exception {
        String protocol =
                version == SoapVersion.V12 ? SOAPConstants.SOAP_1_2_PROTOCOL : SOAPConstants.SOAP_1_1_PROTOCOL;
        MimeHeaders headers = new MimeHeaders();
        headers.addHeader("Content-Type", version.contentType(""));
        return MessageFactory.newInstance(protocol)
                .createMessage(headers, new ByteArrayInputStream(sample.text().getBytes(StandardCharsets.UTF_8)));
    }

    private static Operation answered(Port port) {
        return port.binding().operations().stream()
                .filter(o -> o.pattern() == Operation.Pattern.REQUEST_RESPONSE)
                .findFirst()
                .orElseThrow();
    }

    /** Calls the first operation of the first port that has an answer. */
    private SOAPMessage called(Provider client, MockHost host, WebServiceFeature... features) throws Exception {
        Contract contract = host.contract();
        Port port = contract.httpPorts().get(0);
        Operation operation = answered(port);
        QName name = service(contract);
        Dispatch<SOAPMessage> dispatch = client.createServiceDelegate(new URL(host.wsdl()), name, Service.class)
                .createDispatch(
                        new QName(name.getNamespaceURI(), port.name()),
                        SOAPMessage.class,
                        Service.Mode.MESSAGE,
                        features);
        SampleEnvelope sample = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL).stream()
                .filter(s -> s.direction() == SampleEnvelope.Direction.REQUEST)
                .findFirst()
                .orElseThrow();
        dispatch.getRequestContext().put(BindingProvider.SOAPACTION_USE_PROPERTY, true);
        dispatch.getRequestContext()
                .put(
                        BindingProvider.SOAPACTION_URI_PROPERTY,
                        operation.input().orElseThrow().action());
        return dispatch.invoke(message(sample, SoapVersion.of(new Contract.BoundOperation(port, operation))));
    }

    @ParameterizedTest
    @MethodSource("clients")
    void filesBesideAnAnswerReachTheClient(Provider client, @TempDir Path folder) throws Exception {
        byte[] picture = {0, 1, 2, (byte) 0xFF, '\r', '\n', '-', '-'};
        Files.write(folder.resolve("map.png"), picture);
        MockHost plain = mock(() -> Peer.cxf(new Wrapped()), MockPlan.sampling("peer", 0));
        String operation = answered(plain.contract().httpPorts().get(0)).key();
        MockAnswer sample = MockPlan.samples(plain.contract(), operation).get(0);
        MockSurroundings around =
                MockSurroundings.alone(loops, new Expressions(), null, e -> {}).with(new Inside(folder));
        MockHost host = MockHost.start(
                plain.contract(),
                MockPlan.sampling("peer", 0)
                        .withAnswers(
                                operation,
                                List.of(sample.with(AnswerHead.USUAL.withParts(
                                        List.of(new AnswerHead.AnswerPart("map@huts", "map.png", "")))))),
                around);
        hosts.add(host);
        SOAPMessage answer = called(client, host);
        assertThat(answer.getSOAPBody().hasFault()).isFalse();
        assertThat(answer.countAttachments()).isEqualTo(1);
        AttachmentPart part = answer.getAttachments().next();
        assertThat(part.getRawContentBytes()).isEqualTo(picture);
        assertThat(part.getContentType()).isEqualTo("image/png");
    }

    @ParameterizedTest
    @MethodSource("clients")
    void clientsThatSpeakWsAddressingTakeTheAnswerForTheirs(Provider client) throws Exception {
        MockHost host = mock(() -> Peer.cxf(new Wrapped()), MockPlan.sampling("peer", 0));
        SOAPMessage answer = called(client, host, new AddressingFeature(true, true));
        assertThat(answer.getSOAPBody().hasFault()).isFalse();
        assertThat(host.latest())
                .first()
                .satisfies(e -> assertThat(new String(e.request().body().bytes(), StandardCharsets.UTF_8))
                        .contains("MessageID"));
    }

    @ParameterizedTest
    @MethodSource("clientsAndServices")
    void everyOperationIsCalledByWhatTheMocksOwnWsdlSays(Provider client, Supplier<Peer> service) throws Exception {
        MockHost host = mock(service, MockPlan.sampling("peer", 0));
        Contract contract = host.contract();
        QName name = service(contract);
        // the port and its address are found in the mock's own WSDL
        var delegate = client.createServiceDelegate(new URL(host.wsdl()), name, Service.class);
        int called = 0;
        for (Port port : contract.httpPorts()) {
            Dispatch<SOAPMessage> dispatch = delegate.createDispatch(
                    new QName(name.getNamespaceURI(), port.name()), SOAPMessage.class, Service.Mode.MESSAGE);
            SoapVersion version = SoapVersion.of(new Contract.BoundOperation(
                    port, port.binding().operations().get(0)));
            for (Operation operation : port.binding().operations()) {
                SampleEnvelope sample = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL).stream()
                        .filter(s -> s.direction() == SampleEnvelope.Direction.REQUEST)
                        .findFirst()
                        .orElseThrow();
                if (operation.pattern() == Operation.Pattern.ONE_WAY) {
                    dispatch.invokeOneWay(message(sample, version));
                } else {
                    SOAPMessage answer = dispatch.invoke(message(sample, version));
                    assertThat(answer.getSOAPBody().hasFault())
                            .as(operation.key())
                            .isFalse();
                    assertThat(answer.getSOAPBody().extractContentAsDocument().getDocumentElement())
                            .as(operation.key())
                            .isNotNull();
                }
                called++;
            }
        }
        assertThat(called).isGreaterThan(1);
        for (int i = 0; i < 100 && host.answered() < called; i++) {
            Thread.sleep(20);
        }
        assertThat(host.answered()).isEqualTo(called);
        assertThat(host.unmatched()).isZero();
    }

    private static final MockAnswer FULL = MockAnswer.fault(
            "count($request//guest) > 1",
            "HutFull",
            "No bunk is left for {count($request//guest)}",
            "<p:HutFull xmlns:p='urn:northfell:peers'><left>0</left></p:HutFull>");
    private static final String PAYLOAD =
            "<p:reserve xmlns:p='urn:northfell:peers'><guest vegetarian='1'><name>A</name><age>1</age></guest>"
                    + "<guest vegetarian='0'><name>B</name><age>2</age></guest></p:reserve>";

    private MockHost full() {
        MockPlan plan = MockPlan.sampling("peer", 0);
        return mock(() -> Peer.metro(new Wrapped()), plan.withAnswers("reserve", List.of(FULL)));
    }

    static Stream<Provider> clients() {
        return Stream.of(new com.sun.xml.ws.spi.ProviderImpl(), new org.apache.cxf.jaxws.spi.ProviderImpl());
    }

    @ParameterizedTest
    @MethodSource("clients")
    void aDeclaredFaultIsUnderstood(Provider client) throws Exception {
        MockHost host = full();
        QName name = service(host.contract());
        Dispatch<javax.xml.transform.Source> dispatch = client.createServiceDelegate(
                        new URL(host.wsdl()), name, Service.class)
                .createDispatch(
                        new QName(
                                name.getNamespaceURI(),
                                host.contract().httpPorts().get(0).name()),
                        javax.xml.transform.Source.class,
                        Service.Mode.PAYLOAD);
        assertThatThrownBy(() -> dispatch.invoke(new StreamSource(new StringReader(PAYLOAD))))
                .isInstanceOfSatisfying(SOAPFaultException.class, e -> {
                    assertThat(e.getFault().getFaultString()).isEqualTo("No bunk is left for 2");
                    assertThat(e.getFault()
                                    .getDetail()
                                    .getDetailEntries()
                                    .next()
                                    .getElementQName())
                            .isEqualTo(new QName(NAMESPACE, "HutFull"));
                });
    }

    @Test
    void springUnderstandsAnswersAndFaults() {
        MockHost host = full();
        String address = host.addresses().values().iterator().next();
        WebServiceTemplate template = new WebServiceTemplate();
        DOMResult result = new DOMResult();
        template.sendSourceAndReceiveToResult(
                address, new StreamSource(new StringReader("<p:areas xmlns:p='urn:northfell:peers'/>")), result);
        assertThat(((Document) result.getNode()).getDocumentElement().getLocalName())
                .isEqualTo("areasResponse");
        assertThatThrownBy(() -> template.sendSourceAndReceiveToResult(
                        address, new StreamSource(new StringReader(PAYLOAD)), new DOMResult()))
                .isInstanceOf(SoapFaultClientException.class)
                .hasMessage("No bunk is left for 2");
    }

    @Test
    void axisReadsTheWsdlAndUnderstandsTheAnswer() throws Exception {
        MockHost host = mock(() -> Peer.axis("Encoded"), MockPlan.sampling("peer", 0));
        Contract contract = host.contract();
        QName name = service(contract);
        var service = new org.apache.axis.client.Service(new URL(host.wsdl()), name);
        Port port = contract.httpPorts().get(0);
        for (Operation operation : port.binding().operations()) {
            Call call = (Call) service.createCall(
                    new QName(name.getNamespaceURI(), port.name()),
                    operation.key().replaceAll("[^A-Za-z].*", ""));
            String sample = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL).stream()
                    .filter(s -> s.direction() == SampleEnvelope.Direction.REQUEST)
                    .findFirst()
                    .orElseThrow()
                    .text();
            SOAPEnvelope answer =
                    call.invoke(new SOAPEnvelope(new ByteArrayInputStream(sample.getBytes(StandardCharsets.UTF_8))));
            SoapMessage read = SoapMessage.parse(answer.toString().getBytes(StandardCharsets.UTF_8), "answer");
            assertThat(read.fault()).as(operation.key()).isEmpty();
            assertThat(read.payload().orElseThrow().getLocalName()).endsWith("Response");
        }
        assertThat(host.unmatched()).isZero();
    }
}
