package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Stays;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class MockHostTest {
    private final Contract stay = Contracts.stay();
    private final EventLoops loops = new EventLoops("test", 1);
    private final HttpCaller caller = new HttpCaller();
    private final List<Exchange> recorded = new CopyOnWriteArrayList<>();
    private final List<MockHost> hosts = new ArrayList<>();

    @AfterEach
    void close() {
        hosts.forEach(MockHost::close);
        loops.close();
        caller.close();
    }

    private MockHost start(MockPlan plan) {
        MockHost host = MockHost.start(
                stay,
                plan,
                MockSurroundings.alone(loops, new Expressions(), made -> recorded.add(made.get()), e -> {}));
        hosts.add(host);
        return host;
    }

    private MockPlan plan() {
        return MockPlan.of("stay", stay, 0);
    }

    private CallResult post(String address, String envelope, String action) {
        boolean second = envelope.contains(SoapVersion.V12.namespace());
        String type = (second ? SoapVersion.V12 : SoapVersion.V11).contentType("");
        return caller.call(
                new CallRequest(
                        "POST",
                        URI.create(address),
                        List.of(new Header("Content-Type", type), new Header("SOAPAction", "\"" + action + "\"")),
                        Content.of(envelope.getBytes(StandardCharsets.UTF_8)),
                        Duration.ofSeconds(60)),
                new StopSignal());
    }

    /** The exchanges recorded, once there are so many: a client has its answer before the ledger has its record. */
    private List<Exchange> recorded(int count) throws InterruptedException {
        for (int i = 0; i < 500 && recorded.size() < count; i++) {
            Thread.sleep(10);
        }
        return recorded;
    }

    private static String envelope(String payload) {
        return Envelope.around(SoapVersion.V11, payload, List.of());
    }

    private static SoapMessage soap(CallResult result) {
        return SoapMessage.of(result.response().orElseThrow(), "answer");
    }

    @Test
    void everyOperationIsAnsweredWithAValidSample() {
        MockHost host = start(plan());
        SoapMessage answer = soap(post(host.addresses().get("StaySoap11"), envelope(Stays.BODY), "urn:stay:book"));
        assertThat(answer.payload().orElseThrow().getLocalName()).isEqualTo("BookResponse");
        assertThat(answer.version()).isEqualTo(SoapVersion.V11);
        assertThat(host.hits("Book")).isEqualTo(1);
        assertThat(host.answered()).isEqualTo(1);
    }

    @Test
    void theAnswerSpeaksTheVersionOfTheRequest() {
        MockHost host = start(plan());
        CallResult result =
                post(host.addresses().get("StaySoap12"), Envelope.around(SoapVersion.V12, Stays.BODY, List.of()), "");
        assertThat(soap(result).version()).isEqualTo(SoapVersion.V12);
        assertThat(result.response().orElseThrow().header("Content-Type"))
                .contains("application/soap+xml; charset=utf-8");
    }

    @Test
    void aOneWayOperationIsAccepted() {
        MockHost host = start(plan());
        CallResult result = post(
                host.addresses().get("StaySoap11"),
                envelope("<Tell xmlns='urn:northfell:stay'><what>x</what></Tell>"),
                "urn:stay:tell");
        assertThat(result.response().orElseThrow().status()).isEqualTo(202);
        assertThat(result.response().orElseThrow().body().isEmpty()).isTrue();
    }

    @Test
    void aConditionLeadsToAFaultAndOnlyThen() throws InterruptedException {
        var fault =
                stay.operation("Book", null).orElseThrow().operation().faults().get(0);
        List<MockAnswer> answers = new ArrayList<>(plan().of("Book"));
        answers.add(MockPlan.fault(stay, fault, "$request//nights > 7"));
        MockHost host = start(plan().withAnswers("Book", answers));
        String address = host.addresses().get("StaySoap11");
        assertThat(soap(post(address, envelope(Stays.BODY), "")).fault()).isEmpty();
        CallResult refused = post(address, envelope(Stays.BODY.replace("nights>2", "nights>9")), "");
        assertThat(soap(refused).fault().orElseThrow().title()).isEqualTo("Full");
        assertThat(refused.response().orElseThrow().status()).isEqualTo(500);
        assertThat(host.answerHits("Book")).containsExactly(1L, 1L);
        assertThat(recorded(2))
                .extracting(Exchange::outcome)
                .containsExactly(Exchange.Outcome.FINE, Exchange.Outcome.FAULT);
    }

    @Test
    void anAnswerTakesValuesFromTheRequest() {
        MockHost host = start(
                plan().withAnswers(
                                "Book",
                                List.of(
                                        MockAnswer.otherwise(
                                                "echo",
                                                "<s:BookResponse xmlns:s='urn:northfell:stay'><s:code>{$request//hutId}-{$hits}</s:code><s:total>{92.25 * number($request//nights)}</s:total></s:BookResponse>"))));
        SoapMessage answer = soap(post(host.addresses().get("StaySoap11"), envelope(Stays.BODY), ""));
        assertThat(answer.payload().orElseThrow().getTextContent()).isEqualTo("NF-07-1184.5");
    }

    @Test
    void whatNothingMatchesIsExplainedToClientAndUser() throws InterruptedException {
        MockHost host = start(plan());
        CallResult result = post(host.addresses().get("StaySoap11"), envelope("<Other xmlns='urn:x'/>"), "");
        assertThat(soap(result).fault().orElseThrow().reason())
                .isEqualTo("No operation of this contract takes {urn:x}Other. It knows Book, Tell.");
        assertThat(host.latest().get(0).why()).contains("{urn:x}Other");
        assertThat(host.unmatched()).isEqualTo(1);
        assertThat(recorded(1).get(0).outcome()).isEqualTo(Exchange.Outcome.FAILED);
    }

    @Test
    void nonsenseIsRefusedWithAReason() {
        MockHost host = start(plan());
        String address = host.addresses().get("StaySoap11");
        assertThat(soap(post(address, "<a", "")).fault().orElseThrow().reason()).contains("not well-formed");
        assertThat(soap(post(address, "<a/>", "")).fault().orElseThrow().reason())
                .contains("not a SOAP envelope");
        assertThat(post(host.base() + "/elsewhere", envelope(Stays.BODY), "")
                        .response()
                        .orElseThrow()
                        .status())
                .isEqualTo(404);
    }

    @Test
    void itsOwnWsdlLeadsToItselfAndReadsTheSame() {
        MockHost host = start(plan());
        Contract read = new ContractReader(HttpFetcher.forEverything(caller, 1 << 20))
                .read(host.wsdl(), Progress.NONE, new StopSignal());
        assertThat(read.findings())
                .extracting(f -> f.rule() + f.text())
                .isEqualTo(
                        stay.findings().stream().map(f -> f.rule() + f.text()).toList());
        assertThat(read.ports())
                .extracting(p -> p.address().orElseThrow())
                .containsExactlyElementsOf(host.addresses().values());
        assertThat(read.operations().keySet()).isEqualTo(stay.operations().keySet());
    }

    @Test
    void theLedgerGetsTheVeryBytes() throws InterruptedException {
        MockHost host = start(plan());
        CallResult result = post(host.addresses().get("StaySoap11"), envelope(Stays.BODY), "urn:stay:book");
        assertThat(recorded(1)).singleElement().satisfies(e -> {
            assertThat(e.request().wire().bytes())
                    .isEqualTo(result.request().wire().bytes());
            assertThat(e.response().orElseThrow().wire().bytes())
                    .isEqualTo(result.response().orElseThrow().wire().bytes());
            assertThat(e.operation()).isEqualTo("Book");
            assertThat(e.way()).isEqualTo(Exchange.Way.ANSWERED);
        });
    }

    @Test
    void aPlanIsReplacedWhileItRuns() {
        MockHost host = start(plan());
        host.replace(plan().withAnswers("Book", List.of(MockAnswer.otherwise("other", "<x xmlns='urn:new'/>"))));
        assertThat(soap(post(host.addresses().get("StaySoap11"), envelope(Stays.BODY), ""))
                        .payload()
                        .orElseThrow()
                        .getLocalName())
                .isEqualTo("x");
    }

    @Test
    void aDelayIsKept() {
        MockHost host = start(
                plan().withAnswers("Book", List.of(plan().of("Book").get(0).withDelay(150))));
        assertThat(post(host.addresses().get("StaySoap11"), envelope(Stays.BODY), "")
                        .timing()
                        .await())
                .isGreaterThan(140_000_000L);
    }

    @Test
    void aTakenPortIsExplainedWithAFreeOne() throws Exception {
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            assertThatThrownBy(() -> start(plan().withPort(taken.getLocalPort())))
                    .isInstanceOf(Problem.class)
                    .hasMessageMatching(
                            "Port " + taken.getLocalPort() + " is in use by .*\\. Use \\d+, which is free.*")
                    .extracting(p -> ((Problem) p).kind())
                    .isEqualTo(Problem.Kind.PORT_TAKEN);
        }
    }
}
