package dev.mockbell.expression;

import net.sf.saxon.Configuration;
import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.Literal;
import net.sf.saxon.expr.Operand;
import net.sf.saxon.expr.RangeExpression;
import net.sf.saxon.expr.StaticContext;
import net.sf.saxon.expr.parser.XPathParser;
import net.sf.saxon.functions.hof.UserFunctionReference;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.value.NumericValue;

/**
 * Parses expressions so that compiling them is no work in itself: a long range between two numbers, which the library would
 * take for a constant and look at item by item while it checks types, is left to be made when it is used.
 */
final class BoundedParser extends XPathParser {
    private static final double SMALL = 1_000;

    private final ThreadLocal<Budget> budgets;

    private BoundedParser(StaticContext context, ThreadLocal<Budget> budgets) throws XPathException {
        super(context);
        this.budgets = budgets;
    }

    /** A configuration of the library that parses so. */
    static Configuration configuration(ThreadLocal<Budget> budgets) {
        return new Configuration() {
            @Override
            public XPathParser newExpressionParser(String language, boolean updating, StaticContext context)
                    throws XPathException {
                return "XP".equals(language)
                        ? new BoundedParser(context, budgets)
                        : super.newExpressionParser(language, updating, context);
            }
        };
    }

    @Override
    public Expression parse(String expression, int start, int terminator, StaticContext context) throws XPathException {
        Expression parsed = super.parse(expression, start, terminator, context);
        loosen(parsed);
        return parsed;
    }

    private void loosen(Expression expression) {
        if (expression instanceof UserFunctionReference reference) {
            loosen(reference.getNominalTarget().getBody());
        }
        if (expression instanceof RangeExpression range && !isSmall(range)) {
            for (Operand operand : range.operands()) {
                if (!(operand.getChildExpression() instanceof Guard)) {
                    operand.setChildExpression(new Guard(operand.getChildExpression(), budgets));
                }
            }
        }
        for (Operand operand : expression.operands()) {
            loosen(operand.getChildExpression());
        }
    }

    private static boolean isSmall(RangeExpression range) {
        return Math.abs(number(range.getEndExpression()) - number(range.getStartExpression())) <= SMALL;
    }

    private static double number(Expression expression) {
        return expression instanceof Literal literal && literal.getGroundedValue() instanceof NumericValue number
                ? number.getDoubleValue()
                : Double.NaN;
    }
}
