package dev.mockbell.pattern;

import java.util.List;
import java.util.Optional;

/**
 * A regular expression of XML Schema. Matching takes time in proportion to the text's length times the expression's,
 * whatever the expression. Immutable, safe for many threads.
 */
public final class XsPattern {
    private final String source;
    private final Expression root;
    private final Automaton automaton;

    private XsPattern(String source, Expression root, Automaton automaton) {
        this.source = source;
        this.root = root;
        this.automaton = automaton;
    }

    /** Reads an expression; empty when it is not well-formed or would have more than 20,000 states. */
    public static Optional<XsPattern> parse(String source) {
        try {
            Expression root = ExpressionParser.parse(source);
            return Optional.of(new XsPattern(source, root, Automaton.of(root)));
        } catch (IllegalArgumentException unusable) {
            return Optional.empty();
        }
    }

    /** Whether the expression is well-formed but too large, by its counts, to be made into a matcher. */
    public static boolean isTooLarge(String source) {
        Expression root;
        try {
            root = ExpressionParser.parse(source);
        } catch (IllegalArgumentException notWellFormed) {
            return false;
        }
        try {
            Automaton.of(root);
            return false;
        } catch (IllegalArgumentException tooLarge) {
            return true;
        }
    }

    /** Whether the whole text matches. */
    public boolean matches(String text) {
        return automaton.matches(text);
    }

    /** Whether a matcher that backtracks may take exponential time on some text. */
    public boolean isRisky() {
        return Ambiguity.isExponential(root);
    }

    /**
     * Strings that match all of the expressions, best for reading first, the same ones every time; empty when none was
     * found within a bounded search.
     *
     * @param least fewest characters
     * @param most most characters
     * @param count how many at most
     */
    public static List<String> samples(List<XsPattern> all, int least, int most, int count) {
        return new Search(all.stream().map(p -> p.automaton).toList()).samples(least, most, count);
    }

    /** The first of {@link #samples}, as far as they are found without looking for variety; much less work. */
    public static List<String> nearest(List<XsPattern> all, int least, int most, int count) {
        return new Search(all.stream().map(p -> p.automaton).toList()).nearest(least, most, count);
    }

    @Override
    public String toString() {
        return source;
    }
}
