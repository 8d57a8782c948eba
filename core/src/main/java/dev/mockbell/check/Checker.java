package dev.mockbell.check;

import dev.mockbell.compare.Baseline;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmNodeKind;
import net.sf.saxon.s9api.XdmValue;

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
     * @throws Problem when a path finds nothing, or something else than it should
     */
    public Map<String, XdmValue> capture(List<Capture> captures, Answer answer, Scope scope) {
        Map<String, XdmValue> taken = new LinkedHashMap<>();
        if (captures.isEmpty()) {
            return taken;
        }
        Scope looking = scope(answer, scope);
        Optional<Scope> asking = captures.stream().anyMatch(Capture::fromRequest)
                ? SoapMessage.of(answer.exchange().request(), "request")
                        .payloadDocument()
                        .map(d -> scope.on(expressions.wrap(d)))
                : Optional.empty();
        for (Capture capture : captures) {
            Optional<Scope> within =
                    capture.fromRequest() ? asking : answer.payload().map(p -> looking);
            XdmValue items =
                    within.map(w -> expressions.evaluate(capture.path(), w)).orElseGet(XdmEmptySequence::getInstance);
            if (items.size() == 0) {
                Optional<String> why = within.isPresent()
                        ? Optional.empty()
                        : Optional.of(
                                capture.fromRequest()
                                        ? "the request has no body"
                                        : answer.flaw().orElse("the answer has no body"));
                throw bad(
                        capture,
                        "The capture $" + capture.name() + " found nothing"
                                + why.map(w -> ": " + w).orElse(""));
            }
            taken.put(capture.name(), of(capture, items));
        }
        return taken;
    }

    private static XdmValue of(Capture capture, XdmValue items) {
        return switch (capture.takes()) {
            case VALUE -> Scope.untyped(Expressions.text(items));
            case LIST ->
                new XdmValue(items.stream()
                        .map(i -> Scope.untyped(Expressions.text(i)))
                        .toList());
            case XML -> {
                boolean elements = items.stream()
                        .allMatch(i -> i instanceof XdmNode node && node.getNodeKind() == XdmNodeKind.ELEMENT);
                if (!elements) {
                    throw bad(capture, "The capture $" + capture.name() + " found no element to take as XML");
                }
                yield items;
            }
        };
    }

    private static Problem bad(Capture capture, String what) {
        return Problem.of(Problem.Kind.EXPRESSION, what, capture.path(), "Point at the element again.", null);
    }
}
