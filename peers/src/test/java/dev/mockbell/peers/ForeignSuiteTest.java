package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.KnownValues.Column;
import dev.mockbell.suite.KnownValues.Use;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Named;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A suite with most kinds of steps and checks, run against services on SOAP stacks that others wrote. */
class ForeignSuiteTest {
    private static final String RESERVE = """
            <p:reserve xmlns:p="urn:northfell:peers"><arrival>2027-02-17</arrival>%s<board>HALF</board></p:reserve>""";
    private static final String GUEST = "<guest vegetarian=\"%s\"><name>%s</name><age>34</age></guest>";
    private static final String TRACE = "<p:trace xmlns:p=\"urn:northfell:peers\">t-1</p:trace>";

    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();
    private final List<Exchange> ledger = new ArrayList<>();

    @TempDir
    Path folder;

    static Stream<Named<Supplier<Peer>>> peers() {
        return Stream.of(
                Named.of("Metro", () -> Peer.metro(new Wrapped())), Named.of("CXF", () -> Peer.cxf(new Wrapped())));
    }

    @AfterEach
    void close() {
        http.close();
    }

    private static Case kept(
            Contract contract, String id, String operation, String body, List<Check> checks, Capture... captures) {
        Port port = contract.operations().get(operation).get(0);
        BoundOperation bound =
                new BoundOperation(port, port.binding().operation(operation).orElseThrow());
        return Case.ofSample(id, id, "peer", contract, bound, Detail.REQUIRED)
                .withBody(body)
                .withSoapHeaders(operation.equals("reserve") ? TRACE : "")
                .withChecks(checks)
                .withCaptures(List.of(captures));
    }

    private static Step.Call call(Case kept) {
        return new Step.Call(kept.title(), true, kept.reference(), Optional.empty());
    }

    @ParameterizedTest
    @MethodSource("peers")
    void aSuiteOfEveryKindOfStepSaysWhatIsSo(Supplier<Peer> made) {
        try (Peer peer = made.get()) {
            Contract contract = new ContractReader(new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE))
                    .read(peer.wsdl(), Progress.NONE, new StopSignal());
            Case stay = kept(
                    contract,
                    "stay",
                    "reserve",
                    RESERVE.formatted(GUEST.formatted("true", "Ines Okafor") + GUEST.formatted("0", "Tomas Lindqvist")),
                    List.of(
                            new Check.Valid(),
                            new Check.NoFault(),
                            new Check.StatusIs("200"),
                            new Check.Value("//stay/arrival", "2027-02-17"),
                            new Check.Value("//guest[1]/@vegetarian", "true"),
                            new Check.Count("//guest", 2, 2),
                            new Check.Items("//guest/name", List.of("Tomas Lindqvist", "Ines Okafor"), false),
                            new Check.Each("//guest", true, "age = 34"),
                            new Check.Not(new Check.MessageText(Check.Match.HAS, "Fault"))),
                    new Capture("who", "//guest[1]/name"),
                    new Capture("all", "//guest", Capture.Takes.XML, false));
            Case again = kept(
                    contract,
                    "again",
                    "reserve",
                    RESERVE.formatted("{$all}"),
                    List.of(
                            new Check.Valid(),
                            new Check.Count("//guest", 2, 2),
                            new Check.Value("//guest[1]/name", "{$who}")));
            Case full = kept(
                    contract,
                    "full",
                    "reserve",
                    RESERVE.formatted(GUEST.formatted("false", "G").repeat(7)),
                    List.of(new Check.Valid(), new Check.FaultIs("HutFull"), new Check.StatusIs("500")));
            Case count = kept(
                    contract,
                    "count",
                    "count",
                    "<p:count xmlns:p=\"urn:northfell:peers\"><numbers>1</numbers><photo>QUJD</photo></p:count>",
                    List.of(new Check.Valid()));
            Case wrong = kept(
                    contract,
                    "wrong",
                    "areas",
                    "<p:areas xmlns:p=\"urn:northfell:peers\"/>",
                    List.of(
                            new Check.Items("//return", List.of("North", "West"), true),
                            new Check.Not(new Check.Valid())));
            List<Case> cases = List.of(stay, again, full, count, wrong);
            KnownValues known = new KnownValues(
                    new DataTable("rows", List.of("photo", "sum"), List.of(List.of("QUJD", "4"), List.of("", "9"))),
                    List.of(
                            new Column("photo", Use.SETS, "/count/photo"),
                            new Column("sum", Use.IS, "/countResponse/return")));
            Suite suite = new Suite(
                    "peer",
                    "Peer",
                    List.of(
                            call(stay),
                            new Step.Group("Twice", true, List.of(call(again))),
                            new Step.Until("Until", true, "count(//guest) = 2", 3, 0, List.of(call(again))),
                            new Step.ForEach(
                                    "Guests", true, Optional.empty(), "//guest/name", "each", List.of(call(again))),
                            call(full),
                            call(count).with(Optional.of(known)),
                            call(wrong)));
            Run run = run(contract, cases, suite);
            assertThat(run.steps().subList(0, 5))
                    .allSatisfy(s -> assertThat(s.failures()).isEmpty())
                    .allSatisfy(s -> assertThat(s.verdict()).isEqualTo(Verdict.PASSED));
            assertThat(run.steps().get(2).inner()).hasSize(1);
            assertThat(run.steps().get(3).inner()).hasSize(2);
            assertThat(run.steps().get(5).inner())
                    .extracting(r -> r.verdict())
                    .containsExactly(Verdict.PASSED, Verdict.FAILED);
            assertThat(run.steps().get(5).inner().get(1).failures().get(0)).contains("should be 9, found 1");
            assertThat(run.steps().get(6).failures())
                    .hasSize(2)
                    .first()
                    .asString()
                    .contains("should be North, West, found North, East");
            assertThat(ledger).hasSize(9);
        }
    }

    private Run run(Contract contract, List<Case> cases, Suite suite) {
        ProjectStore store = new ProjectStore();
        Path project = folder.resolve("project");
        store.create(project, "peers");
        store.saveContract(project, "peer", "Peer", contract, Instant.EPOCH);
        cases.forEach(c -> store.saveCase(project, c));
        return new SuiteRunner(
                        ProjectBench.unknown(store.open(project)),
                        new CaseCaller(http, expressions),
                        expressions,
                        e -> {
                            ledger.add(e);
                            return e.withId(ledger.size());
                        },
                        Clock.systemUTC())
                .run(suite, RunListener.NONE, new StopSignal());
    }
}
