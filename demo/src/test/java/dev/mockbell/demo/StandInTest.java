package dev.mockbell.demo;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.access.Profile;
import dev.mockbell.check.Verdict;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Protocol;
import dev.mockbell.demo.fronts.Front;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.Secrets;
import dev.mockbell.security.Token;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.PreparedCall;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.jms.JmsCaller;
import dev.mockbell.wire.jms.ProviderJars;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

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

    private static ProjectBench bench(String environment) {
        LocalProject local = new LocalProjects(folder.resolve("projects.yaml")).of(project.folder());
        Secrets secrets = new Secrets(folder.resolve("secrets.yaml"), DemoProject.secrets());
        return new ProjectBench(project.in(environment), local, secrets, new SecretHosts(Set.of()));
    }

    private static Run trail(String environment) {
        Expressions expressions = new Expressions();
        return new SuiteRunner(
                        bench(environment), new CaseCaller(http, expressions), expressions, e -> e, Clock.systemUTC())
                .run(project.suite("on-the-trail").orElseThrow(), RunListener.NONE, new StopSignal());
    }

    @Test
    void theTrailIsCalledByWayOfAQueueToo() {
        assertThat(standIn.isQueueUp()).isTrue();
        Expressions expressions = new Expressions();
        try (JmsCaller jms = new JmsCaller(ProviderJars.NONE)) {
            ProjectBench bench = bench("Local stand-in");
            SuiteRunner runner = new SuiteRunner(
                    bench, new CaseCaller(http, () -> jms, expressions), expressions, e -> e, Clock.systemUTC());
            var kept = project.kept("trail-conditions/Ping/via-queue").orElseThrow();
            var called = runner.call(kept, kept.title(), "test", bench.variables(), new StopSignal());
            assertThat(called.result().problem()).isEmpty();
            assertThat(called.result().verdict()).isEqualTo(dev.mockbell.check.Verdict.PASSED);
            assertThat(called.answer().exchange().endpoint()).startsWith("jms:queue:trail-conditions");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Local stand-in",
                "Behind Basic",
                "Behind Digest",
                "Behind TLS",
                "With a client certificate",
                "Signed and encrypted"
            })
    void everyOperationOnTheTrailIsCalledBehindEveryFront(String environment) {
        Run run = trail(environment);
        assertThat(run.steps()).allSatisfy(s -> assertThat(s.problem()).isEmpty());
        assertThat(run.passed())
                .as(run.steps().stream()
                        .flatMap(s -> s.failures().stream())
                        .toList()
                        .toString())
                .isTrue();
    }

    @ParameterizedTest
    @EnumSource(
            value = Front.class,
            names = {"BASIC", "DIGEST", "TLS", "CLIENT_CERTIFICATE", "SEALED"})
    void whoBringsNothingIsNotLetIn(Front front) {
        Expressions expressions = new Expressions();
        Case kept =
                project.kept("hut-booking/ListAreas/all-areas").orElseThrow().withSecurity(ProjectBench.NOBODY);
        SuiteRunner.Called called = new SuiteRunner(
                        bench(front.title()), new CaseCaller(http, expressions), expressions, e -> e, Clock.systemUTC())
                .call(kept, "", "test", bench(front.title()).variables(), new StopSignal());
        assertThat(called.result().verdict()).isEqualTo(Verdict.FAILED);
        int status = called.answer().exchange().status();
        assertThat(status).isEqualTo(front.secure() ? 0 : front == Front.SEALED ? 500 : 401);
    }

    @Test
    void aTokenIsGoodOnceAndItsPasswordMustBeRight() {
        Expressions expressions = new Expressions();
        CaseCaller caller = new CaseCaller(http, expressions);
        ProjectBench bench = bench("Local stand-in");
        Case ping = project.kept("trail-conditions/Ping/up").orElseThrow();
        PreparedCall call = caller.prepare(CallSetup.of(bench, ping, bench.variables()));
        assertThat(status(caller, call)).isEqualTo(200);
        assertThat(status(caller, call)).as("the same message again").isEqualTo(500);
        Profile wrong = bench.profile(ping, "TrailConditionsSoap11")
                .orElseThrow()
                .with(new Profile.Who(Profile.Way.NONE, "guide", "wrong"));
        PreparedCall refused =
                caller.prepare(CallSetup.of(bench, ping, bench.variables()).by(Optional.of(wrong)));
        assertThat(status(caller, refused)).isEqualTo(500);
        Profile text = bench.profile(ping, "TrailConditionsSoap11").orElseThrow();
        PreparedCall asText = caller.prepare(CallSetup.of(bench, ping, bench.variables())
                .by(Optional.of(text.with(text.message().with(Token.TEXT)))));
        assertThat(status(caller, asText)).isEqualTo(200);
    }

    @Test
    void aPhotoThatGoesAsAPartComesWithItsType() {
        Expressions expressions = new Expressions();
        ProjectBench bench = bench("Local stand-in");
        Case photo = project.kept("trail-conditions/UploadPhoto/a-cairn").orElseThrow();
        SuiteRunner.Called called = new SuiteRunner(
                        bench, new CaseCaller(http, expressions), expressions, e -> e, Clock.systemUTC())
                .call(photo, "", "test", bench.variables(), new StopSignal());
        assertThat(called.answer().exchange().request().attachments()).hasSize(1);
        assertThat(called.answer().document().getDocumentElement().getTextContent())
                .contains("image/png");
    }

    private static int status(CaseCaller caller, PreparedCall call) {
        return caller.send(call, "test", new StopSignal()).last().status();
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
