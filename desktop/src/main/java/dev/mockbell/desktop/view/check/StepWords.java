package dev.mockbell.desktop.view.check;

import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import java.util.Optional;
import java.util.function.Function;

/**
 * What each kind of step does, in a few words.
 *
 * @param kept gives a case by its full name
 */
record StepWords(Function<String, Optional<Case>> kept) implements Step.Visitor<String> {
    @Override
    public String call(Step.Call step) {
        return kept.apply(step.caseReference())
                .map(c -> c.operation() + " · " + c.title())
                .orElse("the case is gone");
    }

    @Override
    public String pause(Step.Pause step) {
        return "waits " + time(step.millis());
    }

    @Override
    public String group(Step.Group step) {
        return count(step.inner().size());
    }

    @Override
    public String until(Step.Until step) {
        return "until " + step.condition() + ", " + (step.times() == 1 ? "once" : step.times() + " times at most")
                + ", every " + time(step.everyMillis());
    }

    @Override
    public String suite(Step.RunSuite step) {
        return "the suite " + step.suite();
    }

    @Override
    public String choose(Step.Choose step) {
        return "when " + step.condition();
    }

    @Override
    public String forEach(Step.ForEach step) {
        return step.table()
                .map(t -> "each of " + t.rows().size() + (t.rows().size() == 1 ? " row of " : " rows of ") + t.file())
                .orElseGet(() -> "each of " + step.nodes() + " as $" + step.variable());
    }

    private static String count(int steps) {
        return steps == 1 ? "1 step" : steps + " steps";
    }

    private static String time(long millis) {
        return millis >= 1_000 && millis % 1_000 == 0 ? millis / 1_000 + " s" : millis + " ms";
    }
}
