package dev.mockbell.check;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.validation.MessageValidator.Breach;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Holds answers against checks and takes captures from them. Safe for many threads. */
public final class Checker {
    private final Expressions expressions;

    public Checker(Expressions expressions) {
        this.expressions = expressions;
    }

    /**
     * The result of each check, in the order given. A check that itself is wrong, such as a path that does not parse,
     * fails with the reason.
     *
     * @param scope the variables that the checks may use
     */
    public List<CheckResult> check(List<Check> checks, Answer answer, Scope scope) {
        Scope looking = scope(answer, scope);
        Judgement judgement = new Judgement(answer, looking);
        List<CheckResult> results = new ArrayList<>();
        for (Check check : checks) {
            try {
                results.add(check.accept(judgement));
            } catch (Problem problem) {
                results.add(CheckResult.failed(check.title(), "", problem.getMessage(), ""));
            }
        }
        return results;
    }

    /** The scope in which checks and captures of this answer are evaluated. */
    public Scope scope(Answer answer, Scope scope) {
        Scope with = scope.with("status", answer.exchange().status())
                .with("millis", answer.exchange().timing().totalMillis());
        return answer.payload().map(with::on).orElse(with);
    }

    /** The judgement of each kind. */
    private final class Judgement implements Check.Visitor<CheckResult> {
        private final Answer answer;
        private final Scope scope;

        Judgement(Answer answer, Scope scope) {
            this.answer = answer;
            this.scope = scope;
        }

        @Override
        public CheckResult valid(Check.Valid check) {
            return Checker.valid(check, answer);
        }

        @Override
        public CheckResult noFault(Check.NoFault check) {
            return Checker.noFault(check, answer);
        }

        @Override
        public CheckResult fault(Check.FaultIs check) {
            return Checker.fault(check, answer);
        }

        @Override
        public CheckResult value(Check.Value check) {
            return Checker.this.value(check, answer, scope);
        }

        @Override
        public CheckResult condition(Check.Condition check) {
            if (answer.payload().isEmpty()) {
                return CheckResult.failed(check.title(), "", answer.flaw().orElse("the answer has no body"), "");
            }
            return expressions.holds(check.xpath(), scope)
                    ? CheckResult.passed(check.title(), "true", "")
                    : CheckResult.failed(check.title(), "true", "false", "");
        }

        @Override
        public CheckResult within(Check.Within check) {
            if (!answer.whole()) {
                return CheckResult.failed(check.title(), "", answer.flaw().orElse("no answer"), "");
            }
            double millis = answer.exchange().timing().total() / 1e6;
            String found = String.format(java.util.Locale.ROOT, "%.0f ms", millis);
            return millis <= check.millis()
                    ? CheckResult.passed(check.title(), found, "")
                    : CheckResult.failed(check.title(), "at most " + check.millis() + " ms", found, "");
        }
    }

    private static CheckResult valid(Check check, Answer answer) {
        if (answer.flaw().isPresent()) {
            return CheckResult.failed(check.title(), "", answer.flaw().get(), "");
        }
        if (answer.outline().isEmpty() || answer.soap().isEmpty()) {
            return CheckResult.passed(check.title(), "no body is due", "");
        }
        List<Breach> breaches = answer.breaches();
        if (breaches.isEmpty()) {
            return CheckResult.passed(check.title(), "", "");
        }
        Breach first = breaches.get(0);
        String more = breaches.size() > 1 ? " and " + (breaches.size() - 1) + " more" : "";
        return CheckResult.failed(check.title(), "", first.text() + more, first.path());
    }

    private static CheckResult noFault(Check check, Answer answer) {
        if (answer.flaw().isPresent()) {
            return CheckResult.failed(check.title(), "", answer.flaw().get(), "");
        }
        String status = "status " + answer.exchange().status();
        if (answer.fault().isPresent()) {
            var fault = answer.fault().get();
            return CheckResult.failed(check.title(), "", fault.title() + ": " + fault.reason(), status);
        }
        return answer.exchange().status() / 100 == 2
                ? CheckResult.passed(check.title(), status, "")
                : CheckResult.failed(check.title(), "status 2xx", status, "");
    }

    private static CheckResult fault(Check.FaultIs wanted, Answer answer) {
        if (answer.fault().isEmpty()) {
            return CheckResult.failed(
                    wanted.title(),
                    wanted.name().isEmpty() ? "a fault" : "the fault " + wanted.name(),
                    answer.flaw().orElse("no fault, status " + answer.exchange().status()),
                    "");
        }
        var fault = answer.fault().get();
        String code = fault.code().substring(fault.code().indexOf(':') + 1);
        boolean same = wanted.name().isEmpty()
                || fault.detail()
                        .map(d -> d.getLocalPart().equals(wanted.name()))
                        .orElse(false)
                || code.equals(wanted.name())
                || fault.code().equals(wanted.name());
        return same
                ? CheckResult.passed(wanted.title(), fault.reason(), "")
                : CheckResult.failed(wanted.title(), "the fault " + wanted.name(), "the fault " + fault.title(), "");
    }

    private CheckResult value(Check.Value value, Answer answer, Scope scope) {
        if (answer.payload().isEmpty()) {
            return CheckResult.failed(
                    value.title(), value.expected(), answer.flaw().orElse("an answer without body"), value.path());
        }
        var items = expressions.evaluate(value.path(), scope);
        String expected = expressions.fill(value.expected(), scope);
        if (items.size() == 0) {
            return CheckResult.failed(value.title(), expected, "nothing at that path", value.path());
        }
        String found = Expressions.text(items);
        return same(expected, found)
                ? CheckResult.passed(value.title(), found, value.path())
                : CheckResult.failed(value.title(), expected, found, value.path());
    }

    private static boolean same(String expected, String found) {
        if (expected.equals(found) || expected.strip().equals(found.strip())) {
            return true;
        }
        try {
            return new BigDecimal(expected.strip()).compareTo(new BigDecimal(found.strip())) == 0;
        } catch (NumberFormatException notNumbers) {
            return false;
        }
    }

    /**
     * Takes the captures.
     *
     * @return values by name, in order
     * @throws Problem when a path finds nothing
     */
    public Map<String, String> capture(List<Capture> captures, Answer answer, Scope scope) {
        Map<String, String> taken = new LinkedHashMap<>();
        Scope looking = scope(answer, scope);
        for (Capture capture : captures) {
            Optional<String> why = answer.payload().isEmpty()
                    ? Optional.of(answer.flaw().orElse("the answer has no body"))
                    : Optional.empty();
            var items = why.isPresent() ? null : expressions.evaluate(capture.path(), looking);
            if (items == null || items.size() == 0) {
                throw Problem.of(
                        Problem.Kind.EXPRESSION,
                        "The capture $" + capture.name() + " found nothing"
                                + why.map(w -> ": " + w).orElse(""),
                        capture.path(),
                        "Point at the element again.",
                        null);
            }
            taken.put(capture.name(), Expressions.text(items));
        }
        return taken;
    }
}
