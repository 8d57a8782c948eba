package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;

/** Gives texts with their expressions filled. */
public interface Filler {
    /**
     * The text with values in place of its expressions.
     *
     * @throws dev.mockbell.problem.Problem when one gives no value
     */
    String fill(Braces text);

    /** The same for a request to a host, which may not be given every secret. */
    default Filler forHost(String host) {
        return this;
    }

    /** Fills by the expression engine; secrets go to no other host than the scope allows. */
    static Filler of(Expressions expressions, Scope scope) {
        return new Filler() {
            @Override
            public String fill(Braces text) {
                return expressions.fill(text, scope);
            }

            @Override
            public Filler forHost(String host) {
                return of(expressions, scope.forHost(host));
            }
        };
    }
}
