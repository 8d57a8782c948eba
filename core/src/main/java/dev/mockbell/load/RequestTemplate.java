package dev.mockbell.load;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Scope;
import dev.mockbell.request.Changes;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * The bytes of a step's request, made by the same recipe as a single call. What cannot change in a run is made once; where only
 * values in the body change, they are put into what is encoded already; anything else is made anew, which must not happen on an
 * event loop.
 */
final class RequestTemplate {
    /** How much work it is to make the request. */
    enum Cost {
        CONSTANT,
        /** Made on an event loop, unless an expression turns out to take more. */
        SLOTS,
        WHOLE
    }

    private final RequestRecipe recipe;
    private final Way way;
    private final Scope scope;
    private final Expressions expressions;
    private final Cost cost;
    private final byte[] constant;
    private final Optional<RequestSlots> slots;

    /**
     * @param recipe with everything filled that cannot change
     * @param way on which it goes
     * @param captured names of the variables that steps of the run capture, and that rows give
     */
    RequestTemplate(RequestRecipe recipe, Way way, Scope scope, Expressions expressions, Set<String> captured) {
        this.recipe = recipe;
        this.way = way;
        this.scope = scope;
        this.expressions = expressions;
        boolean fixed = recipe.changes(captured) == Changes.NEVER;
        this.constant = fixed ? encode(Filler.of(expressions, scope)) : null;
        this.slots = fixed ? Optional.empty() : RequestSlots.of(recipe, way, scope, expressions, captured);
        this.cost = fixed ? Cost.CONSTANT : slots.isPresent() ? Cost.SLOTS : Cost.WHOLE;
    }

    Cost cost() {
        return cost;
    }

    /**
     * The request.
     *
     * @param values of earlier steps and of the row
     * @param effort how much an expression may take
     * @throws dev.mockbell.problem.Problem when there is no value
     * @throws Expressions.MoreEffort when it takes more
     */
    byte[] bytes(Map<String, String> values, Effort effort) {
        return switch (cost) {
            case CONSTANT -> constant;
            case SLOTS -> slots.orElseThrow().bytes(values, effort);
            case WHOLE -> encode(Filler.of(expressions, scope.with(values)));
        };
    }

    private byte[] encode(Filler filler) {
        return way.written(recipe.make(filler));
    }
}
