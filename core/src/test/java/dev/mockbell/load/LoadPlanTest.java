package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.load.LoadListener.Phase;
import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LoadHistory;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.jms.ProviderJars;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.mockito.AdditionalAnswers;
import org.mockito.Mockito;

/** What a plan asks for beyond a rate: its mix, rows, groups, warm-up, limits, and what is done to it while it runs. */
class LoadPlanTest {
    private static final String FAULT =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault><faultcode>e:Server</faultcode>"
                    + "<faultstring>x</faultstring></e:Fault></e:Body></e:Envelope>";

    private final EventLoops loops = new EventLoops("test", 2);
    private final LoadEngine engine = new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false);
    private final Case first = Stays.book("first", Stays.BODY, List.of());
    private final Case second = Stays.book("second", Stays.BODY.replace("Ines Okafor", "Second"), List.of());
    private final List<LoadSecond> seconds = new CopyOnWriteArrayList<>();
    private final List<Phase> phases = Collections.synchronizedList(new ArrayList<>());
    private final List<Exchange> failures = new CopyOnWriteArrayList<>();
    private final LoadControl control = new LoadControl(new StopSignal());
    private Consumer<LoadSecond> each = s -> {};

    @TempDir
    Path folder;

    @AfterEach
    void close() {
        loops.close();
    }

    private LoadPlan plan(LoadShape shape) {
        return LoadPlan.of("p", "P", "s", shape).with(Conduct.USUAL.withTimeout(3_000));
    }

    private LoadRun run(LoadPlan plan, Workbench bench) {
        return engine.run(plan, bench, host -> true, listener(), control);
    }

    private LoadListener listener() {
        return new LoadListener() {
            @Override
            public void phase(Phase phase) {
                phases.add(phase);
            }

            @Override
            public void second(LoadSecond now) {
                seconds.add(now);
                each.accept(now);
            }

            @Override
            public void failure(Exchange exchange) {
                failures.add(exchange);
            }
        };
    }

    private static PlainServer answering() {
        return PlainServer.says(PlainServer.ok(Stays.answer("R", "1")));
    }

    private Workbench bench(PlainServer server) {
        return Stays.bench(server.address(), Map.of(), first, second);
    }

    /** The same with other suites, or files. */
    private Workbench with(Workbench plain, Map<String, Suite> suites) {
        Workbench with = Mockito.mock(Workbench.class, AdditionalAnswers.delegatesTo(plain));
        Mockito.doAnswer(call -> suites.get(call.<String>getArgument(0)))
                .when(with)
                .suite(Mockito.anyString());
        Mockito.doReturn(folder).when(with).folder();
        return with;
    }

    private static long count(PlainServer server, String text) {
        return server.requests().stream().filter(r -> r.contains(text)).count();
    }

    @Test
    void partsOfTheMixComeByTheirWeights() {
        try (PlainServer server = answering()) {
            LoadPlan plan = plan(LoadShape.arrivals(40, 1))
                    .withMix(List.of(
                            new Share(Share.Kind.CASE, first.reference(), 3),
                            new Share(Share.Kind.CASE, second.reference(), 1)));
            LoadRun run = run(plan, bench(server));
            assertThat(run.steps()).extracting(StepFigures::done).containsExactly(30L, 10L);
            assertThat(count(server, ">Second<")).isEqualTo(10);
            assertThat(run.spent().get(Spent.Stage.SERVER.ordinal()).count()).isEqualTo(40);
        }
    }

    @Test
    void aGroupIsTimedFromItsFirstStepToItsLastWithThePauseBetween() {
        Step group = new Step.Group(
                "Both",
                true,
                List.of(
                        Step.call("One", first.reference()),
                        new Step.Pause("Wait", true, 60),
                        Step.call("Two", second.reference())));
        try (PlainServer server = answering()) {
            Workbench bench = with(bench(server), Map.of("s", new Suite("s", "S", List.of(group))));
            LoadRun run = run(plan(LoadShape.arrivals(5, 1)), bench);
            StepFigures both = run.steps().get(2);
            assertThat(both.kind()).isEqualTo(StepFigures.Kind.GROUP);
            assertThat(both.done()).isEqualTo(5);
            assertThat(both.min()).isGreaterThanOrEqualTo(60);
            assertThat(run.total().done()).as("the group is no step of its own").isEqualTo(10);
        }
    }

    @Test
    void rowsGiveVariablesInOrderAndOnceEndsTheRun() throws Exception {
        Files.createDirectories(folder.resolve("suites"));
        Files.writeString(folder.resolve("suites/parties.csv"), "guest,nights\nAnna,1\nBo,2\n{upper-case('cy')},3\n");
        Case asking = Stays.book("asking", Stays.BODY.replace("Ines Okafor", "{$guest}"), List.of());
        try (PlainServer server = answering()) {
            Workbench bench = with(Stays.bench(server.address(), Map.of(), asking), Map.of("s", Stays.suite(asking)));
            RowUse rows = new RowUse("suites/parties.csv", RowUse.Order.ONCE, false);
            LoadRun run = run(plan(LoadShape.arrivals(20, 30)).withRows(Optional.of(rows)), bench);
            assertThat(run.total().done()).isEqualTo(3);
            assertThat(run.seconds()).as("there are no more rows").isLessThan(10);
            assertThat(count(server, ">Anna<") + count(server, ">Bo<") + count(server, ">CY<"))
                    .isEqualTo(3);
            LoadRun byUsers = run(plan(LoadShape.users(2, 30)).withRows(Optional.of(rows)), bench);
            assertThat(byUsers.total().done()).isEqualTo(3);
            assertThat(byUsers.seconds()).isLessThan(10);
            RowUse outside = new RowUse("../parties.csv", RowUse.Order.IN_ORDER, false);
            assertThatThrownBy(() -> run(plan(LoadShape.arrivals(1, 1)).withRows(Optional.of(outside)), bench))
                    .isInstanceOf(Problem.class);
        }
    }

    @Test
    void whatTheWarmUpSendsIsNotMeasured() {
        try (PlainServer server = answering()) {
            LoadPlan plan = plan(LoadShape.arrivals(20, 1));
            LoadRun run = run(plan.with(plan.conduct().withWarmUp(1)), bench(server));
            assertThat(run.total().done()).isEqualTo(2 * 20);
            assertThat(server.requests()).hasSize(2 * 40);
            assertThat(phases).containsExactly(Phase.WARMING, Phase.MEASURING);
            assertThat(run.passed()).isTrue();
        }
    }

    @Test
    void aLimitThatIsBrokenForTooLongEndsTheRunAndIsSaid() {
        try (PlainServer server = PlainServer.says(PlainServer.ok(FAULT).replace("200 OK", "500 No"))) {
            LoadPlan plan = plan(LoadShape.arrivals(10, 30))
                    .withLimits(List.of(new Limit("", Limit.Measure.FAILED, 5, true, 1)));
            LoadRun run = run(plan, bench(server));
            assertThat(run.seconds()).isBetween(1.5, 12.0);
            assertThat(run.stopped()).isTrue();
            assertThat(run.passed()).isFalse();
            assertThat(run.warnings()).anyMatch(w -> w.contains("ended before its plan did"));
        }
    }

    @Test
    void aLimitIsForAStepAndOneForWhatIsNotThereIsNotKept() {
        try (PlainServer server = answering()) {
            LoadPlan plan = plan(LoadShape.arrivals(10, 1))
                    .withLimits(List.of(
                            new Limit(first.title(), Limit.Measure.FAILED, 1, false, 0),
                            new Limit("Gone", Limit.Measure.FAILED, 1, false, 0),
                            new Limit(Limit.Measure.HELD, 90)));
            assertThat(run(plan, bench(server)).limits())
                    .extracting(Limit.Outcome::kept)
                    .containsExactly(true, false, true);
        }
    }

    @Test
    void aFaultThatPretendsToBeAGoodAnswerIsNone() {
        try (PlainServer server = PlainServer.says(PlainServer.ok(FAULT))) {
            LoadRun run = run(plan(LoadShape.arrivals(10, 1)), bench(server));
            assertThat(run.total().failed()).isEqualTo(run.total().done()).isPositive();
            assertThat(run.reasons().keySet()).allMatch(r -> r.startsWith("fault "));
        }
    }

    @Test
    void ofEachReasonSoManyFailuresAreKept() {
        try (PlainServer server = PlainServer.says(PlainServer.ok(FAULT).replace("200 OK", "500 No"))) {
            Conduct few = new Conduct(3_000, true, 10, true, 0, 0, 1, 3);
            run(plan(LoadShape.arrivals(20, 1)).with(few), bench(server));
            assertThat(failures).hasSize(3);
        }
    }

    @Test
    void aShareOfGoodAnswersIsHeldAgainstTheContract() {
        String wrong = Stays.answer("R", "1").replace("<s:code>", "<s:cod>").replace("</s:code>", "</s:cod>");
        try (PlainServer server = PlainServer.says(PlainServer.ok(wrong.replace("code>", "cod>")))) {
            LoadPlan plan = plan(LoadShape.arrivals(20, 1));
            LoadRun all = run(plan.with(plan.conduct().withValidated(100)), bench(server));
            assertThat(all.total().unchecked()).isEqualTo(all.total().done()).isPositive();
            LoadRun none =
                    engine.run(plan, bench(server), host -> true, LoadListener.NONE, new LoadControl(new StopSignal()));
            assertThat(none.total().failed()).isZero();
        }
    }

    @Test
    void whileItRunsItGoesFasterAndEndsGently() {
        try (PlainServer server = answering()) {
            each = s -> {
                if (s.second() == 1) {
                    control.factor(5);
                } else if (s.second() == 3) {
                    control.stopGently();
                }
            };
            LoadRun run = run(
                    plan(LoadShape.arrivals(10, 60)).withMix(List.of(new Share(Share.Kind.CASE, first.reference(), 1))),
                    bench(server));
            assertThat(run.seconds()).isLessThan(20);
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(seconds.get(0).done()).isBetween(3L, 20L);
            assertThat(seconds.get(2).done()).isGreaterThan(20);
        }
    }

    @Test
    void aHostThatNobodyConfirmedGetsLittle() {
        Workbench bench = Stays.bench("http://huts.example/", Map.of(), first);
        List<String> asked = new ArrayList<>();
        assertThatThrownBy(() -> engine.run(
                        plan(LoadShape.arrivals(51, 1)), bench, host -> !asked.add(host), LoadListener.NONE, control))
                .isInstanceOfSatisfying(Problem.class, p -> {
                    assertThat(p.kind()).isEqualTo(Problem.Kind.LOAD_UNCONFIRMED);
                    assertThat(p.where()).contains("huts.example");
                });
        assertThat(asked).containsExactly("huts.example");
        assertThatThrownBy(
                        () -> engine.run(plan(LoadShape.users(2, 1)), bench, host -> false, LoadListener.NONE, control))
                .as("users without a rest ask as often as they like")
                .isInstanceOf(Problem.class);
    }

    @Test
    void anUnconfirmedHostGetsLittleHoweverTheRateIsChanged() {
        try (PlainServer server = answering()) {
            LoadPlan plan =
                    plan(LoadShape.arrivals(10, 1)).withMix(List.of(new Share(Share.Kind.CASE, first.reference(), 1)));
            engine.run(plan, bench(server), host -> false, LoadListener.NONE, control);
            control.factor(50);
            assertThat(control.factor()).isEqualTo(5);
            engine.run(plan, bench(server), host -> true, LoadListener.NONE, new LoadControl(new StopSignal()));
        }
    }

    @Test
    void usersComeAndGoAsTheCurveSays() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            Thread.sleep(20);
            out.write(PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8));
        })) {
            LoadShape shape = new LoadShape(
                    Kind.USERS, List.of(new Point(0, 2), new Point(1.4, 2), new Point(1.4, 8), new Point(3, 8)));
            run(plan(shape).withMix(List.of(new Share(Share.Kind.CASE, first.reference(), 1))), bench(server));
            assertThat(seconds.get(0).users()).isEqualTo(2);
            assertThat(seconds.get(1).users()).isEqualTo(8);
        }
    }

    @Test
    void usersWhoRestAreNotWaitedFor() {
        try (PlainServer server = answering()) {
            LoadPlan plan = plan(LoadShape.users(3, 1)).with(Pauses.fixed(30_000));
            LoadRun run = run(plan.withMix(List.of(new Share(Share.Kind.CASE, first.reference(), 1))), bench(server));
            assertThat(run.total().done()).isEqualTo(3);
            assertThat(run.seconds()).as("of the 30 they rest").isLessThan(25);
        }
    }

    @Test
    void serversThatMisbehaveAreCountedByReasonAndNeverHoldTheRun() {
        AtomicInteger turn = new AtomicInteger();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            byte[] good = PlainServer.ok(Stays.answer("R", "1")).getBytes(StandardCharsets.UTF_8);
            switch (turn.getAndIncrement() % 6) {
                case 0 -> {
                    socket.setSoLinger(true, 0);
                    socket.close();
                }
                case 1 -> Thread.sleep(30_000);
                case 2 -> {
                    out.write(good, 0, good.length / 2);
                    out.flush();
                    socket.close();
                }
                case 3 -> out.write("SSH-2.0-huts\r\n\r\n".getBytes(StandardCharsets.UTF_8));
                case 4 -> {
                    out.write("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n".getBytes(StandardCharsets.UTF_8));
                    for (int i = 0; i < 10_000 && !socket.isClosed(); i++) {
                        out.write("1\r\nx\r\n".getBytes(StandardCharsets.UTF_8));
                        out.flush();
                        Thread.sleep(1);
                    }
                }
                default -> out.write(good);
            }
        })) {
            LoadPlan plan = plan(LoadShape.arrivals(30, 1));
            LoadRun run = run(plan.with(plan.conduct().withTimeout(500).withConnections(false, 100)), bench(server));
            assertThat(run.total().done()).isBetween(30L, 60L);
            assertThat(run.seconds()).isLessThan(9);
            assertThat(run.reasons().keySet()).anyMatch(r -> r.startsWith("no answer in 500 ms"));
            assertThat(run.reasons().keySet()).anyMatch(r -> r.startsWith("not HTTP"));
            assertThat(run.reasons().keySet()).anyMatch(r -> r.contains("connection closed") || r.contains("reset"));
        }
    }

    @Test
    void broughtToSpeedItSendsNothingToItsTargetBeforeTheRun() {
        Case counted = Stays.book("counted", Stays.BODY.replace("Ines Okafor", "n{bell:counter('n')}"), List.of());
        try (PlainServer server = answering()) {
            Workbench bench = Stays.bench(server.address(), Map.of(), counted);
            LoadRun run = new LoadEngine(loops, new Expressions())
                    .run(plan(LoadShape.arrivals(20, 1)), bench, host -> true, listener(), control);
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(server.requests()).hasSize(20);
            assertThat(count(server, ">n1<")).as("counters begin with the run").isEqualTo(1);
            assertThat(count(server, ">n20<")).isEqualTo(1);
            assertThat(phases).containsExactly(Phase.READYING, Phase.MEASURING);
        }
    }

    @Test
    void aRunIsKeptAndComesBackAsItWas() throws Exception {
        try (PlainServer server = answering()) {
            LoadPlan plan = plan(LoadShape.arrivals(20, 1)).withLimits(List.of(new Limit(Limit.Measure.P95, 1_000)));
            LoadRun run = run(plan, bench(server));
            LoadHistory history = new LoadHistory(folder);
            history.save(run);
            LoadRun again = history.latest("p", 5).get(0);
            assertThat(again.plan()).isEqualTo(run.plan());
            assertThat(again.total()).isEqualTo(run.total());
            assertThat(again.steps()).isEqualTo(run.steps());
            assertThat(again.spent()).isEqualTo(run.spent());
            assertThat(again.limits()).isEqualTo(run.limits());
            assertThat(again.times()).isEqualTo(run.times());
            assertThat(again.history())
                    .extracting(LoadSecond::done)
                    .isEqualTo(run.history().stream().map(LoadSecond::done).toList());
            LoadHistory.Kept listed = history.list("p", 5).get(0);
            assertThat(listed).isEqualTo(LoadHistory.Kept.of(run));
            assertThat(history.run(listed).times()).isEqualTo(run.times());
            Files.writeString(folder.resolve(".mockbell/loads/p/1.json"), "{");
            assertThat(history.list("p", 5)).hasSize(1);
            assertThat(history.latest("p", 5))
                    .as("one that cannot be read is left out")
                    .hasSize(1);
        }
    }
}
