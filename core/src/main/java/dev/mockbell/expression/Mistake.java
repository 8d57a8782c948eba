package dev.mockbell.expression;

import dev.mockbell.problem.Problem;
import java.util.Optional;
import java.util.OptionalInt;
import javax.xml.transform.SourceLocator;
import net.sf.saxon.trans.XPathException;

/**
 * What is wrong with a text that has expressions, and at which of its characters.
 *
 * @param offset of the character where reading stopped, from 0; the length of the text when it ended too soon
 */
public record Mistake(int offset, Problem problem) {
    /** The first mistake of a text; empty when all of it gives a value. */
    public static Optional<Mistake> in(String text, Expressions expressions, Scope scope) {
        Braces braces;
        try {
            braces = Braces.parse(text);
        } catch (Problem problem) {
            return Optional.of(of(problem));
        }
        return in(braces, expressions, scope);
    }

    /** The first mistake of a text that was taken apart. */
    public static Optional<Mistake> in(Braces braces, Expressions expressions, Scope scope) {
        for (Braces.Piece piece : braces.pieces()) {
            if (piece instanceof Braces.Piece.Expression expression) {
                try {
                    expressions.text(expression.xpath(), scope);
                } catch (Problem problem) {
                    return Optional.of(of(expression, problem));
                }
            }
        }
        return Optional.empty();
    }

    /** The place of what went wrong with an expression; its start when only that is known. */
    public static Mistake of(Braces.Piece.Expression expression, Problem problem) {
        int within = offset(problem, expression.xpath()).orElse(0);
        return new Mistake(expression.offset() + within, problem);
    }

    /** The place of what is wrong with the braces of a text. */
    public static Mistake of(Problem problem) {
        for (Throwable at = problem; at != null; at = at.getCause()) {
            if (at instanceof Place place) {
                return new Mistake(place.offset, problem);
            }
        }
        return new Mistake(0, problem);
    }

    /** Where a problem was found, as its cause. */
    static final class Place extends Exception {
        private static final long serialVersionUID = 1L;

        private final int offset;

        Place(int offset) {
            super("at character " + (offset + 1), null, false, false);
            this.offset = offset;
        }
    }

    /** Where in an XPath expression reading or evaluating stopped; empty when that is not known. */
    static OptionalInt offset(Throwable failure, String xpath) {
        for (Throwable at = failure; at != null; at = at.getCause()) {
            SourceLocator locator = at instanceof XPathException e ? e.getLocator() : null;
            if (locator != null && locator.getLineNumber() > 0 && locator.getColumnNumber() >= 0) {
                int start = 0;
                for (int line = 1; line < locator.getLineNumber() && start >= 0; line++) {
                    start = xpath.indexOf('\n', line == 1 ? 0 : start + 1);
                }
                int offset = start + locator.getColumnNumber();
                return start < 0 || offset > xpath.length() ? OptionalInt.empty() : OptionalInt.of(offset);
            }
        }
        return OptionalInt.empty();
    }
}
