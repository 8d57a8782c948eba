package dev.mockbell.suite;

import dev.mockbell.check.Check;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * Checks and steps with what is written in them changed.
 *
 * @param xpath what becomes of an XPath
 * @param text what becomes of a text with expressions in braces
 */
public record WrittenExpressions(UnaryOperator<String> xpath, UnaryOperator<String> text)
        implements Check.Visitor<Check> {
    /** Each check with its expressions changed. */
    public List<Check> checks(List<Check> all) {
        return all.stream().map(c -> c.accept(this)).toList();
    }

    /** The suite with the expressions of its steps changed, at whatever depth. */
    public Suite suite(Suite suite) {
        StepVariables steps = new StepVariables(xpath, text);
        return new Suite(
                suite.id(),
                suite.title(),
                steps.all(suite.setUp()),
                steps.all(suite.steps()),
                steps.all(suite.cleanUp()));
    }

    @Override
    public Check valid(Check.Valid check) {
        return check;
    }

    @Override
    public Check noFault(Check.NoFault check) {
        return check;
    }

    @Override
    public Check fault(Check.FaultIs check) {
        return check;
    }

    @Override
    public Check value(Check.Value check) {
        return new Check.Value(xpath.apply(check.path()), text.apply(check.expected()), check.tolerance());
    }

    @Override
    public Check condition(Check.Condition check) {
        return new Check.Condition(xpath.apply(check.xpath()));
    }

    @Override
    public Check within(Check.Within check) {
        return check;
    }

    @Override
    public Check text(Check.MessageText check) {
        return new Check.MessageText(check.match(), wanted(check.match(), check.wanted()));
    }

    private String wanted(Check.Match match, String wanted) {
        return match == Check.Match.MATCHES ? wanted : text.apply(wanted);
    }

    @Override
    public Check header(Check.HeaderIs check) {
        return new Check.HeaderIs(check.name(), check.match(), wanted(check.match(), check.wanted()));
    }

    @Override
    public Check status(Check.StatusIs check) {
        return check;
    }

    @Override
    public Check size(Check.SizeAtMost check) {
        return check;
    }

    @Override
    public Check baseline(Check.SameAsBaseline check) {
        return check;
    }

    @Override
    public Check present(Check.Present check) {
        return new Check.Present(xpath.apply(check.path()));
    }

    @Override
    public Check count(Check.Count check) {
        return new Check.Count(xpath.apply(check.path()), check.from(), check.to());
    }

    @Override
    public Check each(Check.Each check) {
        return new Check.Each(xpath.apply(check.path()), check.all(), xpath.apply(check.holds()));
    }

    @Override
    public Check items(Check.Items check) {
        return new Check.Items(
                xpath.apply(check.path()), check.wanted().stream().map(text).toList(), check.inOrder());
    }

    @Override
    public Check partCount(Check.PartCount check) {
        return check;
    }

    @Override
    public Check part(Check.PartIs check) {
        return new Check.PartIs(check.part(), check.fact(), text.apply(check.wanted()));
    }

    @Override
    public Check secured(Check.Secured check) {
        return check;
    }

    @Override
    public Check not(Check.Not check) {
        return new Check.Not(check.of().accept(this));
    }

    @Override
    public Check stopping(Check.Stopping check) {
        return new Check.Stopping(check.of().accept(this));
    }
}
