package dev.mockbell.demo;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Protocol;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The stand-in, by way of the core: a peer that others wrote. */
class StandInTest {
    private static StandIn standIn;
    private static HttpCaller http;
    private static Project project;

    @TempDir
    static Path folder;

    @BeforeAll
    static void start() {
        standIn = StandIn.start(0, Clock.systemUTC());
        http = new HttpCaller();
        project =
                new DemoProject(standIn, HttpFetcher.forEverything(http, 1 << 20), Clock.systemUTC()).create(folder, 0);
    }

    @AfterAll
    static void stop() {
        standIn.close();
        http.close();
    }

    private static SuiteRunner.Called call(String reference, String port) {
        Expressions expressions = new Expressions();
        SuiteRunner runner = new SuiteRunner(
                ProjectBench.unknown(project),
                new CaseCaller(http, expressions),
                expressions,
                e -> e,
                Clock.systemUTC());
        var kept = project.kept("hut-booking/" + reference).orElseThrow().withPort(port);
        return runner.call(
                kept, kept.title(), "test", ProjectBench.unknown(project).variables(), new StopSignal());
    }

    @Test
    void itsContractReadsWithoutFindingsAndGivesBothAddresses() {
        Contract contract = new ContractReader(HttpFetcher.forEverything(http, 1 << 20))
                .read(standIn.wsdl(), Progress.NONE, new StopSignal());
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.documents()).hasSize(2);
        assertThat(contract.ports())
                .extracting(p -> p.address().orElseThrow())
                .containsExactly(standIn.soap11(), standIn.soap12());
        assertThat(contract.ports())
                .extracting(p -> p.binding().protocol())
                .containsExactly(Protocol.SOAP11, Protocol.SOAP12);
    }

    @ParameterizedTest
    @CsvSource({"HutBookingSoap11", "HutBookingSoap12"})
    void reservationsAreMadeByBothVersions(String port) {
        SuiteRunner.Called called = call("ReserveBunks/two-nights", port);
        assertThat(called.result().failures()).isEmpty();
        assertThat(called.result().captures().get("code")).matches("R-\\d{5}");
    }

    @ParameterizedTest
    @CsvSource({"ReserveBunks/hut-is-full, HutFull", "ReserveBunks/arrival-in-the-past, BadDate"})
    void faultsAreDeclaredOnes(String reference, String fault) {
        SuiteRunner.Called called = call(reference, "HutBookingSoap12");
        assertThat(called.answer().fault().orElseThrow().title()).isEqualTo(fault);
        assertThat(called.result().failures()).isEmpty();
    }

    @Test
    void aOneWayCallHasNoAnswerButAnEffect() throws InterruptedException {
        int before = standIn.sightings();
        SuiteRunner.Called called = call("ReportSighting/eagle", "HutBookingSoap11");
        assertThat(called.answer().exchange().status()).isEqualTo(202);
        assertThat(called.answer().exchange().outcome()).isEqualTo(Exchange.Outcome.FINE);
        for (int i = 0; i < 100 && standIn.sightings() == before; i++) {
            Thread.sleep(20);
        }
        assertThat(standIn.sightings()).isEqualTo(before + 1);
    }

    @Test
    void stateIsKeptThroughAWholeStay() {
        Expressions expressions = new Expressions();
        List<Exchange> kept = new ArrayList<>();
        Run run = new SuiteRunner(
                        ProjectBench.unknown(project),
                        new CaseCaller(http, expressions),
                        expressions,
                        e -> {
                            kept.add(e);
                            return e;
                        },
                        Clock.systemUTC())
                .run(project.suite("whole-stay").orElseThrow(), RunListener.NONE, new StopSignal());
        List<String> failures = run.steps().stream()
                .flatMap(s -> s.failures().stream())
                .filter(f -> !f.contains("within"))
                .toList();
        assertThat(failures).isEmpty();
        assertThat(kept).hasSize(6);
    }

    @Test
    void aTakenPortIsNoHindrance() throws Exception {
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
                StandIn other = StandIn.start(taken.getLocalPort(), Clock.systemUTC())) {
            assertThat(other.port()).isNotEqualTo(taken.getLocalPort());
            other.warmUp();
        }
    }
}
