package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.xml.ws.developer.MemberSubmissionAddressingFeature;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.request.Delivery;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.soap.Addressing;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import jakarta.xml.ws.soap.AddressingFeature;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.apache.cxf.transport.common.gzip.GZIPFeature;
import org.apache.cxf.ws.addressing.WSAddressingFeature;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Named;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Services that go by WS-Addressing, and such that compress. */
class AddressedServicesTest {
    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();

    @AfterEach
    void close() {
        http.close();
    }

    private Exchange call(Peer made, String operation, Delivery delivery) {
        try (Peer peer = made) {
            HttpFetcher fetcher = new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE);
            Contract contract = new ContractReader(fetcher).read(peer.wsdl(), Progress.NONE, new StopSignal());
            Port port = contract.soapPorts().get(0);
            BoundOperation bound =
                    new BoundOperation(port, port.binding().operation(operation).orElseThrow());
            Case kept = Case.ofSample("", "", "peer", contract, bound, Detail.STARTING)
                    .withDelivery(delivery);
            CaseCaller caller = new CaseCaller(http, expressions);
            return caller.send(
                            caller.prepare(CallSetup.plain(contract, bound, kept, Optional.empty())),
                            "test",
                            new StopSignal())
                    .answer(MessageOutline.ofAnswer(contract, bound.operation()), expressions)
                    .exchange();
        }
    }

    private static void isFine(Exchange exchange) {
        assertThat(exchange.outcome()).as(exchange.note()).isEqualTo(Outcome.FINE);
        assertThat(exchange.note()).isEmpty();
    }

    static Stream<Arguments> addressed() {
        return Stream.of(
                Arguments.of(
                        Named.of("Metro", (Supplier<Peer>)
                                () -> Peer.metro(new Wrapped(), new AddressingFeature(true, true))),
                        "areas",
                        Addressing.V10),
                Arguments.of(
                        Named.of("Metro, member submission", (Supplier<Peer>)
                                () -> Peer.metro(new Wrapped(), new MemberSubmissionAddressingFeature(true, true))),
                        "areas",
                        Addressing.V200408),
                Arguments.of(
                        Named.of("CXF", (Supplier<Peer>) () -> Peer.cxfWith(new Wrapped(), addressing())),
                        "areas",
                        Addressing.V10),
                Arguments.of(
                        Named.of("CXF, SOAP 1.2", (Supplier<Peer>) () -> Peer.cxfWith(new Bare(), addressing())),
                        "toFeet",
                        Addressing.V10),
                Arguments.of(
                        Named.of("CXF, member submission", (Supplier<Peer>)
                                () -> Peer.cxfWith(new Wrapped(), addressing())),
                        "areas",
                        Addressing.V200408));
    }

    private static WSAddressingFeature addressing() {
        WSAddressingFeature feature = new WSAddressingFeature();
        feature.setAddressingRequired(true);
        return feature;
    }

    @ParameterizedTest
    @MethodSource("addressed")
    void whoDemandsAddressingTakesOursAndItsAnswerRelatesToTheRequest(
            Supplier<Peer> made, String operation, Addressing addressing) {
        Exchange sent = call(made.get(), operation, Delivery.USUAL.with(addressing));
        isFine(sent);
        assertThat(sent.response().orElseThrow().text()).contains("RelatesTo").contains(addressing.namespace());
        assertThat(call(made.get(), operation, Delivery.USUAL.with(Addressing.NONE))
                        .outcome())
                .as("without")
                .isEqualTo(Outcome.FAULT);
    }

    @Test
    void whatTheContractDemandsIsSpokenWithoutBeingAskedFor() {
        Exchange sent = call(Peer.metro(new Wrapped(), new AddressingFeature(true, true)), "areas", Delivery.USUAL);
        isFine(sent);
        assertThat(sent.request().text()).contains(Addressing.V10.namespace());
    }

    @ParameterizedTest
    @MethodSource("compressions")
    void bothSidesMayCompress(Delivery.Compression compression) {
        GZIPFeature always = new GZIPFeature();
        always.setThreshold(0);
        Exchange sent = call(Peer.cxfWith(new Wrapped(), always), "areas", Delivery.USUAL.with(compression));
        isFine(sent);
        assertThat(sent.response().orElseThrow().header("Content-Encoding")).contains("gzip");
    }

    static Stream<Delivery.Compression> compressions() {
        return Stream.of(Delivery.Compression.NONE, Delivery.Compression.GZIP);
    }

    /** What stacks of others make of encodings and chunks. */
    @ParameterizedTest
    @MethodSource("peers")
    void encodingsAndChunksAreTaken(Supplier<Peer> made) {
        for (String charset : new String[] {"UTF-16", "ISO-8859-1"}) {
            isFine(call(
                    made.get(), "areas", Delivery.USUAL.in(charset).with(new dev.mockbell.wire.Framing(true, true))));
        }
    }

    static Stream<Named<Supplier<Peer>>> peers() {
        return Stream.of(
                Named.of("Metro", () -> Peer.metro(new Wrapped())), Named.of("CXF", () -> Peer.cxf(new Wrapped())));
    }
}
