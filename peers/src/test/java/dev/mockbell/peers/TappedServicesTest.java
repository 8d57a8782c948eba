package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.wire.Trust;
import jakarta.xml.soap.MessageFactory;
import jakarta.xml.soap.MimeHeaders;
import jakarta.xml.soap.SOAPMessage;
import jakarta.xml.ws.BindingProvider;
import jakarta.xml.ws.Dispatch;
import jakarta.xml.ws.Service;
import jakarta.xml.ws.spi.Provider;
import java.io.ByteArrayInputStream;
import java.net.URI;
import java.net.URL;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Clients of other stacks read a service's contract through a tap and call by way of it. */
class TappedServicesTest {
    private final HttpCaller http = new HttpCaller();
    private final EventLoops loops = new EventLoops("tap", 1);
    private final List<Exchange> recorded = new CopyOnWriteArrayList<>();

    static Stream<Arguments> clientsAndServices() {
        return Stream.of(new com.sun.xml.ws.spi.ProviderImpl(), new org.apache.cxf.jaxws.spi.ProviderImpl())
                .flatMap(client -> Stream.<Supplier<Peer>>of(() -> Peer.metro(new Wrapped()), () -> Peer.cxf(new Rpc()))
                        .map(service -> Arguments.of(client, service)));
    }

    @AfterEach
    void close() {
        loops.close();
        http.close();
    }

    @ParameterizedTest
    @MethodSource("clientsAndServices")
    void aForeignClientCallsAForeignServiceThroughATap(Provider client, Supplier<Peer> service) throws Exception {
        try (Peer peer = service.get()) {
            Contract contract = new ContractReader(new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE))
                    .read(peer.wsdl(), Progress.NONE, new StopSignal());
            TapSurroundings around = new TapSurroundings(
                    loops,
                    made -> recorded.add(made.get()),
                    name -> null,
                    Trust.USUAL::context,
                    new Expressions(),
                    new OperationFinder(Map.of("peer", contract)));
            String endpoint = peer.wsdl().replaceFirst("\\?.*", "");
            try (TapHost tap = TapHost.start(TapPlan.to(URI.create(endpoint), 0), around, words -> {})) {
                called(client, contract, tap);
                Exchange call = recorded.stream()
                        .filter(e -> !e.operation().isEmpty())
                        .findFirst()
                        .orElseThrow();
                assertThat(call.way()).isEqualTo(Way.TAPPED);
                assertThat(call.contract()).isEqualTo("peer");
                assertThat(call.endpoint()).startsWith(endpoint);
                assertThat(call.status()).isEqualTo(200);
                assertThat(call.response().orElseThrow().text()).contains("Envelope");
                assertThat(recorded)
                        .as("its contract came by way of the tap too")
                        .hasSizeGreaterThan(1);
            }
        }
    }

    private static void called(Provider client, Contract contract, TapHost tap) throws Exception {
        Port port = contract.httpPorts().get(0);
        Operation operation = port.binding().operations().stream()
                .filter(o -> o.pattern() == Operation.Pattern.REQUEST_RESPONSE)
                .findFirst()
                .orElseThrow();
        QName name = contract.services().get(0).name();
        Dispatch<SOAPMessage> dispatch = client.createServiceDelegate(
                        new URL(tap.address() + "?wsdl"), name, Service.class)
                .createDispatch(
                        new QName(name.getNamespaceURI(), port.name()), SOAPMessage.class, Service.Mode.MESSAGE);
        assertThat(String.valueOf(dispatch.getRequestContext().get(BindingProvider.ENDPOINT_ADDRESS_PROPERTY)))
                .startsWith(tap.base());
        SampleEnvelope sample = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL).stream()
                .filter(s -> s.direction() == SampleEnvelope.Direction.REQUEST)
                .findFirst()
                .orElseThrow();
        MimeHeaders headers = new MimeHeaders();
        headers.addHeader("Content-Type", "text/xml; charset=utf-8");
        SOAPMessage answer = dispatch.invoke(MessageFactory.newInstance()
                .createMessage(headers, new ByteArrayInputStream(sample.text().getBytes(StandardCharsets.UTF_8))));
        assertThat(answer.getSOAPBody().hasFault()).isFalse();
        assertThat(answer.getSOAPBody().getFirstChild()).isNotNull();
    }
}
