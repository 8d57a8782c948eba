package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.report.LoadCsv;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.Trust;
import dev.mockbell.wire.jms.ProviderJars;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LoadEngineTest {
    private final EventLoops loops = new EventLoops("test", 2);
    private final LoadEngine engine = new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false);
    private final List<Exchange> failures = new CopyOnWriteArrayList<>();
    private final List<LoadSecond> seconds = new CopyOnWriteArrayList<>();
    private final LoadListener listener = new LoadListener() {
        @Override
        public void second(LoadSecond second) {
            seconds.add(second);
        }

        @Override
        public void failure(Exchange exchange) {
            failures.add(exchange);
        }
    };

    @AfterEach
    void close() {
        loops.close();
    }

    private static LoadPlan plan(LoadShape shape, Limit... limits) {
        return LoadPlan.of("p", "P", "s", shape)
                .with(Conduct.USUAL.withTimeout(2_000))
                .withLimits(List.of(limits));
    }

    private LoadRun run(LoadPlan plan, String address, Case... cases) {
        return engine.run(
                plan,
                Stays.bench(address, Map.of("nights", "2"), cases),
                host -> true,
                listener,
                new LoadControl(new StopSignal()));
    }

    @Test
    void arrivalsComeAtTheirRateAndAllAreAnswered() {
        Case kept = Stays.book("c", Stays.BODY, List.of(new Check.NoFault()));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            LoadRun run =
                    run(plan(LoadShape.arrivals(50, 1), new Limit(Limit.Measure.FAILED, 1)), server.address(), kept);
            assertThat(run.total().done()).isEqualTo(50);
            assertThat(run.total().failed()).isZero();
            assertThat(run.passed()).isTrue();
            assertThat(server.requests()).hasSize(50).allMatch(r -> r.contains("SOAPAction: \"urn:stay:book\""));
            assertThat(LoadCsv.steps(run).lines()).hasSize(3).anyMatch(l -> l.startsWith("all,50,0,"));
        }
    }

    @Test
    void aStallCountsAgainstEveryArrivalThatWasDueInIt() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        AtomicLong until = new AtomicLong();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            until.compareAndSet(0, System.nanoTime() + 700_000_000L);
            long left = until.get() - System.nanoTime();
            if (left > 0) {
                Thread.sleep(left / 1_000_000);
            }
            out.write(PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8));
        })) {
            LoadRun run = run(plan(LoadShape.arrivals(40, 1)), server.address(), kept);
            assertThat(run.total().done()).isEqualTo(40);
            assertThat(run.total().max()).isGreaterThan(600);
            assertThat(run.total().p50()).isGreaterThan(80);
        }
    }

    private LoadRun run(String address, Profile profile, Case kept) {
        return engine.run(
                plan(LoadShape.arrivals(20, 1)),
                Stays.bench(address, Map.of(), Optional.of(profile), kept),
                host -> true,
                listener,
                new LoadControl(new StopSignal()));
    }

    private static PlainServer secure(Certificates certificates) {
        return PlainServer.secure(
                certificates.server(),
                (request, out, socket) ->
                        out.write(PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8)));
    }

    private static String fingerprint(Path folder) throws Exception {
        KeyStore keys =
                KeyStore.getInstance(folder.resolve("elsewhere.example.p12").toFile(), "changeit".toCharArray());
        return Trust.fingerprint((X509Certificate) keys.getCertificate("test"));
    }

    @Test
    void aProfileLogsInAtOnceAndTrustsItsCertificates(@TempDir Path folder) throws Exception {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        Certificates certificates = Certificates.of("elsewhere.example", folder);
        String fingerprint = fingerprint(folder);
        try (PlainServer server = secure(certificates)) {
            Profile anna = Profile.named("Anna").with(new Profile.Who(Profile.Way.BASIC, "anna", "a{{b"));
            LoadRun trusted = run(server.address(), anna.trusting(fingerprint), kept);
            assertThat(trusted.total().failed()).isZero();
            assertThat(server.requests()).allMatch(r -> r.contains("Authorization: Basic YW5uYTphe2I="));
            LoadRun stranger = run(server.address(), anna, kept);
            assertThat(stranger.total().failed()).isEqualTo(stranger.total().done());
        }
        Profile asked = Profile.named("Asked").with(new Profile.Who(Profile.Way.WHEN_ASKED, "anna", "x"));
        assertThatThrownBy(() -> run("http://127.0.0.1:1/", asked, kept))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("Under load nobody is asked to log in");
    }

    @Test
    void itGetsUpToSpeedByTlsForATargetThatSpeaksItWhichHearsNothingOfThat(@TempDir Path folder) throws Exception {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        Certificates certificates = Certificates.of("elsewhere.example", folder);
        String fingerprint = fingerprint(folder);
        try (PlainServer server = secure(certificates)) {
            LoadRun run = new LoadEngine(loops, new Expressions())
                    .run(
                            plan(LoadShape.arrivals(20, 1)),
                            Stays.bench(
                                    server.address(),
                                    Map.of(),
                                    Optional.of(Profile.named("Own").trusting(fingerprint)),
                                    kept),
                            host -> true,
                            listener,
                            new LoadControl(new StopSignal()));
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(server.requests()).hasSize(20);
        }
    }

    @Test
    void anAnswerThatIsNotSecuredAsItsProfileWantsFails() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        Profile judging = Profile.named("Judging").with(Protection.NONE.facing("", true));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            LoadRun run = run(server.address(), judging, kept);
            assertThat(run.total().failed()).isEqualTo(run.total().done()).isEqualTo(20);
            assertThat(run.reasons().keySet()).singleElement().asString().contains("has no security header");
        }
    }

    @Test
    void usersGoRoundUntilTheTimeIsUp() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            Thread.sleep(100);
            out.write(PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8));
        })) {
            LoadRun run = run(plan(LoadShape.users(3, 1)), server.address(), kept);
            assertThat(run.total().done()).isBetween(12L, 33L);
        }
    }

    @Test
    void capturesAreCarriedAndChecksHold() {
        Case first = Stays.book("first", Stays.BODY, List.of(new Check.Valid()), new Capture("code", "//code"));
        Case second = Stays.book(
                "second", Stays.BODY.replace("Ines Okafor", "{$code}").replace(">2<", ">{$nights}<"), List.of());
        Case third = Stays.book("third", Stays.BODY.replace("Ines Okafor", "{upper-case($code)}"), List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("r-42", "1")))) {
            LoadRun run = run(plan(LoadShape.arrivals(10, 1)), server.address(), first, second, third);
            assertThat(run.total().failed()).isZero();
            assertThat(run.steps()).extracting(StepFigures::done).containsExactly(10L, 10L, 10L);
            assertThat(server.requests())
                    .anyMatch(r -> r.contains(">r-42<") && r.contains(">2<"))
                    .anyMatch(r -> r.contains(">R-42<"));
        }
    }

    @Test
    void failuresAreCountedByReasonAndKeptWhole() {
        String fault =
                "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault><faultcode>e:Server</faultcode>"
                        + "<faultstring>x</faultstring><detail><Full xmlns=\"urn:northfell:stay\"><left>0</left></Full></detail></e:Fault></e:Body></e:Envelope>";
        Case kept = Stays.book("c", Stays.BODY, List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(fault).replace("200 OK", "500 No"))) {
            LoadRun run =
                    run(plan(LoadShape.arrivals(20, 1), new Limit(Limit.Measure.FAILED, 1)), server.address(), kept);
            assertThat(run.reasons()).containsExactly(Map.entry("fault Full", 20L));
            assertThat(run.passed()).isFalse();
            assertThat(failures).hasSize(20).allSatisfy(e -> {
                assertThat(e.note()).isEqualTo("fault Full");
                assertThat(e.request().text()).contains("st:Book");
                assertThat(e.response().orElseThrow().text()).isEqualTo(fault);
            });
        }
    }

    @Test
    void nobodyThereIsAFailureNotAStandstill() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        LoadRun run =
                run(plan(LoadShape.arrivals(10, 1), new Limit(Limit.Measure.P95, 1_000)), "http://127.0.0.1:1/", kept);
        assertThat(run.reasons()).containsOnlyKeys("Nothing answers at 127.0.0.1:1");
        assertThat(run.total().failed()).isEqualTo(10);
    }

    @Test
    void noAnswerInTimeIsAFailure() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.arrivals(5, 1)).with(Conduct.USUAL.withTimeout(300));
        try (PlainServer server = PlainServer.that((request, out, socket) -> Thread.sleep(5_000))) {
            LoadRun run = run(plan, server.address(), kept);
            assertThat(run.reasons()).containsOnlyKeys("no answer in 300 ms");
        }
    }

    @Test
    void aStopEndsTheRunSoonAndKeepsWhatWasMeasured() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        StopSignal stop = new StopSignal();
        List<Long> seen = new ArrayList<>();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8));
            stop.stop();
        })) {
            LoadRun run = engine.run(
                    plan(LoadShape.arrivals(20, 60)),
                    Stays.bench(server.address(), Map.of(), kept),
                    host -> true,
                    listener,
                    new LoadControl(stop));
            seen.add(run.total().done());
            assertThat(run.stopped()).isTrue();
            assertThat(run.seconds()).isLessThan(10);
        }
    }

    @Test
    void secondsTellOfTheRunAsItGoes() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            LoadRun run = run(plan(LoadShape.arrivals(4, 2)), server.address(), kept);
            assertThat(seconds).as("the last second too").hasSize(2);
            assertThat(seconds.stream().mapToLong(LoadSecond::done).sum())
                    .isEqualTo(run.total().done())
                    .isEqualTo(8);
            assertThat(run.seconds()).as("as long as the plan says").isGreaterThanOrEqualTo(2);
            assertThat(seconds.get(0).second()).isEqualTo(1);
            assertThat(seconds.get(0).buckets().stream()
                            .mapToLong(Long::longValue)
                            .sum())
                    .isEqualTo(seconds.get(0).done());
        }
    }
}
