package dev.mockbell.check;

import dev.mockbell.compare.Baseline;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Holds answers against checks and takes captures from them. Safe for many threads. */
public final class Checker {
    private final Expressions expressions;
    private final Alike alike = new Alike();

    public Checker(Expressions expressions) {
        this.expressions = expressions;
    }

    /**
     * The result of each check, in the order given. A check that itself is wrong, such as a path that does not parse,
     * fails with the reason.
     *
     * @param scope the variables that the checks may use
     * @param baseline what the answer is held against by checks that want it
     */
    public List<CheckResult> check(List<Check> checks, Answer answer, Scope scope, Optional<Baseline> baseline) {
        Judgement judgement = new Judgement(expressions, alike, answer, scope(answer, scope), baseline);
        return checks.stream().map(judgement::of).toList();
    }

    /** The scope in which checks and captures of this answer are evaluated. */
    public Scope scope(Answer answer, Scope scope) {
        Scope with = scope.with("status", answer.exchange().status())
                .with("millis", answer.exchange().timing().totalMillis());
        return answer.payload().map(with::on).orElse(with);
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
