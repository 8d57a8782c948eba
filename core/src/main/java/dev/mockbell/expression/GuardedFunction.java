package dev.mockbell.expression;

import java.util.Set;
import net.sf.saxon.expr.ContextOriginator;
import net.sf.saxon.expr.XPathContext;
import net.sf.saxon.functions.AbstractFunction;
import net.sf.saxon.om.FunctionItem;
import net.sf.saxon.om.GroundedValue;
import net.sf.saxon.om.Item;
import net.sf.saxon.om.Sequence;
import net.sf.saxon.om.SequenceIterator;
import net.sf.saxon.om.SequenceTool;
import net.sf.saxon.om.StructuredQName;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.type.FunctionItemType;
import net.sf.saxon.value.StringValue;

/** A function of the library as a value; what goes through it is paid for as in a plain call. */
final class GuardedFunction extends AbstractFunction {
    /** Those that hold a regular expression against their first argument. */
    static final Set<String> MATCHING = Set.of("matches", "replace", "tokenize", "analyze-string");

    private final FunctionItem function;
    private final ThreadLocal<Budget> budgets;

    GuardedFunction(FunctionItem function, ThreadLocal<Budget> budgets) {
        this.function = function;
        this.budgets = budgets;
    }

    @Override
    public FunctionItemType getFunctionItemType() {
        return function.getFunctionItemType();
    }

    @Override
    public StructuredQName getFunctionName() {
        return function.getFunctionName();
    }

    @Override
    public int getArity() {
        return function.getArity();
    }

    @Override
    public String getDescription() {
        return function.getDescription();
    }

    @Override
    public XPathContext makeNewContext(XPathContext calling, ContextOriginator originator) {
        return function.makeNewContext(calling, originator);
    }

    @Override
    public Sequence call(XPathContext context, Sequence[] arguments) throws XPathException {
        Budget budget = budgets.get();
        if (budget == null) {
            return function.call(context, arguments);
        }
        budget.spend(1);
        Sequence[] given = arguments.clone();
        boolean matching = function.getFunctionName() != null
                && MATCHING.contains(function.getFunctionName().getLocalPart());
        if (matching && given.length > 0) {
            given[0] = guardedText(given[0], budget);
        }
        GroundedValue result = SequenceTool.toGroundedValue(
                Guard.guarded(function.call(context, given).iterate(), budget));
        return matching ? plain(result) : result;
    }

    @Override
    public boolean isTrustedResultType() {
        return function.isTrustedResultType();
    }

    /** The text to be matched, each look at which is paid for. */
    static Sequence guardedText(Sequence argument, Budget budget) throws XPathException {
        SequenceIterator items = argument.iterate();
        Item first = items.next();
        boolean single = first instanceof StringValue && items.next() == null;
        return single
                ? new StringValue(new GuardedText(((StringValue) first).getContent(), budget))
                : first == null ? argument : SequenceTool.toGroundedValue(argument.iterate());
    }

    /** What a function gave back, without guarded texts in it. */
    static GroundedValue plain(GroundedValue value) {
        if (value instanceof StringValue text && text.getContent() instanceof GuardedText guarded) {
            return new StringValue(guarded.text());
        }
        return value;
    }
}
