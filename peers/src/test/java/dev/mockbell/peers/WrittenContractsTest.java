package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.Export;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Readdress;
import dev.mockbell.contract.Rewriting;
import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.project.ExportFile;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.written.PastedTable;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenRows;
import jakarta.xml.soap.MessageFactory;
import jakarta.xml.soap.MimeHeaders;
import jakarta.xml.soap.SOAPConstants;
import jakarta.xml.soap.SOAPMessage;
import jakarta.xml.ws.Dispatch;
import jakarta.xml.ws.Service;
import jakarta.xml.ws.spi.Provider;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Contracts that were written by hand, and ones written out under other names, as readers of other makes take them. */
class WrittenContractsTest {
    private static final String TABLE = """
            Name	Type	How often	Limits	What it means
            ReportItem	operation			Something was found & kept.
            takes
            hutId	text		NF-[0-9]{2}	where it was found
            item		1 to 20
              kind	one of		BOOT, POLE
              @wet	yes or no	may be left out
              photo	bytes	may be left out	as an attachment
            gives
            tag	text		L-[0-9]{4}
            fails with UnknownHut
            hutId	text
            session	header of the request
            token	text
            Discard	one-way
            takes
            tag	text
            """;

    @TempDir
    Path folder;

    private final EventLoops loops = new EventLoops("mock", 1);

    @AfterEach
    void close() {
        loops.close();
    }

    static Stream<Provider> clients() {
        return Stream.of(new com.sun.xml.ws.spi.ProviderImpl(), new org.apache.cxf.jaxws.spi.ProviderImpl());
    }

    private static WrittenDocuments lostAndFound() {
        return WrittenDocuments.of(WrittenContract.named("Lost and found")
                .withNamespace("urn:northfell:lost")
                .with(WrittenRows.operations(PastedTable.read(TABLE))));
    }

    private static Contract read(Path wsdl) {
        return new ContractReader(DocumentFetcher.files(1 << 20))
                .read(wsdl.toString(), Progress.NONE, new StopSignal());
    }

    private static SOAPMessage message(SampleEnvelope sample, SoapVersion version) throws Exception {
        MimeHeaders headers = new MimeHeaders();
        headers.addHeader("Content-Type", version.contentType(""));
        return MessageFactory.newInstance(
                        version == SoapVersion.V12 ? SOAPConstants.SOAP_1_2_PROTOCOL : SOAPConstants.SOAP_1_1_PROTOCOL)
                .createMessage(headers, new ByteArrayInputStream(sample.text().getBytes(StandardCharsets.UTF_8)));
    }

    /** Calls every operation of every port by what the WSDL at an address says of them. */
    private static void callAll(Provider client, Contract contract, String wsdl) throws Exception {
        QName service = contract.services().get(0).name();
        var delegate = client.createServiceDelegate(new java.net.URL(wsdl), service, Service.class);
        for (Port port : contract.httpPorts()) {
            for (Operation operation : port.binding().operations()) {
                Dispatch<SOAPMessage> dispatch = delegate.createDispatch(
                        new QName(service.getNamespaceURI(), port.name()), SOAPMessage.class, Service.Mode.MESSAGE);
                SampleEnvelope sample = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL).stream()
                        .filter(s -> s.direction() == SampleEnvelope.Direction.REQUEST)
                        .findFirst()
                        .orElseThrow();
                SOAPMessage request = message(sample, SoapVersion.of(new Contract.BoundOperation(port, operation)));
                if (operation.output().isEmpty()) {
                    dispatch.invokeOneWay(request);
                } else {
                    SOAPMessage answer = dispatch.invoke(request);
                    assertThat(answer.getSOAPBody()
                                    .extractContentAsDocument()
                                    .getDocumentElement()
                                    .getLocalName())
                            .as("%s at %s", operation.name(), port.name())
                            .isEqualTo(operation.name() + "Response");
                }
            }
        }
    }

    @ParameterizedTest
    @MethodSource("clients")
    void aWrittenContractIsCalledByTheWsdlOfItsMockInBothVersions(Provider client) throws Exception {
        Contract contract = lostAndFound().read(new StopSignal());
        try (MockHost host = MockHost.start(
                contract,
                MockPlan.sampling("lost", 0),
                MockSurroundings.alone(loops, new Expressions(), null, e -> {}))) {
            callAll(client, contract, host.wsdl());
            assertThat(host.unmatched()).isZero();
            assertThat(host.answered()).isEqualTo(4);
        }
    }

    @ParameterizedTest
    @MethodSource("clients")
    void itsFilesAndThoseWrittenOutUnderOtherNamesAreReadFromTheDisk(Provider client) throws Exception {
        ExportFile.write(folder.resolve("written"), lostAndFound().files());
        Contract written = read(folder.resolve("written/lost-and-found.wsdl"));
        try (MockHost host = MockHost.start(
                written,
                MockPlan.sampling("lost", 0),
                MockSurroundings.alone(loops, new Expressions(), null, e -> {}))) {
            for (Export.Form form : List.of(Export.Form.REWRITTEN, Export.Form.SINGLE)) {
                Path out = folder.resolve(form.name() + client.getClass().getPackageName() + ".wsdl");
                Path wsdl = form == Export.Form.SINGLE
                        ? out
                        : folder.resolve(form.name()).resolve("lost-and-found.wsdl");
                Map<String, String> paths = host.addresses();
                Rewriting rewriting = Rewriting.of(
                        written,
                        address -> paths.values().stream()
                                .filter(p -> address.endsWith("-12") == p.endsWith("-12"))
                                .findFirst()
                                .orElse(address),
                        List.of("urn:northfell:renamed"),
                        "FoundAgain");
                ExportFile.write(
                        form == Export.Form.SINGLE ? out : wsdl.getParent(), Export.files(written, form, rewriting));
                Contract renamed = read(wsdl);
                assertThat(renamed.services().get(0).name())
                        .isEqualTo(new QName("urn:northfell:renamed", "FoundAgain"));
                QName service = renamed.services().get(0).name();
                var delegate = client.createServiceDelegate(wsdl.toUri().toURL(), service, Service.class);
                assertThat(delegate.getServiceName()).isEqualTo(service);
                delegate.getPorts()
                        .forEachRemaining(p -> assertThat(p.getLocalPart()).startsWith("LostAndFoundSoap1"));
            }
            callAll(client, written, host.wsdl());
        }
        assertThat(new Readdress(Optional.of("h"), Optional.empty(), Optional.empty(), Optional.of("https"))
                        .apply("http://127.0.0.1:8480/a"))
                .isEqualTo("https://h/a");
    }
}
