package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.PlainServer;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Suites of every kind of step, against a server whose answers are laid down. */
class SuiteStepsTest {
    private static final Case BOOK =
            Stays.book("book", Stays.BODY, List.of(new Check.NoFault()), new Capture("code", "/BookResponse/code"));
    private static final Case FAILS =
            Stays.book("fails", Stays.BODY, List.of(new Check.Value("/BookResponse/code", "never")));

    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();
    private final List<Exchange> ledger = new ArrayList<>();
    private final List<RunEvent> events = new CopyOnWriteArrayList<>();
    private final StopSignal stop = new StopSignal();

    @AfterEach
    void close() {
        http.close();
    }

    private Run run(Workbench bench, RunPlan plan, Suite suite) {
        return new SuiteRunner(
                        bench,
                        new CaseCaller(http, expressions),
                        expressions,
                        e -> {
                            ledger.add(e);
                            return e.withId(ledger.size());
                        },
                        Clock.systemUTC())
                .run(suite, plan, events::add, stop);
    }

    private Run run(Suite suite, String... codes) {
        return run(List.of(), RunPlan.ALL, suite, codes);
    }

    /** Each request is answered with the next code, the last one from then on. */
    private Run run(List<Suite> others, RunPlan plan, Suite suite, String... codes) {
        List<String> left = new ArrayList<>(List.of(codes));
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            String code = left.size() > 1 ? left.remove(0) : left.get(0);
            out.write(PlainServer.ok(Stays.answer(code, "184.50")).getBytes(java.nio.charset.StandardCharsets.UTF_8));
            out.flush();
        })) {
            return run(Stays.bench(server.address(), others, BOOK, FAILS), plan, suite);
        }
    }

    private static Step book() {
        return Step.call("Book", BOOK.reference());
    }

    private static Step fails() {
        return Step.call("Fails", FAILS.reference());
    }

    private static Suite suite(Step... steps) {
        return new Suite("s", "S", List.of(steps));
    }

    private static Verdict of(Run run, String path) {
        return run.at(StepPath.parse(path)).orElseThrow().verdict();
    }

    @Test
    void untilRepeatsItsStepsUntilTheConditionHolds() {
        Step until = new Step.Until("Wait", true, "//code = 'R-3'", 5, 0, List.of(book()));
        Run run = run(suite(until), "R-1", "R-2", "R-3", "R-4");
        assertThat(of(run, "1")).isEqualTo(Verdict.PASSED);
        assertThat(ledger).hasSize(3);
        assertThat(run.steps().get(0).inner()).hasSize(3);
        assertThat(of(run, "1.1")).isEqualTo(Verdict.PASSED);
    }

    @Test
    void untilThatIsNotMetSaysAfterHowMany() {
        Step until = new Step.Until("Wait", true, "//code = 'R-9'", 2, 0, List.of(book()));
        Run run = run(suite(until, book()), "R-1");
        assertThat(run.steps().get(0).problem()).isEqualTo("“//code = 'R-9'” did not hold, tried 2 times");
        assertThat(of(run, "2")).as("the rest goes on").isEqualTo(Verdict.PASSED);
    }

    @Test
    void anEarlyRoundThatFailsDoesNotCountOnceTheConditionHolds() {
        Case due = Stays.book("due", Stays.BODY, List.of(new Check.Value("/BookResponse/code", "R-2")));
        Step until = new Step.Until("Wait", true, "//code = 'R-2'", 3, 0, List.of(Step.call("Due", due.reference())));
        List<String> left = new ArrayList<>(List.of("R-1", "R-2"));
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(PlainServer.ok(Stays.answer(left.remove(0), "1"))
                    .getBytes(java.nio.charset.StandardCharsets.UTF_8));
            out.flush();
        })) {
            Run run = run(Stays.bench(server.address(), List.of(), due), RunPlan.ALL, suite(until));
            assertThat(run.passed()).isTrue();
        }
    }

    @Test
    void chooseRunsOneSideAndTheOtherIsOff() {
        Step.Group then = new Step.Group("then", true, List.of(book()));
        Step.Group otherwise = new Step.Group("otherwise", true, List.of(fails()));
        Run run = run(suite(book(), new Step.Choose("Which", true, "$code = 'R-1'", then, otherwise)), "R-1");
        assertThat(of(run, "2.1.1")).isEqualTo(Verdict.PASSED);
        assertThat(of(run, "2.2.1")).isEqualTo(Verdict.OFF);
        assertThat(run.passed()).isTrue();
        assertThat(run(suite(book(), new Step.Choose("Which", true, "$code = 'x'", then, otherwise)), "R-1")
                        .passed())
                .isFalse();
    }

    @Test
    void forEachRowHasItsColumnsAsVariables() {
        DataTable table = new DataTable("t.csv", List.of("want"), List.of(List.of("R-1"), List.of("R-2")));
        Step.Group none = new Step.Group("otherwise", true, List.of());
        Step choose = new Step.Choose(
                "Same?",
                true,
                "//code = $want",
                new Step.Group("then", true, List.of()),
                new Step.Group("otherwise", true, List.of(fails())));
        assertThat(none.holds()).isTrue();
        Step each = new Step.ForEach("Rows", true, Optional.of(table), "", "", List.of(book(), choose));
        Run run = run(suite(each), "R-1", "R-2");
        assertThat(run.passed()).isTrue();
        assertThat(run.steps().get(0).inner()).extracting(StepResult::name).containsExactly("row 1", "row 2");
    }

    @Test
    void forEachNodeOfAnAnswerBindsIt() {
        Step each = new Step.ForEach("Codes", true, Optional.empty(), "//code | //total", "node", List.of(book()));
        Run run = run(suite(book(), each), "R-1");
        assertThat(run.passed()).isTrue();
        assertThat(ledger).hasSize(3);
        Step nothing = new Step.ForEach("None", true, Optional.empty(), "//lodge", "node", List.of(book()));
        assertThat(run(suite(book(), nothing), "R-1").steps().get(1).problem()).contains("nothing at //lodge");
        Step many = new Step.ForEach("Many", true, Optional.empty(), "1 to 10001", "node", List.of(book()));
        assertThat(run(suite(book(), many), "R-1").steps().get(1).problem())
                .startsWith("There are 10001 at 1 to 10001, and the steps are run for at most 10000.");
    }

    @Test
    void anotherSuiteRunsWithValuesAndItsCapturesAreCarriedOn() {
        Case named = Stays.book(
                "named",
                Stays.BODY.replace("Ines Okafor", "{$guest}"),
                List.of(),
                new Capture("inner", "/BookResponse/code"));
        Suite other = new Suite("other", "Other", List.of(Step.call("Named", named.reference())));
        Case after = Stays.book("after", Stays.BODY.replace("Ines Okafor", "{$inner}"), List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-7", "1")))) {
            Run run = run(
                    Stays.bench(server.address(), List.of(other), named, after),
                    RunPlan.ALL.with(Map.of("who", "Mira")),
                    suite(
                            new Step.RunSuite("Other", true, "other", Map.of("guest", "{$who} Tal")),
                            Step.call("After", after.reference())));
            assertThat(run.passed()).isTrue();
            assertThat(server.requests().get(0)).contains("<st:name>Mira Tal</st:name>");
            assertThat(server.requests().get(1)).contains("<st:name>R-7</st:name>");
        }
    }

    @Test
    void suitesThatRunEachOtherAreToldAndTheRestRuns() {
        Suite back = new Suite("back", "Back", List.of(new Step.RunSuite("Again", true, "s", Map.of())));
        Suite suite = suite(new Step.RunSuite("Back", true, "back", Map.of()), book());
        Run run = run(List.of(back, suite), RunPlan.ALL, suite, "R-1");
        assertThat(run.steps().get(0).problem()).contains("run each other: s → back → s");
        assertThat(of(run, "2")).isEqualTo(Verdict.PASSED);
    }

    @Test
    void whatIsKnownBeforeTheRunIsSaidAtItsPlace() {
        Step gone = Step.call("Gone", "stay/Book/none");
        Step never = new Step.Until("Never", true, "1 = 2", 3, 0, List.of());
        Step nowhere = new Step.RunSuite("Nowhere", true, "nothing", Map.of());
        DataTable table = new DataTable("t.csv", List.of("nights"), List.of(List.of("2")));
        KnownValues unbound =
                new KnownValues(table, List.of(new KnownValues.Column("nights", KnownValues.Use.SETS, "")));
        Step known = new Step.Call("Known", true, BOOK.reference(), Optional.of(unbound));
        Step broken = new Step.Call(
                "Broken",
                true,
                BOOK.reference(),
                Optional.of(
                        new KnownValues(DataTable.unreadable("x.csv", "Row 2 of the table has 3 values"), List.of())));
        Suite suite = suite(gone, never, nowhere, known, broken, gone.switched(false), book());
        Map<StepPath, String> troubles =
                Preflight.of(suite, Stays.bench("http://127.0.0.1:1/", List.of(), BOOK), expressions);
        assertThat(troubles.keySet()).extracting(StepPath::text).containsExactly("1", "2", "3", "4", "5");
        assertThat(troubles.values())
                .satisfiesExactly(
                        t -> assertThat(t).contains("no case stay/Book/none"),
                        t -> assertThat(t).contains("can never hold"),
                        t -> assertThat(t).contains("no such suite"),
                        t -> assertThat(t).contains("“nights” is bound to nothing"),
                        t -> assertThat(t).contains("Row 2"));
        assertThat(of(run(suite, "R-1"), "7")).isEqualTo(Verdict.PASSED);
        assertThat(ledger).hasSize(1);
    }

    @Test
    void aFailedSetUpSkipsTheStepsAndCleanUpRunsAlways() {
        Suite suite = new Suite("s", "S", List.of(fails()), List.of(book()), List.of(book()));
        Run run = run(suite, "R-1");
        assertThat(of(run, "set-up 1")).isEqualTo(Verdict.FAILED);
        assertThat(of(run, "1")).isEqualTo(Verdict.NOT_RUN);
        assertThat(of(run, "clean-up 1")).isEqualTo(Verdict.PASSED);
        assertThat(run.steps().get(0).problem()).contains("the set-up failed");
    }

    @Test
    void aFailedSetUpOfAnotherSuiteIsThatSuitesAffair() {
        Suite other = new Suite("other", "Other", List.of(fails()), List.of(book()), List.of());
        Run run = run(
                List.of(other), RunPlan.ALL, suite(new Step.RunSuite("Other", true, "other", Map.of()), book()), "R-1");
        assertThat(of(run, "1")).isEqualTo(Verdict.FAILED);
        assertThat(of(run, "2")).isEqualTo(Verdict.PASSED);
    }

    @Test
    void whatARunGivesToLaterOnesIsOnlyWhatIsWhole() {
        Case taking = Stays.book(
                "taking",
                Stays.BODY,
                List.of(),
                new Capture("code", "/BookResponse/code"),
                new Capture("all", "/BookResponse/*", Capture.Takes.LIST, false));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-1", "1")))) {
            Suite suite = suite(Step.call("T", taking.reference()));
            Run run = run(Stays.bench(server.address(), List.of(), taking), RunPlan.ALL, suite);
            assertThat(run.given(suite, r -> Optional.of(taking))).containsOnly(Map.entry("code", "R-1"));
        }
    }

    @Test
    void aConditionThatAsksTheClockOrACounterMayHoldLater() {
        Step counting = new Step.Until("Count", true, "bell:counter('u') ge 3", 5, 0, List.of());
        assertThat(Preflight.of(suite(counting), Stays.bench("http://127.0.0.1:1/", List.of(), BOOK), expressions))
                .isEmpty();
        assertThat(of(run(suite(counting), "R-1"), "1")).isEqualTo(Verdict.PASSED);
    }

    @Test
    void aStopEndsWhatWaitsAndStillCleansUp() {
        Suite suite =
                new Suite("s", "S", List.of(), List.of(new Step.Pause("Long", true, 60_000), book()), List.of(book()));
        Thread stopping = new Thread(() -> {
            while (events.stream().noneMatch(RunEvent.StepStarted.class::isInstance)) {
                Thread.onSpinWait();
            }
            stop.stop();
        });
        stopping.start();
        Run run = run(suite, "R-1");
        assertThat(of(run, "1")).isEqualTo(Verdict.NOT_RUN);
        assertThat(of(run, "2")).isEqualTo(Verdict.NOT_RUN);
        assertThat(of(run, "clean-up 1")).isEqualTo(Verdict.PASSED);
        assertThat(run.passed()).isFalse();
    }

    @Test
    void aStoppingCheckAndFailFastEndTheRun() {
        Case ends = Stays.book("ends", Stays.BODY, List.of(new Check.Stopping(new Check.Condition("false()"))));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-7", "1")))) {
            Workbench bench = Stays.bench(server.address(), List.of(), ends, BOOK);
            Run run = run(bench, RunPlan.ALL, suite(Step.call("Ends", ends.reference()), book()));
            assertThat(of(run, "2")).isEqualTo(Verdict.NOT_RUN);
            assertThat(run.steps().get(1).problem()).contains("“Ends” failed");
        }
        Run fast = run(List.of(), RunPlan.ALL.failingFast(true), suite(fails(), book()), "R-1");
        assertThat(of(fast, "2")).isEqualTo(Verdict.NOT_RUN);
        Run soft = run(suite(fails(), book()), "R-1");
        assertThat(of(soft, "2")).isEqualTo(Verdict.PASSED);
    }

    @Test
    void aPartOfTheStepsIsRunWithTheValuesThatItWouldHave() {
        Step group = new Step.Group("G", true, List.of(book(), fails()));
        Suite suite = suite(book(), group, book());
        Run one = run(List.of(), RunPlan.one(StepPath.parse("2.1")), suite, "R-1");
        assertThat(List.of(of(one, "1"), of(one, "2.1"), of(one, "2.2"), of(one, "3")))
                .containsExactly(Verdict.OFF, Verdict.PASSED, Verdict.OFF, Verdict.OFF);
        assertThat(one.passed()).isTrue();
        Run from = run(List.of(), RunPlan.from(StepPath.parse("2.2")), suite, "R-1");
        assertThat(List.of(of(from, "1"), of(from, "2.1"), of(from, "2.2"), of(from, "3")))
                .containsExactly(Verdict.OFF, Verdict.OFF, Verdict.FAILED, Verdict.PASSED);
        Run upTo = run(List.of(), RunPlan.upTo(StepPath.parse("2.1")), suite, "R-1");
        assertThat(List.of(of(upTo, "1"), of(upTo, "2.1"), of(upTo, "2.2"), of(upTo, "3")))
                .containsExactly(Verdict.PASSED, Verdict.PASSED, Verdict.OFF, Verdict.OFF);
        assertThat(from.failed(suite)).containsExactly(StepPath.parse("2.2"));
        Run again = run(List.of(), RunPlan.only(Set.copyOf(from.failed(suite))), suite, "R-1");
        assertThat(of(again, "2.2")).isEqualTo(Verdict.FAILED);
        assertThat(of(again, "3")).isEqualTo(Verdict.OFF);
    }

    @Test
    void eachRowOfKnownValuesIsAResultOfItsOwn() {
        DataTable table = new DataTable(
                "t.csv",
                List.of("nights", "code"),
                List.of(List.of("1", "R-1"), List.of("{1 + 1}", "R-9"), List.of("3", "fault Full"), List.of("4", "")));
        KnownValues known = new KnownValues(
                table,
                List.of(
                        new KnownValues.Column("nights", KnownValues.Use.SETS, "/Book/nights"),
                        new KnownValues.Column("code", KnownValues.Use.IS, "/BookResponse/code")));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-1", "1")))) {
            Run run = run(
                    Stays.bench(server.address(), List.of(), BOOK),
                    RunPlan.ALL,
                    suite(new Step.Call("Book", true, BOOK.reference(), Optional.of(known))));
            StepResult step = run.steps().get(0);
            assertThat(step.inner())
                    .extracting(StepResult::verdict)
                    .containsExactly(Verdict.PASSED, Verdict.FAILED, Verdict.FAILED, Verdict.PASSED);
            assertThat(step.inner().get(0).name()).isEqualTo("row 1: nights 1");
            assertThat(server.requests().get(1)).contains("<st:nights>2</st:nights>");
            assertThat(step.inner().get(1).failures())
                    .containsExactly("code = R-9: should be R-9, found R-1 (/BookResponse/code)");
            assertThat(step.inner().get(2).failures()).first().asString().contains("the fault Full");
            assertThat(events.stream().filter(RunEvent.RowFinished.class::isInstance))
                    .hasSize(4);
            assertThat(run.checks()).isEqualTo(1 + 1 + 1 + 1 + 1 + 1);
        }
    }

    @Test
    void aListIsCapturedAndXmlIsTakenInWhole() {
        Case taking = Stays.book(
                "taking",
                Stays.BODY,
                List.of(),
                new Capture("all", "/BookResponse/*", Capture.Takes.LIST, false),
                new Capture("piece", "/BookResponse/code", Capture.Takes.XML, false),
                new Capture("asked", "/Book/hutId", Capture.Takes.VALUE, true));
        Case using = Stays.book(
                "using",
                Stays.BODY
                        .replace("<st:hutId>NF-07</st:hutId>", "{$piece}")
                        .replace("Ines Okafor", "{count($all)} {$asked}"),
                List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R<1&amp;".replace("<", ""), "1")))) {
            Run run = run(
                    Stays.bench(server.address(), List.of(), taking, using),
                    RunPlan.ALL,
                    suite(Step.call("T", taking.reference()), Step.call("U", using.reference())));
            assertThat(run.passed()).isTrue();
            assertThat(server.requests().get(1))
                    .contains("xmlns:s=\"urn:northfell:stay\">R1&amp;</s:code><st:nights>")
                    .contains("<st:name>2 NF-07</st:name>");
            assertThat(run.steps().get(0).captures()).containsEntry("all", "R1&, 1");
        }
    }

    @Test
    void aListenerThatThrowsHarmsNobody() {
        List<RunEvent> other = new ArrayList<>();
        RunListener both = RunListener.all(List.of(
                e -> {
                    throw new IllegalStateException("broken");
                },
                other::add));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-7", "1")))) {
            Run run = new SuiteRunner(
                            Stays.bench(server.address(), List.of(), BOOK),
                            new CaseCaller(http, expressions),
                            expressions,
                            e -> e,
                            Clock.systemUTC())
                    .run(suite(book()), both, stop);
            assertThat(run.passed()).isTrue();
            assertThat(other).hasSize(5);
        }
    }
}
