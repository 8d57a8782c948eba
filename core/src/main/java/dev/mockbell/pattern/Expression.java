package dev.mockbell.pattern;

import java.util.List;

/** The syntax tree of an expression (XML Schema part 2 appendix F). */
sealed interface Expression {
    /** One character of a set. */
    record Letter(CharSet set) implements Expression {}

    /** One after the other. */
    record Sequence(List<Expression> parts) implements Expression {}

    /** One of them. */
    record Choice(List<Expression> branches) implements Expression {}

    /**
     * The same several times.
     *
     * @param max at most; negative for no bound
     */
    record Repeat(Expression part, int min, int max) implements Expression {}
}
