package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
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
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class SuiteRunnerTest {
    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();
    private final List<Exchange> ledger = new ArrayList<>();

    @AfterEach
    void close() {
        http.close();
    }

    private Run run(Workbench bench, Suite suite, RunListener listener, StopSignal stop) {
        return new SuiteRunner(
                        bench,
                        new CaseCaller(http, expressions),
                        expressions,
                        e -> {
                            ledger.add(e);
                            return e.withId(ledger.size());
                        },
                        Clock.systemUTC())
                .run(suite, listener, stop);
    }

    private static List<Verdict> verdicts(StepResult step) {
        return step.checks().stream().map(CheckResult::verdict).toList();
    }

    @Test
    void aCaptureOfTheFirstStepIsSentByTheSecond() {
        Case first = Stays.book("first", Stays.BODY, List.of(), new Capture("code", "/BookResponse/code"));
        Case second = Stays.book("second", Stays.BODY.replace("Ines Okafor", "{$code}"), List.of());
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "184.50")))) {
            Run run = run(
                    Stays.bench(server.address(), Map.of(), first, second),
                    Stays.suite(first, second),
                    RunListener.NONE,
                    new StopSignal());
            assertThat(run.passed()).isTrue();
            assertThat(run.steps().get(0).captures()).containsEntry("code", "R-42");
            assertThat(server.requests().get(1)).contains("<st:name>R-42</st:name>");
            assertThat(ledger).hasSize(2);
        }
    }

    @Test
    void everyKindOfCheckPassesOnAGoodAnswer() {
        List<Check> checks = List.of(
                new Check.Valid(),
                new Check.NoFault(),
                new Check.Value("/BookResponse/total", "{92.25 * $nights}"),
                new Check.Value("/BookResponse/code", "R-42"),
                new Check.Condition("number(//total) lt 200 and $status = 200"),
                new Check.Within(20_000));
        Case kept = Stays.book("c", Stays.BODY, checks);
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "184.50")))) {
            Run run = run(
                    Stays.bench(server.address(), Map.of("nights", "2"), kept),
                    Stays.suite(kept),
                    RunListener.NONE,
                    new StopSignal());
            assertThat(verdicts(run.steps().get(0)))
                    .containsOnly(Verdict.PASSED)
                    .hasSize(6);
        }
    }

    @Test
    void everyKindOfCheckFailsOnABadAnswerAndSaysWhy() {
        List<Check> checks = List.of(
                new Check.Valid(),
                new Check.Value("/BookResponse/total", "184.50"),
                new Check.Value("/BookResponse/gone", "x"),
                new Check.Condition("//total = 1"),
                new Check.FaultIs("Full"),
                new Check.Condition("nonsense("));
        Case kept = Stays.book("c", Stays.BODY, checks);
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "much")))) {
            StepResult step = run(
                            Stays.bench(server.address(), Map.of(), kept),
                            Stays.suite(kept),
                            RunListener.NONE,
                            new StopSignal())
                    .steps()
                    .get(0);
            assertThat(verdicts(step)).containsOnly(Verdict.FAILED).hasSize(6);
            assertThat(step.failures().get(0)).contains("much").contains("/BookResponse/total");
            assertThat(step.failures().get(1))
                    .isEqualTo("total = 184.50: should be 184.50, found much (/BookResponse/total)");
            assertThat(step.failures().get(5)).contains("does not parse");
            assertThat(ledger.get(0).outcome()).isEqualTo(Exchange.Outcome.FAILED);
        }
    }

    @Test
    void aFaultMeetsItsCheckAndFailsTheOther() {
        String fault =
                "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault><faultcode>e:Server</faultcode>"
                        + "<faultstring>No bunks</faultstring><detail><Full xmlns=\"urn:northfell:stay\"><left>0</left></Full></detail></e:Fault></e:Body></e:Envelope>";
        Case due = Stays.book("due", Stays.BODY, List.of(new Check.FaultIs("Full"), new Check.Valid()));
        Case notDue = Stays.book("not", Stays.BODY, List.of(new Check.NoFault()));
        try (PlainServer server = PlainServer.says(PlainServer.ok(fault).replace("200 OK", "500 Server Error"))) {
            Run run = run(
                    Stays.bench(server.address(), Map.of(), due, notDue),
                    Stays.suite(due, notDue),
                    RunListener.NONE,
                    new StopSignal());
            assertThat(run.steps().get(0).verdict()).isEqualTo(Verdict.PASSED);
            assertThat(run.steps().get(1).failures()).containsExactly("No fault: Full: No bunks (status 500)");
            assertThat(ledger.get(0).outcome()).isEqualTo(Exchange.Outcome.FAULT);
        }
    }

    @Test
    void aStepWithoutChecksStillFailsWithoutAnAnswer() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        StepResult step = run(
                        Stays.bench("http://127.0.0.1:1/", Map.of(), kept),
                        Stays.suite(kept),
                        RunListener.NONE,
                        new StopSignal())
                .steps()
                .get(0);
        assertThat(step.verdict()).isEqualTo(Verdict.FAILED);
        assertThat(step.problem()).startsWith("Nothing answers at 127.0.0.1:1");
    }

    @Test
    void whatNoCheckCouldBeDecidedForIsSaidOnce() {
        Case kept = Stays.book("c", Stays.BODY, List.of(new Check.NoFault(), new Check.Value("//total", "1")));
        StepResult step = run(
                        Stays.bench("http://127.0.0.1:1/", Map.of(), kept),
                        Stays.suite(kept),
                        RunListener.NONE,
                        new StopSignal())
                .steps()
                .get(0);
        assertThat(step.checks()).hasSize(2).noneMatch(CheckResult::passed);
        assertThat(step.failures()).containsExactly(step.problem(), "2 checks could not be decided.");
    }

    @Test
    void aCaptureThatFindsNothingFailsTheStep() {
        Case kept = Stays.book("c", Stays.BODY, List.of(), new Capture("x", "//gone"));
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            StepResult step = run(
                            Stays.bench(server.address(), Map.of(), kept),
                            Stays.suite(kept),
                            RunListener.NONE,
                            new StopSignal())
                    .steps()
                    .get(0);
            assertThat(step.verdict()).isEqualTo(Verdict.FAILED);
            assertThat(step.problem()).contains("$x found nothing");
        }
    }

    @Test
    void anUnknownVariableFailsTheStepBeforeAnythingIsSent() {
        Case kept = Stays.book("c", Stays.BODY.replace("34", "{$age}"), List.of());
        StepResult step = run(
                        Stays.bench("http://127.0.0.1:1/", Map.of(), kept),
                        Stays.suite(kept),
                        RunListener.NONE,
                        new StopSignal())
                .steps()
                .get(0);
        assertThat(step.problem()).contains("age");
        assertThat(ledger).isEmpty();
    }

    @Test
    void listenersHearEachStepInOrderAndAStopLeavesTheRestNotRun() {
        Case kept = Stays.book("c", Stays.BODY, List.of());
        StopSignal stop = new StopSignal();
        List<String> heard = new ArrayList<>();
        RunListener listener = event -> {
            heard.add(event.getClass().getSimpleName());
            if (event instanceof RunEvent.StepFinished) {
                stop.stop();
            }
        };
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            Suite suite = Stays.suite(kept, kept);
            Run run = run(Stays.bench(server.address(), Map.of(), kept), suite, listener, stop);
            assertThat(run.steps().get(1).verdict()).isEqualTo(Verdict.NOT_RUN);
            assertThat(heard)
                    .containsExactly("Started", "StepStarted", "Called", "StepFinished", "StepFinished", "Finished");
        }
    }

    @Test
    void soap12GoesWithItsOwnContentTypeAndNoSoapAction() {
        Case kept = Stays.book("c", Stays.BODY, List.of()).withPort("StaySoap12");
        try (PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")))) {
            run(Stays.bench(server.address(), Map.of(), kept), Stays.suite(kept), RunListener.NONE, new StopSignal());
            assertThat(server.requests().get(0))
                    .contains("Content-Type: application/soap+xml; charset=utf-8; action=\"urn:stay:book\"")
                    .contains("http://www.w3.org/2003/05/soap-envelope")
                    .doesNotContain("SOAPAction");
        }
    }
}
