package dev.mockbell.expression;

import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.OperandRole;
import net.sf.saxon.expr.UnaryExpression;
import net.sf.saxon.expr.XPathContext;
import net.sf.saxon.expr.parser.RebindingMap;
import net.sf.saxon.om.Item;
import net.sf.saxon.om.SequenceIterator;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.tree.iter.SingletonIterator;
import net.sf.saxon.value.StringValue;

/** The first argument of a function that matches: the text comes guarded, so that matching can be paid for. */
final class GuardedMatching extends UnaryExpression {
    private final ThreadLocal<Budget> budgets;
    private final boolean into;
    private volatile Evaluators evaluators;

    /** @param into whether guarded texts are made, or made plain again */
    GuardedMatching(Expression base, ThreadLocal<Budget> budgets, boolean into) {
        super(base);
        this.budgets = budgets;
        this.into = into;
    }

    @Override
    protected OperandRole getOperandRole() {
        return OperandRole.SAME_FOCUS_ACTION;
    }

    @Override
    public Expression copy(RebindingMap rebindings) {
        return new GuardedMatching(getBaseExpression().copy(rebindings), budgets, into);
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
        return changed(ready().item().eval(context));
    }

    @Override
    public SequenceIterator iterate(XPathContext context) throws XPathException {
        SequenceIterator items = ready().pull().iterate(context);
        if (!into) {
            return items;
        }
        Item first = items.next();
        return first == null ? items : SingletonIterator.makeIterator(changed(first));
    }

    private Item changed(Item item) {
        Budget budget = budgets.get();
        if (item instanceof StringValue text) {
            if (into && budget != null) {
                return new StringValue(new GuardedText(text.getContent(), budget));
            }
            if (!into && text.getContent() instanceof GuardedText guarded) {
                return new StringValue(guarded.text());
            }
        }
        return item;
    }
}
