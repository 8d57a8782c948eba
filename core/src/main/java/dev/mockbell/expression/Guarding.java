package dev.mockbell.expression;

import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Set;
import net.sf.saxon.expr.ArithmeticExpression;
import net.sf.saxon.expr.ContextItemExpression;
import net.sf.saxon.expr.DynamicFunctionCall;
import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.FunctionCall;
import net.sf.saxon.expr.Literal;
import net.sf.saxon.expr.Operand;
import net.sf.saxon.expr.RootExpression;
import net.sf.saxon.expr.SimpleStepExpression;
import net.sf.saxon.expr.SystemFunctionCall;
import net.sf.saxon.expr.VariableReference;
import net.sf.saxon.expr.instruct.UserFunction;
import net.sf.saxon.functions.hof.UserFunctionReference;
import net.sf.saxon.value.Cardinality;

/** Puts guards into a compiled expression, wherever more than one item or a long text may come through. */
final class Guarding {
    /** Literal sequences up to this are no more work than they look. */
    private static final int SMALL = 1_000;

    private final ThreadLocal<Budget> budgets;
    private final Set<UserFunction> seen = Collections.newSetFromMap(new IdentityHashMap<>());

    Guarding(ThreadLocal<Budget> budgets) {
        this.budgets = budgets;
    }

    /** Guards all that the expression is made of; the expression itself is for the one who evaluates it. */
    void guard(Expression expression) {
        if (expression instanceof UserFunctionReference reference) {
            function(reference.getNominalTarget());
        }
        if (expression instanceof SimpleStepExpression) {
            // it is one step along an axis, and counts on finding it
            return;
        }
        boolean matching = expression instanceof SystemFunctionCall call
                && GuardedFunction.MATCHING.contains(call.getFunctionName().getLocalPart());
        int index = 0;
        for (Operand operand : expression.operands()) {
            Expression child = operand.getChildExpression();
            guard(child);
            operand.setChildExpression(guarded(child, matching && index == 0));
            index++;
        }
    }

    private void function(UserFunction function) {
        if (seen.add(function)) {
            Expression body = function.getBody();
            guard(body);
            function.setBody(guarded(body, false));
        }
    }

    private Expression guarded(Expression child, boolean matched) {
        Expression made = child;
        if (child instanceof SystemFunctionCall call
                && GuardedFunction.MATCHING.contains(call.getFunctionName().getLocalPart())) {
            made = new GuardedMatching(made, budgets, false);
        }
        if (wanted(child)) {
            made = new Guard(made, budgets);
        }
        return matched ? new GuardedMatching(made, budgets, true) : made;
    }

    private static boolean wanted(Expression child) {
        if (child instanceof Literal literal) {
            return literal.getGroundedValue().getLength() > SMALL;
        }
        if (child instanceof VariableReference
                || child instanceof ContextItemExpression
                || child instanceof RootExpression
                || child instanceof Guard) {
            return false;
        }
        return Cardinality.allowsMany(child.getCardinality())
                || child instanceof FunctionCall
                || child instanceof ArithmeticExpression
                || child instanceof DynamicFunctionCall;
    }
}
