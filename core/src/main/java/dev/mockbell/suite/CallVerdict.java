package dev.mockbell.suite;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Checker;
import dev.mockbell.check.Verdict;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import net.sf.saxon.s9api.XdmValue;

/**
 * What is thought of one call: the one place where checks, captures and the answer itself are weighed. A call passes when
 * an answer came, all checks hold, all captures found their value, and a fault was asked for where one came.
 *
 * @param captures what was captured; empty when one of them found nothing
 * @param problem what went wrong besides checks; empty for nothing
 */
public record CallVerdict(List<CheckResult> checks, Map<String, XdmValue> captures, String problem, Verdict verdict) {
    /** Characters of a captured value that are shown and kept with a run. */
    static final int MOST_SHOWN = 1_000;

    /** Weighs the answer of a case. */
    public static CallVerdict of(Case kept, Answer answer, Checker checker, Scope scope) {
        List<CheckResult> checks = checker.check(kept.checks(), answer, scope, kept.baseline());
        Exchange exchange = answer.exchange();
        boolean unasked = exchange.outcome() == Outcome.FAULT && !judgesFaults(kept);
        boolean unanswered = exchange.outcome() == Outcome.FAILED;
        String problem = unasked ? "fault " + exchange.note() : unanswered ? exchange.note() : "";
        Map<String, XdmValue> captures = Map.of();
        try {
            captures = checker.capture(kept.captures(), answer, scope);
        } catch (Problem failed) {
            problem = problem.isEmpty() ? failed.getMessage() : problem;
        }
        boolean passed = problem.isEmpty() && checks.stream().allMatch(CheckResult::passed);
        return new CallVerdict(checks, captures, problem, passed ? Verdict.PASSED : Verdict.FAILED);
    }

    /** Whether a check of the case decides on what a fault means; otherwise nobody asked for one. */
    private static boolean judgesFaults(Case kept) {
        return kept.checks().stream().anyMatch(Check::judgesFaults);
    }

    public boolean passed() {
        return verdict == Verdict.PASSED;
    }

    /** Why it failed, the first reason; empty when it passed. */
    public Optional<String> reason() {
        if (passed()) {
            return Optional.empty();
        }
        return checks.stream()
                .filter(c -> !c.passed())
                .map(CheckResult::title)
                .findFirst()
                .or(() -> Optional.of(problem));
    }

    /** The exchange with the outcome that follows. */
    public Exchange on(Exchange exchange) {
        boolean worse = !passed() && exchange.outcome() != Outcome.FAILED && problem.isEmpty()
                || !passed() && exchange.outcome() == Outcome.FINE;
        return worse ? exchange.withOutcome(Outcome.FAILED, "failed: " + reason().orElse("")) : exchange;
    }

    /** Whether a check failed after which nothing that follows is to be tried. */
    public boolean stops(Case kept) {
        for (int i = 0; i < checks.size(); i++) {
            if (!checks.get(i).passed() && kept.checks().get(i).stops()) {
                return true;
            }
        }
        return false;
    }

    /** What a variable holds, on one line. */
    static String shown(XdmValue value) {
        String text = value.stream().map(Expressions::text).collect(Collectors.joining(", "));
        return text.length() > MOST_SHOWN ? text.substring(0, MOST_SHOWN) + "…" : text;
    }

    /** As the result of a step, which is shown and kept: without the values of secrets. */
    public StepResult result(String name, Exchange onLedger, Redactor redactor) {
        Map<String, String> shown = new LinkedHashMap<>();
        captures.forEach((variable, value) -> shown.put(variable, redactor.text(shown(value))));
        List<CheckResult> masked = checks.stream()
                .map(c -> new CheckResult(
                        c.verdict(),
                        redactor.text(c.title()),
                        redactor.text(c.expected()),
                        redactor.text(c.found()),
                        c.where()))
                .toList();
        return new StepResult(
                name, verdict, onLedger.timing().total() / 1e6, onLedger.id(), masked, shown, redactor.text(problem));
    }
}
