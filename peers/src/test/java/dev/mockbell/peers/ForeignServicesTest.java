package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Remarks;
import dev.mockbell.compare.Comparison;
import dev.mockbell.content.Content;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.WireText;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.request.Attachment;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.schema.SecondValidator;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.validation.SampleJudge;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.xml.XmlText;
import jakarta.xml.ws.soap.MTOMFeature;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Named;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.w3c.dom.Element;

/** Every operation of services on other SOAP stacks, sampled whole from the WSDL they publish, and called with the samples. */
class ForeignServicesTest {
    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();

    /** This one writes items of arrays in beans under another name than its own contract gives them. */
    private static final String BREAKS_ITS_CONTRACT = "/Literal?wsdl";

    static Stream<Named<Supplier<Peer>>> peers() {
        return Stream.of(
                Named.of("Metro, wrapped", () -> Peer.metro(new Wrapped())),
                Named.of("Metro, bare, SOAP 1.2", () -> Peer.metro(new Bare())),
                Named.of("Metro, rpc/literal", () -> Peer.metro(new Rpc())),
                Named.of("CXF, wrapped", () -> Peer.cxf(new Wrapped())),
                Named.of("CXF, bare, SOAP 1.2", () -> Peer.cxf(new Bare())),
                Named.of("CXF, rpc/literal", () -> Peer.cxf(new Rpc())),
                Named.of("Metro, MTOM", () -> Peer.metro(new Photos(), new MTOMFeature(0))),
                Named.of("CXF, MTOM", () -> Peer.cxfWithParts(new Photos())),
                Named.of("Axis 1.4, rpc/encoded", () -> Peer.axis("Encoded")),
                Named.of("Axis 1.4, wrapped", () -> Peer.axis("Literal")));
    }

    @AfterEach
    void close() {
        http.close();
    }

    private Contract read(Peer peer) {
        HttpFetcher fetcher = new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE);
        return new ContractReader(fetcher).read(peer.wsdl(), Progress.NONE, new StopSignal());
    }

    @ParameterizedTest
    @MethodSource("peers")
    void itsContractIsReadWithoutErrorsAndSampledWhole(Supplier<Peer> made) {
        try (Peer peer = made.get()) {
            Contract contract = read(peer);
            assertThat(contract.findings())
                    .filteredOn(f -> f.severity() == Severity.ERROR)
                    .isEmpty();
            assertThat(contract.operations()).hasSizeGreaterThan(1);
            SampleJudge judge = new SampleJudge(contract);
            SecondValidator second = new SecondValidator(contract.schemas());
            for (Port port : contract.soapPorts()) {
                for (Operation operation : port.binding().operations()) {
                    for (Detail detail : Detail.values()) {
                        for (SampleEnvelope sample : SampleEnvelope.of(contract, port.binding(), operation, detail)) {
                            assertThat(judge.breaches(operation, sample))
                                    .as(sample.text())
                                    .isEmpty();
                            assertThat(sample.notes()).as(sample.text()).isEmpty();
                            global(contract, sample)
                                    .ifPresent(payload -> assertThat(second.errors(payload))
                                            .as(payload)
                                            .isEmpty());
                        }
                    }
                }
            }
        }
    }

    /** The payload where a schema declares it, so that it can be judged alone. */
    private static Optional<String> global(Contract contract, SampleEnvelope sample) {
        SoapMessage message = SoapMessage.parse(sample.text().getBytes(StandardCharsets.UTF_8), "sample");
        return message.payloadDocument()
                .filter(d -> contract.schemas()
                        .element(new javax.xml.namespace.QName(
                                String.valueOf(d.getDocumentElement().getNamespaceURI()),
                                d.getDocumentElement().getLocalName()))
                        .isPresent())
                .map(XmlText::exact);
    }

    @ParameterizedTest
    @MethodSource("peers")
    void everyOperationTakesTheSampleAndItsAnswerIsValid(Supplier<Peer> made) {
        try (Peer peer = made.get()) {
            Contract contract = read(peer);
            CaseCaller caller = new CaseCaller(http, expressions);
            contract.operations().forEach((key, ports) -> {
                for (Port port : ports) {
                    for (Detail detail : Detail.values()) {
                        call(contract, caller, port, key, detail);
                    }
                }
            });
        }
    }

    private Exchange call(Contract contract, CaseCaller caller, Port port, String key, Detail detail) {
        BoundOperation bound =
                new BoundOperation(port, port.binding().operation(key).orElseThrow());
        Case made = Case.ofSample("", "", "peer", contract, bound, detail);
        Exchange sent = sent(caller, CallSetup.plain(contract, bound, made, Optional.empty()));
        String name =
                port.name() + " " + key + " " + detail + "\n" + made.request().body();
        Answer answer = Answer.of(sent, MessageOutline.ofAnswer(contract, bound.operation()), expressions);
        assertThat(answer.exchange().outcome())
                .as("%s: %s %s", name, answer.exchange().note(), answer.fault())
                .isEqualTo(Outcome.FINE);
        if (contract.source().endsWith(BREAKS_ITS_CONTRACT)) {
            return sent;
        }
        if (bound.operation().pattern() == Operation.Pattern.ONE_WAY) {
            assertThat(sent.response().orElseThrow().status()).isIn(200, 202);
            return sent;
        }
        SoapMessage response = SoapMessage.of(sent.response().orElseThrow(), "the answer");
        assertThat(new MessageValidator(contract.schemas())
                        .validate(
                                MessageOutline.ofAnswer(contract, bound.operation())
                                        .orElseThrow(),
                                response))
                .as(name + "\n" + XmlText.exact(response.document()))
                .isEmpty();
        looked(name, answer);
        return sent;
    }

    /** What somebody who reads it gets to see: nothing to remark, its rows without a flaw, its bytes as text. */
    private static void looked(String name, Answer answer) {
        assertThat(Remarks.of(answer).words()).as(name).isEmpty();
        answer.content().ifPresent(content -> {
            Sheet sheet = Sheet.openReceived(answer.outline().orElseThrow(), content);
            assertThat(sheet.root().orElseThrow().tally().first()).as(name).isEmpty();
            Element root = content.getDocumentElement();
            assertThat(Comparison.of(root, root, Set.of()).isSame()).as(name).isTrue();
        });
        WireText wire = WireText.of(answer.exchange().response().orElseThrow(), Optional.empty(), 1 << 20);
        assertThat(wire.bytes()).as(name).startsWith("HTTP/1.").contains("Envelope");
    }

    private static Exchange sent(CaseCaller caller, CallSetup setup) {
        return caller.send(caller.prepare(setup), "test", new StopSignal()).last();
    }

    @Test
    void anAnswerInPartsIsReadAsTheContractHasIt() {
        try (Peer peer = Peer.cxfWithParts(new Photos())) {
            Contract contract = read(peer);
            CaseCaller caller = new CaseCaller(http, expressions);
            Port port = contract.operations().get("photo").get(0);
            Exchange sent = call(contract, caller, port, "photo", Detail.FULL);
            assertThat(sent.response().orElseThrow().attachments()).hasSize(1);
            SoapMessage answer = SoapMessage.of(sent.response().orElseThrow(), "the answer");
            byte[] photo = Base64.getDecoder()
                    .decode(answer.payload().orElseThrow().getTextContent().strip());
            assertThat(new String(photo, StandardCharsets.UTF_8)).startsWith("a photo of ");
        }
    }

    static Stream<Named<Supplier<Peer>>> peersWithParts() {
        return Stream.of(
                Named.of("Metro", () -> Peer.metro(new Photos(), new MTOMFeature(0))),
                Named.of("Metro, SOAP 1.2", () -> Peer.metro(new Photos12(), new MTOMFeature(0))),
                Named.of("CXF", () -> Peer.cxfWithParts(new Photos())),
                Named.of("CXF, SOAP 1.2", () -> Peer.cxfWithParts(new Photos12())));
    }

    @ParameterizedTest
    @MethodSource("peersWithParts")
    void aValueThatGoesAsAPartComesBack(Supplier<Peer> made) {
        try (Peer peer = made.get()) {
            Contract contract = read(peer);
            for (Port port : contract.operations().get("copy")) {
                BoundOperation bound = new BoundOperation(
                        port, port.binding().operation("copy").orElseThrow());
                Case sample = Case.ofSample("", "", "peer", contract, bound, Detail.FULL);
                String body = sample.body().replaceAll("(<(\\w+:)?photo>)[^<]*<", "$1cid:map@huts<");
                Attachment map = new Attachment(
                        "map@huts",
                        "image/png",
                        Content.of("map of the huts".repeat(9_000).getBytes(StandardCharsets.UTF_8)));
                CaseCaller caller = new CaseCaller(http, expressions);
                CallSetup setup = CallSetup.plain(contract, bound, sample.withBody(body), Optional.empty());
                Exchange sent = sent(caller, setup.with(List.of(map)));
                assertThat(sent.request().attachments()).hasSize(1);
                SoapMessage answer = SoapMessage.of(sent.response().orElseThrow(), "the answer");
                assertThat(answer.fault()).isEmpty();
                assertThat(Base64.getDecoder()
                                .decode(answer.payload()
                                        .orElseThrow()
                                        .getTextContent()
                                        .strip()))
                        .isEqualTo(map.content().bytes());
            }
        }
    }
}
