package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import java.util.List;

/**
 * What the answers of an operation are prepared on.
 *
 * @param scope types, prefixes and tables
 * @param names of the variables, in the order of their slots
 * @param headers samples of the header blocks that its contract declares for an answer
 */
record Ground(Expressions expressions, Scope scope, List<String> names, MockFiles files, List<String> headers) {
    /** A text with expressions in braces, as plain text. */
    dev.mockbell.expression.Template text(String written) {
        return new dev.mockbell.expression.Template(
                expressions, dev.mockbell.expression.Braces.parse(written), names, scope);
    }
}
