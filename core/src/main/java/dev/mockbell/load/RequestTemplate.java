package dev.mockbell.load;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Changes;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.wire.Framing;
import dev.mockbell.wire.WireHead;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The bytes of a step's request, made by the same recipe as a single call. What cannot change in a run is made once; a
 * plain variable is put in without the expression engine; anything else is evaluated, which must not happen on an event
 * loop.
 */
final class RequestTemplate {
    private static final Pattern PLAIN = Pattern.compile("\\s*\\$([A-Za-z_][\\w.-]*)\\s*");

    /** How much work it is to make the request. */
    enum Cost {
        CONSTANT,
        PLAIN_VARIABLES,
        EXPRESSIONS
    }

    private final RequestRecipe recipe;
    private final Scope scope;
    private final Expressions expressions;
    private final Cost cost;
    private final byte[] constant;

    /**
     * @param recipe with everything filled that cannot change
     * @param captured names of the variables that steps of the run capture
     */
    RequestTemplate(RequestRecipe recipe, Scope scope, Expressions expressions, Set<String> captured) {
        this.recipe = recipe;
        this.scope = scope;
        this.expressions = expressions;
        boolean plain = recipe.expressions(x -> PLAIN.matcher(x).matches());
        boolean fixed = recipe.changes(captured) == Changes.NEVER;
        this.cost = fixed ? Cost.CONSTANT : plain ? Cost.PLAIN_VARIABLES : Cost.EXPRESSIONS;
        this.constant = fixed ? encode(Filler.of(expressions, scope)) : null;
    }

    Cost cost() {
        return cost;
    }

    /** The request; {@code captured} are the values of earlier steps. */
    byte[] bytes(Map<String, String> captured) {
        return switch (cost) {
            case CONSTANT -> constant;
            case PLAIN_VARIABLES -> encode(text -> plain(text, captured));
            case EXPRESSIONS -> encode(Filler.of(expressions, scope.with(captured)));
        };
    }

    private byte[] encode(Filler filler) {
        // each request is written at once, with its length
        return WireHead.encoded(recipe.make(filler).with(Framing.USUAL)).bytes();
    }

    private String plain(Braces text, Map<String, String> captured) {
        StringBuilder out = new StringBuilder();
        for (Braces.Piece piece : text.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                out.append(literal.text());
            } else if (piece instanceof Braces.Piece.Expression expression) {
                out.append(expression.escaping().of(value(expression.xpath(), captured)));
            }
        }
        return out.toString();
    }

    private String value(String xpath, Map<String, String> captured) {
        Matcher matcher = PLAIN.matcher(xpath);
        String name = matcher.matches() ? matcher.group(1) : "";
        String value = captured.get(name);
        if (value == null && scope.variables().containsKey(name)) {
            value = Expressions.text(scope.variables().get(name));
        }
        if (value == null) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "There is no value for $" + name,
                    null,
                    "Capture it in an earlier step.",
                    null);
        }
        return value;
    }
}
