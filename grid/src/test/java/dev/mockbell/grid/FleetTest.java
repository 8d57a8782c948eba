package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Variable;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.RowUse;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Stays;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.PlainServer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FleetTest {
    private static Crew crew;

    @TempDir
    Path folder;

    private PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")));

    @BeforeAll
    static void gather() {
        crew = new Crew(3);
    }

    @AfterAll
    static void end() {
        crew.close();
    }

    @AfterEach
    void close() {
        server.close();
    }

    private Path project() {
        return StayProject.in(folder, server.address(), Stays.BODY, List.of());
    }

    private static final class Heard implements LoadListener {
        private final List<LoadSecond> seconds = new CopyOnWriteArrayList<>();
        private final List<Exchange> failures = new CopyOnWriteArrayList<>();
        private final List<Phase> phases = new CopyOnWriteArrayList<>();
        private final BlockingQueue<LoadSecond> heard = new LinkedBlockingQueue<>();

        @Override
        public void second(LoadSecond second) {
            seconds.add(second);
            heard.add(second);
        }

        /** The next second that is as wanted, and none of those before it. */
        private LoadSecond awaited(Predicate<LoadSecond> wanted) {
            try {
                LoadSecond next = heard.poll(40, TimeUnit.SECONDS);
                while (next != null && !wanted.test(next)) {
                    next = heard.poll(40, TimeUnit.SECONDS);
                }
                assertThat(next).as("a second as wanted").isNotNull();
                return next;
            } catch (InterruptedException e) {
                throw new IllegalStateException(e);
            }
        }

        @Override
        public void failure(Exchange exchange) {
            failures.add(exchange);
        }

        @Override
        public void phase(Phase phase) {
            phases.add(phase);
        }
    }

    @Test
    void threeKeepTheCurveOfOneAndTheirFiguresAddUp() {
        Heard heard = new Heard();
        LoadRun run = crew.run(project(), StayProject.plan(LoadShape.arrivals(60, 3)), heard);
        assertThat(run.total().done()).isEqualTo(180);
        assertThat(run.total().failed()).isZero();
        assertThat(server.requests()).hasSize(180);
        assertThat(run.workers()).hasSize(3).allSatisfy(w -> {
            assertThat(w.total().done()).isEqualTo(60);
            assertThat(w.state()).isEqualTo(State.DONE);
            assertThat(w.clockError()).isBetween(0.0, 1_000.0);
            assertThat(w.cores()).isPositive();
            assertThat(w.history().stream().mapToLong(WorkerRun.Second::done).sum())
                    .isEqualTo(60);
        });
        assertThat(run.workers()).extracting(WorkerRun::name).doesNotHaveDuplicates();
        // all of all samples, not one of three
        assertThat(run.times().get(run.times().size() - 1).getTotalCount()).isEqualTo(180);
        assertThat(run.history()).hasSizeBetween(2, 4);
        assertThat(run.history().stream().mapToLong(LoadSecond::done).sum()).isBetween(60L, 180L);
        assertThat(run.history().get(0).intended()).isCloseTo(60, within(40L));
        assertThat(heard.seconds).hasSameSizeAs(run.history());
        assertThat(heard.phases).containsExactly(LoadListener.Phase.READYING, LoadListener.Phase.MEASURING);
        assertThat(run.warnings()).noneMatch(w -> w.contains("lost"));
    }

    @Test
    void eachRowIsTakenOnceByOneOfThem() throws Exception {
        StayProject.in(folder, server.address(), Stays.BODY.replace("NF-07", "{$hut}"), List.of());
        StringBuilder rows = new StringBuilder("hut\n");
        IntStream.range(0, 50).forEach(i -> rows.append(String.format("NF-%02d\n", i)));
        Files.writeString(folder.resolve("huts.csv"), rows);
        LoadPlan plan = StayProject.plan(LoadShape.arrivals(100, 60))
                .withRows(Optional.of(new RowUse("huts.csv", RowUse.Order.ONCE, false)));
        LoadRun run = crew.run(folder, plan);
        assertThat(run.total().done()).isEqualTo(50);
        assertThat(run.seconds()).isLessThan(30);
        List<String> huts = new ArrayList<>();
        for (String request : server.requests()) {
            Matcher hut = Pattern.compile("hutId>(NF-\\d\\d)<").matcher(request);
            assertThat(hut.find()).isTrue();
            huts.add(hut.group(1));
        }
        Collections.sort(huts);
        assertThat(huts).hasSize(50).doesNotHaveDuplicates();
    }

    @Test
    void countersGiveNoNumberTwiceAndSecretsComeAlongWithoutBeingWritten() throws Exception {
        StayProject.in(
                folder,
                server.address(),
                Stays.BODY.replace("NF-07", "{bell:counter('n')} {$secret:key}"),
                List.of(new Variable("key", "", true)));
        FleetOrder order = crew.order(
                folder, StayProject.plan(LoadShape.arrivals(40, 1)), Map.of("key", "kept-to-itself"), WhenLost.SHARE);
        assertThat(order.toString()).doesNotContain("kept-to-itself");
        LoadRun run = crew.gathering.run(order, LoadListener.NONE, new LoadControl(new StopSignal()));
        assertThat(run.total().done()).isEqualTo(40);
        List<String> numbers = new ArrayList<>();
        for (String request : server.requests()) {
            Matcher hut = Pattern.compile("hutId>(\\d+) kept-to-itself<").matcher(request);
            assertThat(hut.find()).as(request).isTrue();
            numbers.add(hut.group(1));
        }
        assertThat(numbers).doesNotHaveDuplicates().contains("1", "2", "3");
        List<Path> left = new ArrayList<>();
        // what others have in the folder of temporary files is none of ours, and may not be looked into
        try (var all = Files.newDirectoryStream(Path.of(System.getProperty("java.io.tmpdir")), "mockbell-worker-*")) {
            for (Path worker : all) {
                try (var files = Files.walk(worker)) {
                    files.filter(Files::isRegularFile).forEach(left::add);
                }
            }
        }
        assertThat(left).isNotEmpty().noneMatch(p -> contains(p, "kept-to-itself"));
    }

    private static boolean contains(Path file, String text) {
        try {
            return new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1).contains(text);
        } catch (java.io.IOException gone) {
            return false;
        }
    }

    @Test
    void failuresComeHomeWholeAndNoMoreThanWereToBeKept() {
        server.close();
        String fault = "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault>"
                + "<faultcode>e:Server</faultcode><faultstring>Hut full</faultstring></e:Fault></e:Body></e:Envelope>";
        server = PlainServer.says("HTTP/1.1 500 Internal Server Error\r\nContent-Type: text/xml\r\nX-Hut: NF-07\r\n"
                + "Content-Length: " + fault.length() + "\r\n\r\n" + fault);
        Heard heard = new Heard();
        LoadRun run = crew.run(project(), StayProject.plan(LoadShape.arrivals(60, 2)), heard);
        assertThat(run.total().failed()).isEqualTo(120);
        assertThat(run.reasons().values()).containsExactly(120L);
        assertThat(heard.failures).hasSize(20);
        Exchange one = heard.failures.get(0);
        assertThat(one.request().body().text(StandardCharsets.UTF_8)).contains("Ines Okafor");
        assertThat(one.response().orElseThrow().header("X-Hut")).contains("NF-07");
        assertThat(one.response().orElseThrow().body().text(StandardCharsets.UTF_8))
                .isEqualTo(fault);
        assertThat(one.outcome()).isEqualTo(Exchange.Outcome.FAULT);
        assertThat(one.contract()).isEqualTo("stay");
    }

    @Test
    void aBrokenLimitEndsAllOfThemLongBeforeTheirPlan() {
        server.close();
        server = PlainServer.says("HTTP/1.1 503 Service Unavailable\r\nContent-Length: 0\r\n\r\n");
        Limit limit = new Limit("", Limit.Measure.FAILED, 5, true, 0);
        long began = System.nanoTime();
        LoadRun run =
                crew.run(project(), StayProject.plan(LoadShape.arrivals(60, 60)).withLimits(List.of(limit)));
        assertThat((System.nanoTime() - began) / 1e9).isLessThan(50);
        assertThat(run.stopped()).isTrue();
        assertThat(run.passed()).isFalse();
        assertThat(run.seconds()).isLessThan(30);
        assertThat(run.warnings()).anyMatch(w -> w.contains("A limit that ends the run was broken"));
        long after = run.history().stream()
                .filter(second -> second.limits().stream().anyMatch(l -> !l.kept()))
                .count();
        assertThat(after).as("seconds from when it was broken").isBetween(1L, 6L);
    }

    @Test
    void stopEndsAllOfThemAndWhatWasDoneIsReported() {
        LoadControl control = new LoadControl(new StopSignal());
        Heard heard = new Heard();
        CompletableFuture<LoadRun> result = crew.start(
                crew.order(project(), StayProject.plan(LoadShape.arrivals(60, 60)), Map.of(), WhenLost.SHARE),
                heard,
                control);
        heard.awaited(second -> true);
        control.stop().stop();
        LoadRun run = result.orTimeout(30, TimeUnit.SECONDS).join();
        assertThat(run.stopped()).isTrue();
        // of 3,600
        assertThat(run.total().done()).isBetween(50L, 2_000L);
    }

    @Test
    void theRateIsChangedOnAllOfThem() {
        LoadControl control = new LoadControl(new StopSignal());
        Heard heard = new Heard();
        CompletableFuture<LoadRun> result = crew.start(
                crew.order(project(), StayProject.plan(LoadShape.arrivals(30, 60)), Map.of(), WhenLost.SHARE),
                heard,
                control);
        LoadSecond before = heard.awaited(second -> true);
        control.factor(4);
        heard.awaited(second -> second.intended() > 100);
        // over several, since what one second is late is in the next
        double after = Stream.generate(() -> heard.awaited(second -> true))
                .limit(4)
                .mapToLong(LoadSecond::intended)
                .average()
                .orElseThrow();
        control.stop().stop();
        LoadRun run = result.orTimeout(40, TimeUnit.SECONDS).join();
        assertThat(before.intended()).isLessThan(100);
        assertThat(after).isBetween(80.0, 160.0);
        // a third of what one second at 120 brings is more than it would have done at 30
        assertThat(run.workers()).hasSize(3).allMatch(w -> w.history().stream().anyMatch(second -> second.done() > 25));
    }

    @Test
    void whatCannotBeginIsSaidAndNothingIsLoaded() throws Exception {
        Path project = project();
        FleetOrder order = crew.order(project, StayProject.plan(LoadShape.arrivals(10, 1)), Map.of(), WhenLost.SHARE);
        Files.delete(project.resolve("suites").resolve("s.yaml"));
        assertThatThrownBy(() -> crew.gathering.run(order, LoadListener.NONE, new LoadControl(new StopSignal())))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("worker")
                .hasMessageContaining("cannot begin: The project has no suite “s”");
        assertThat(server.requests()).isEmpty();
        // and the crew is there for the next
        assertThat(crew.run(
                                StayProject.in(folder.resolve("b"), server.address(), Stays.BODY, List.of()),
                                StayProject.plan(LoadShape.arrivals(10, 1)))
                        .total()
                        .done())
                .isEqualTo(10);
    }

    @Test
    void aWorkerOfAnotherVersionIsToldSo() {
        Future<?> other = crew.worker(Crew.fleet("0.9"), crew.invitation(Invitation.WORKER));
        assertThatThrownBy(() -> other.get(40, TimeUnit.SECONDS))
                .isInstanceOf(ExecutionException.class)
                .cause()
                .isInstanceOf(Problem.class)
                .hasMessage(
                        "This worker is version 0.9, and the run is led by version 1.0: use the same on all machines.");
        assertThat(crew.told).anyMatch(t -> t.contains("was refused: it is version 0.9, and this is 1.0"));
        assertThat(crew.workers()).hasSize(3);
    }

    @Test
    void whoHasNoInvitationOfThisAuthorityIsNotLetIn() {
        Authority forger = Authority.made("Northfell", Instant.now());
        Invitation forged = Invitation.of(
                forger, Invitation.WORKER, "127.0.0.1", crew.port, "Northfell", Instant.now(), Duration.ofHours(1));
        Future<?> refused = crew.worker(crew.fleet, forged);
        assertThatThrownBy(() -> refused.get(40, TimeUnit.SECONDS))
                .cause()
                .isInstanceOf(Problem.class)
                .hasMessageContaining("does not take this invitation: it is of another authority");
        assertThat(crew.workers()).hasSize(3);
    }

    @Test
    void anInvitationThatHasExpiredIsSaidToHave() {
        Invitation old = Invitation.of(
                crew.authority,
                Invitation.WORKER,
                "127.0.0.1",
                crew.port,
                "Northfell",
                Instant.now().minus(Duration.ofDays(2)),
                Duration.ofDays(1));
        assertThatThrownBy(() -> crew.worker(crew.fleet, old).get(20, TimeUnit.SECONDS))
                .cause()
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The invitation expired at");
    }

    @Test
    void aWorkerSaysReadyWithWhatItFound() {
        assertThat(crew.heard.get(0)).anyMatch(w -> w.matches("READY 127\\.0\\.0\\.1:\\d+ \\d+ 1\\.0"));
    }
}
