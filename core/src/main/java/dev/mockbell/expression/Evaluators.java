package dev.mockbell.expression;

import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.elab.BooleanEvaluator;
import net.sf.saxon.expr.elab.ItemEvaluator;
import net.sf.saxon.expr.elab.PullEvaluator;

/**
 * What evaluates an expression that stands behind a guard, made when it is first needed and kept: making it takes longer than most
 * evaluations. While an expression is compiled its parts may still be replaced, so that what is kept is kept for one of them.
 */
final class Evaluators {
    private final Expression of;
    private volatile ItemEvaluator item;
    private volatile PullEvaluator pull;
    private volatile BooleanEvaluator truth;

    private Evaluators(Expression of) {
        this.of = of;
    }

    /** Those that are there already when they are for that expression, else new ones. */
    static Evaluators of(Evaluators there, Expression expression) {
        return there != null && there.of == expression ? there : new Evaluators(expression);
    }

    ItemEvaluator item() {
        ItemEvaluator made = item;
        if (made == null) {
            made = of.makeElaborator().elaborateForItem();
            item = made;
        }
        return made;
    }

    PullEvaluator pull() {
        PullEvaluator made = pull;
        if (made == null) {
            made = of.makeElaborator().elaborateForPull();
            pull = made;
        }
        return made;
    }

    BooleanEvaluator truth() {
        BooleanEvaluator made = truth;
        if (made == null) {
            made = of.makeElaborator().elaborateForBoolean();
            truth = made;
        }
        return made;
    }
}
