package dev.mockbell.expression;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmValue;

/**
 * What an expression can refer to: variables by name, and the message it looks at. Immutable; each {@code with} gives a
 * new one.
 *
 * @param context the node that paths start from; empty when there is none
 */
public record Scope(Map<String, XdmValue> variables, Optional<XdmItem> context) {
    /** No variables and no message. */
    public static final Scope EMPTY = new Scope(Map.of(), Optional.empty());

    public Scope {
        variables = Map.copyOf(variables);
    }

    /** With texts as variables. A text that reads as a number still is a text; XPath converts where it is asked to. */
    public Scope with(Map<String, String> texts) {
        Map<String, XdmValue> all = new LinkedHashMap<>(variables);
        texts.forEach((name, text) -> all.put(name, untyped(text)));
        return new Scope(all, context);
    }

    /** With one more variable. */
    public Scope with(String name, String text) {
        return with(Map.of(name, text));
    }

    /** With one more variable whose value is a number. */
    public Scope with(String name, long number) {
        return with(name, new XdmAtomicValue(number));
    }

    /** With one more variable that holds any value. */
    public Scope with(String name, XdmValue value) {
        Map<String, XdmValue> all = new LinkedHashMap<>(variables);
        all.put(name, value);
        return new Scope(all, context);
    }

    /** With the message that paths start from. */
    public Scope on(XdmNode node) {
        return new Scope(variables, Optional.of(node));
    }

    private static XdmValue untyped(String text) {
        // untyped, so that $nights + 1 is a sum and $code = 'R-1' a comparison of texts, as with a value in a document
        return XdmAtomicValue.makeAtomicValue(new net.sf.saxon.value.StringValue(
                net.sf.saxon.str.StringView.of(text), net.sf.saxon.type.BuiltInAtomicType.UNTYPED_ATOMIC));
    }
}
