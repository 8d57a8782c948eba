package dev.mockbell.expression;

import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.OperandRole;
import net.sf.saxon.expr.UnaryExpression;
import net.sf.saxon.expr.XPathContext;
import net.sf.saxon.expr.parser.ContextItemStaticInfo;
import net.sf.saxon.expr.parser.ExpressionVisitor;
import net.sf.saxon.expr.parser.RebindingMap;
import net.sf.saxon.om.Item;
import net.sf.saxon.om.SequenceIterator;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.value.AtomicValue;

/** Stands before a part of an expression and lets each of its items through against the budget of the evaluation. */
final class Guard extends UnaryExpression {
    private final ThreadLocal<Budget> budgets;
    private volatile Evaluators evaluators;

    Guard(Expression guarded, ThreadLocal<Budget> budgets) {
        super(guarded);
        this.budgets = budgets;
    }

    @Override
    protected OperandRole getOperandRole() {
        return OperandRole.SAME_FOCUS_ACTION;
    }

    /** The guarded part is checked; the guard stays, also before what could be worked out beforehand. */
    @Override
    public Expression typeCheck(ExpressionVisitor visitor, ContextItemStaticInfo context) throws XPathException {
        getOperand().typeCheck(visitor, context);
        return this;
    }

    @Override
    public Expression optimize(ExpressionVisitor visitor, ContextItemStaticInfo context) throws XPathException {
        getOperand().optimize(visitor, context);
        return this;
    }

    @Override
    public Expression copy(RebindingMap rebindings) {
        return new Guard(getBaseExpression().copy(rebindings), budgets);
    }

    @Override
    public int getImplementationMethod() {
        return EVALUATE_METHOD | ITERATE_METHOD;
    }

    private Evaluators ready() {
        Evaluators ready = Evaluators.of(evaluators, getBaseExpression());
        // without a budget it is still being compiled, which may change what stands further within
        if (budgets.get() != null) {
            evaluators = ready;
        }
        return ready;
    }

    @Override
    public Item evaluateItem(XPathContext context) throws XPathException {
        Budget budget = budgets.get();
        Item item = ready().item().eval(context);
        return budget == null || item == null ? item : passed(item, budget);
    }

    @Override
    public SequenceIterator iterate(XPathContext context) throws XPathException {
        Budget budget = budgets.get();
        SequenceIterator items = ready().pull().iterate(context);
        return budget == null ? items : guarded(items, budget);
    }

    @Override
    public boolean effectiveBooleanValue(XPathContext context) throws XPathException {
        Budget budget = budgets.get();
        if (budget != null) {
            budget.spend(1);
        }
        return ready().truth().eval(context);
    }

    static SequenceIterator guarded(SequenceIterator items, Budget budget) {
        return new SequenceIterator() {
            @Override
            public Item next() {
                Item item = items.next();
                return item == null ? null : passed(item, budget);
            }

            @Override
            public void close() {
                items.close();
            }
        };
    }

    static Item passed(Item item, Budget budget) {
        if (item instanceof AtomicValue atomic && atomic.getItemType().isPlainType()) {
            budget.spendText(
                    atomic instanceof net.sf.saxon.value.StringValue text
                            ? text.getContent().length()
                            : 0);
        } else {
            budget.spend(1);
        }
        return item;
    }
}
