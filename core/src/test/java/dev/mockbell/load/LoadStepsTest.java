package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.check.Capture;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Stays;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.jms.ProviderJars;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Steps that repeat others, choose between them, or run another suite, under load. */
class LoadStepsTest {
    private final EventLoops loops = new EventLoops("test", 2);
    private final LoadEngine engine = new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false);
    private final Case ask = Stays.book("ask", Stays.BODY, List.of());
    private final Case named = Stays.book("named", Stays.BODY.replace("Ines Okafor", "{$who}"), List.of());
    private final List<Exchange> failures = new CopyOnWriteArrayList<>();

    @AfterEach
    void close() {
        loops.close();
    }

    /** Answers each request by its number, from 1; the plan's own requests alone come to it. */
    private static PlainServer counting(IntFunction<String> answer) {
        AtomicInteger asked = new AtomicInteger();
        return PlainServer.that((request, out, socket) ->
                out.write(PlainServer.ok(answer.apply(asked.incrementAndGet())).getBytes(StandardCharsets.UTF_8)));
    }

    private LoadRun run(PlainServer server, int journeys, Suite... suites) {
        LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.arrivals(journeys, 1))
                .with(Conduct.USUAL.withTimeout(3_000).withConnections(true, 1));
        LoadListener listener = new LoadListener() {
            @Override
            public void failure(Exchange exchange) {
                failures.add(exchange);
            }
        };
        return engine.run(
                plan,
                Stays.bench(server.address(), List.of(suites), ask, named),
                host -> true,
                listener,
                new LoadControl(new StopSignal()));
    }

    private static Suite suite(Step... steps) {
        return new Suite("s", "S", List.of(steps));
    }

    private static Step until(String condition, int times, long every, Step... inner) {
        return new Step.Until("Wait for it", true, condition, times, every, List.of(inner));
    }

    private Step call(Case kept) {
        return Step.call(kept.title(), kept.reference());
    }

    @Test
    void stepsAreRepeatedUntilTheAnswerSaysSoAndTheWholeIsTimed() {
        try (PlainServer server = counting(n -> Stays.answer("R", n % 3 == 0 ? "9" : "1"))) {
            LoadRun run = run(server, 2, suite(until("//*:total = 9", 5, 80, call(ask))));
            assertThat(run.reasons()).isEmpty();
            assertThat(run.steps().get(0).done()).isEqualTo(6);
            StepFigures whole = run.steps().get(1);
            assertThat(whole.name()).isEqualTo("Wait for it");
            assertThat(whole.kind()).isEqualTo(StepFigures.Kind.GROUP);
            assertThat(whole.done()).isEqualTo(2);
            assertThat(whole.min()).isGreaterThanOrEqualTo(160);
        }
    }

    @Test
    void whatTheyAreRepeatedForAndDoesNotComeFailsTheLastAnswerAndKeepsIt() {
        try (PlainServer server = counting(n -> Stays.answer("R", "1"))) {
            LoadRun run = run(server, 2, suite(until("//*:total = 9", 3, 0, call(ask)), call(ask)));
            assertThat(run.reasons()).isEqualTo(Map.of("“//*:total = 9” did not hold, tried 3 times", 2L));
            assertThat(run.steps().get(0).done()).isEqualTo(6);
            assertThat(run.steps().get(0).failed()).isEqualTo(2);
            assertThat(run.steps().get(1).done())
                    .as("what follows is not come to")
                    .isZero();
            assertThat(run.steps().get(2).failed()).as("the whole").isEqualTo(2);
            assertThat(failures)
                    .hasSize(2)
                    .allSatisfy(
                            e -> assertThat(e.response().orElseThrow().text()).contains(":total>1<"));
        }
    }

    @Test
    void oneOfTwoGroupsIsRunByTheLastAnswer() {
        try (PlainServer server = counting(n -> Stays.answer("R", n == 1 ? "9" : "1"))) {
            Step choose = new Step.Choose(
                    "Dear?",
                    true,
                    "//*:total > 5",
                    new Step.Group("yes", true, List.of(call(ask), call(ask))),
                    new Step.Group("no", true, List.of(new Step.Pause("p", true, 10))));
            LoadRun run = run(server, 1, suite(call(ask), choose, choose));
            assertThat(run.reasons()).isEmpty();
            assertThat(server.requests()).hasSize(3);
            assertThat(run.steps().get(0).done()).isEqualTo(1);
        }
    }

    @Test
    void stepsAreRunForEachRowOfATable() {
        try (PlainServer server = counting(n -> Stays.answer("R", "1"))) {
            DataTable table = new DataTable("t.csv", List.of("who"), List.of(List.of("Ada"), List.of("Bo")));
            Step each = new Step.ForEach("All", true, Optional.of(table), "", "", List.of(call(named), call(ask)));
            LoadRun run = run(server, 2, suite(each));
            assertThat(run.reasons()).isEmpty();
            assertThat(server.requests()).hasSize(8);
            assertThat(server.requests()).filteredOn(r -> r.contains(">Ada<")).hasSize(2);
            assertThat(server.requests()).filteredOn(r -> r.contains(">Bo<")).hasSize(2);
            Step empty = new Step.ForEach(
                    "None",
                    true,
                    Optional.of(new DataTable("t.csv", List.of("who"), List.of())),
                    "",
                    "",
                    List.of(call(ask)));
            assertThat(run(server, 1, suite(empty, call(ask))).steps().get(1).done())
                    .isEqualTo(1);
        }
    }

    @Test
    void manyRoundsThatTakeNoTimeAreGoneThroughFlat() {
        try (PlainServer server = counting(n -> Stays.answer("R", "1"))) {
            List<List<String>> rows = IntStream.range(0, 50_000)
                    .mapToObj(i -> List.of("guest " + i))
                    .toList();
            Step each = new Step.ForEach(
                    "Idle",
                    true,
                    Optional.of(new DataTable("t.csv", List.of("who"), rows)),
                    "",
                    "",
                    List.of(new Step.Pause("none", true, 0)));
            LoadRun run = run(server, 1, suite(each, call(named)));
            assertThat(run.reasons()).isEmpty();
            assertThat(server.requests()).singleElement().asString().contains(">guest 49999<");
        }
    }

    @Test
    void anotherSuiteIsRunWithValuesThatAreTakenBackAndWhatItCapturesIsCarriedOn() {
        Case captures = Stays.book("captures", Stays.BODY, List.of(), new Capture("code", "//*:code"));
        try (PlainServer server = counting(n -> Stays.answer("R" + n, "1"))) {
            Suite inner = new Suite("inner", "Inner", List.of(call(named), call(captures)));
            Case after = Stays.book("after", Stays.BODY.replace("Ines Okafor", "{$code}"), List.of());
            Step twice = new Step.RunSuite("Both", true, "inner", Map.of("who", "guest of {//*:code}"));
            LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.arrivals(1, 1));
            LoadRun run = engine.run(
                    plan,
                    Stays.bench(
                            server.address(),
                            List.of(suite(call(ask), twice, call(after), call(named)), inner),
                            ask,
                            named,
                            captures,
                            after),
                    host -> true,
                    LoadListener.NONE,
                    new LoadControl(new StopSignal()));
            assertThat(server.requests()).hasSize(4);
            assertThat(server.requests().get(1)).contains(">guest of R1<");
            assertThat(server.requests().get(3)).contains(">R3<");
            // a variable that was given for a while is none afterwards
            assertThat(run.reasons().keySet()).singleElement().asString().contains("$who");
        }
    }

    @Test
    void aConditionThatCannotBeToldFailsAChoiceAndIsSaid() {
        try (PlainServer server = counting(n -> Stays.answer("R", "1"))) {
            Step choose = new Step.Choose(
                    "Never",
                    true,
                    "$nothing = 1",
                    new Step.Group("yes", true, List.of()),
                    new Step.Group("no", true, List.of()));
            LoadRun run = run(server, 2, suite(choose, call(ask)));
            assertThat(run.reasons().keySet()).singleElement().asString().contains("nothing");
            assertThat(run.steps().get(0).failed()).isEqualTo(2);
            assertThat(server.requests()).isEmpty();
        }
    }

    @Test
    void whatCannotBeDoneUnderLoadIsSaidBeforeTheRun() {
        try (PlainServer server = counting(n -> Stays.answer("R", "1"))) {
            Step nodes = new Step.ForEach("Huts", true, Optional.empty(), "//*:hut", "hut", List.of(call(ask)));
            assertThatThrownBy(() -> run(server, 1, suite(call(ask), nodes)))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("“Huts”")
                    .hasMessageContaining("nodes of an answer");
            Step known = new Step.Call(
                    "Known",
                    true,
                    ask.reference(),
                    Optional.of(new KnownValues(new DataTable("t.csv", List.of(), List.of()), List.of())));
            assertThatThrownBy(() -> run(server, 1, suite(known)))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("as its rows");
            assertThatThrownBy(() -> run(server, 1, suite(until("1 = 2", 3, 0, call(ask)))))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("never hold");
            Step itself = new Step.RunSuite("Again", true, "s", Map.of());
            assertThatThrownBy(() -> run(server, 1, suite(call(ask), itself)))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("run each other");
            LoadRun off = run(server, 1, suite(call(ask), itself.switched(false), nodes.switched(false)));
            assertThat(off.steps().get(0).done()).isEqualTo(1);
        }
    }

    @Test
    void whatIsTimedCanHaveLimits() {
        Step choose = new Step.Choose(
                "Dear?",
                true,
                "true()",
                new Step.Group("yes", true, List.of(Step.call("Dear", ask.reference()))),
                new Step.Group("no", false, List.of(Step.call("Cheap", ask.reference()))));
        Suite inner = new Suite("inner", "Inner", List.of(new Step.RunSuite("Back", true, "s", Map.of()), call(named)));
        Suite outer = suite(until("1", 2, 0, choose), new Step.RunSuite("Go", true, "inner", Map.of()));
        LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.arrivals(1, 1))
                .withMix(List.of(Share.ofSuite("s"), new Share(Share.Kind.CASE, ask.reference(), 1)));
        assertThat(Timed.names(
                        plan,
                        id -> List.of(inner, outer).stream()
                                .filter(s -> s.id().equals(id))
                                .findFirst(),
                        reference -> Optional.of(ask)))
                .containsExactly("Wait for it", "Dear", "named", "ask");
    }
}
