package dev.mockbell.desktop.model;

import dev.mockbell.expression.ExpressionWords;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Mistake;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;

/**
 * What texts with expressions give now, worked out off the interface thread: asked for the first time a text gives nothing
 * yet, and {@link #changesProperty()} counts up when it does. Secrets are masked.
 */
public final class ExpressionValues {
    private static final int MOST = 2_000;

    /**
     * What a text gives.
     *
     * @param problem why it gives nothing, a sentence; empty when it gives {@code value}
     * @param at which character of the text is wrong, from 0
     */
    public record Shown(String value, String problem, int at) {}

    private final Tasks tasks;
    private final Expressions expressions;
    private final Supplier<Scope> scope;
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Map<String, Optional<Shown>> known = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Optional<Shown>> eldest) {
            return size() > MOST;
        }
    };
    private int era;

    /** @param expressions those that only look, so that counters stay */
    ExpressionValues(Tasks tasks, Expressions expressions, Supplier<Scope> scope) {
        this.tasks = tasks;
        this.expressions = expressions;
        this.scope = scope;
    }

    /** Counts up when a value has come. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    /** The words that go on with an expression that is being typed. */
    public ExpressionWords.At words(String text, int caret) {
        return ExpressionWords.at(text, caret, scope.get());
    }

    /** As {@link #words}, in XML. */
    public ExpressionWords.At wordsInXml(String xml, int caret) {
        return ExpressionWords.inXml(xml, caret, scope.get());
    }

    /** What the text gives; empty while that is being worked out. */
    public Optional<Shown> of(String text) {
        Optional<Shown> there = known.get(text);
        if (there != null) {
            return there;
        }
        known.put(text, Optional.empty());
        int asked = era;
        Scope with = scope.get();
        tasks.run(
                () -> with.redactor().text(expressions.fill(text, with)),
                value -> came(asked, text, new Shown(value, "", 0)),
                problem -> wrong(asked, text, with, problem));
        return Optional.empty();
    }

    private void wrong(int asked, String text, Scope with, Problem problem) {
        tasks.run(
                () -> Mistake.in(text, expressions, with).map(Mistake::offset).orElse(0),
                at -> came(asked, text, new Shown("", problem.what(), at)),
                unknown -> came(asked, text, new Shown("", problem.what(), 0)));
    }

    private void came(int asked, String text, Shown shown) {
        if (asked == era) {
            known.put(text, Optional.of(shown));
            changes.set(changes.get() + 1);
        }
    }

    /** Forgets all values, because variables have changed. */
    public void forget() {
        era++;
        known.clear();
        changes.set(changes.get() + 1);
    }
}
