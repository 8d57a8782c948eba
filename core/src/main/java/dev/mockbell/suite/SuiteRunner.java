package dev.mockbell.suite;

import dev.mockbell.check.Answer;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Checker;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Ties;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import net.sf.saxon.s9api.XdmValue;

/** Runs suites, step by step, carrying captures along. A step that fails does not keep later ones from being tried. */
public final class SuiteRunner {
    private final Workbench bench;
    private final CaseCaller caller;
    private final Checker checker;
    private final Expressions expressions;
    private final UnaryOperator<Exchange> keep;
    private final Clock clock;

    /** @param keep puts an exchange on the ledger and gives it back with its number */
    public SuiteRunner(
            Workbench bench, CaseCaller caller, Expressions expressions, UnaryOperator<Exchange> keep, Clock clock) {
        this.bench = bench;
        this.caller = caller;
        this.checker = new Checker(expressions);
        this.expressions = expressions;
        this.keep = keep;
        this.clock = clock;
    }

    /** Keeps exchanges on a ledger. */
    public static UnaryOperator<Exchange> on(Ledger ledger) {
        return ledger::add;
    }

    /** Runs all steps; a stop ends the one that waits and leaves the rest not run, but what cleans up. */
    public Run run(Suite suite, RunListener listener, StopSignal stop) {
        return run(suite, RunPlan.ALL, listener, stop);
    }

    /** As {@link #run(Suite, RunListener, StopSignal)}, by a plan. */
    public Run run(Suite suite, RunPlan plan, RunListener listener, StopSignal stop) {
        return new SuiteRun(this, bench, expressions, clock, plan, listener, stop).of(suite);
    }

    Checker checker() {
        return checker;
    }

    /**
     * A case called on its own. Two are equal only when they are the same object: comparing what came back could take as long as
     * the answer is large.
     *
     * @param result to be shown and kept, without the values of secrets
     * @param answer what came back
     * @param captured what the captures found, for the steps that follow
     * @param stops whether a check failed after which nothing that follows is to be tried
     */
    public record Called(StepResult result, Answer answer, Map<String, XdmValue> captured, boolean stops) {
        @Override
        public boolean equals(Object other) {
            return this == other;
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(this);
        }

        /** What was captured, as texts. */
        public Map<String, String> texts() {
            Map<String, String> texts = new LinkedHashMap<>();
            captured.forEach((name, value) -> texts.put(name, Expressions.text(value)));
            return texts;
        }
    }

    /**
     * Calls one case, checks it and takes its captures.
     *
     * @throws Problem when the request cannot be made
     */
    public Called call(Case kept, String name, String origin, Scope scope, StopSignal stop) {
        return call(kept, name, origin, Optional.empty(), scope, stop, answer -> {});
    }

    /**
     * As {@link #call(Case, String, String, Scope, StopSignal)}.
     *
     * @param ties what the exchange belongs to, in place of the case
     * @param came hears of the answer once it is read and before it is judged, on the calling thread
     */
    public Called call(
            Case kept,
            String name,
            String origin,
            Optional<Ties> ties,
            Scope scope,
            StopSignal stop,
            Consumer<Answer> came) {
        CallSetup setup = CallSetup.of(bench, kept, scope);
        Sent sent = caller.send(caller.prepare(setup), origin, stop);
        // what the server said before it was told who is there, and what led elsewhere, is kept too
        UnaryOperator<Exchange> tied = e -> ties.map(e::with).orElse(e);
        sent.before().stream().map(tied).forEach(keep::apply);
        Answer answer = sent.answer(
                        MessageOutline.ofAnswer(setup.contract(), setup.bound().operation()), expressions)
                .masked(scope.redactor());
        came.accept(answer);
        CallVerdict verdict = CallVerdict.of(kept, answer, checker, scope);
        Exchange onLedger = keep.apply(tied.apply(verdict.on(answer.exchange())));
        StepResult shown = verdict.result(name, onLedger, scope.redactor());
        return new Called(shown, answer.with(onLedger), verdict.captures(), verdict.stops(kept));
    }

    /** What the checks of a case make of any exchange; nothing is kept. */
    public List<CheckResult> judge(Case kept, Exchange exchange, Scope scope) {
        CallSetup setup = CallSetup.of(bench, kept, scope);
        Answer answer = Answer.of(
                        exchange,
                        MessageOutline.ofAnswer(setup.contract(), setup.bound().operation()),
                        expressions)
                .masked(scope.redactor());
        return CallVerdict.of(kept, answer, checker, scope)
                .result(kept.title(), exchange, scope.redactor())
                .checks();
    }

    /** Weighs an answer once more, after checks or captures were changed. */
    public Called judge(Case kept, Called called, Scope scope) {
        CallVerdict verdict = CallVerdict.of(kept, called.answer(), checker, scope);
        StepResult shown =
                verdict.result(called.result().name(), called.answer().exchange(), scope.redactor());
        return new Called(shown, called.answer(), verdict.captures(), verdict.stops(kept));
    }
}
