package dev.mockbell.expression;

import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmValue;

/**
 * What an expression can refer to: variables by name, and the message it looks at. Immutable; each {@code with} gives a
 * new one.
 *
 * @param variables by name; those of secrets under {@code secret:name}
 * @param context the node that paths start from; empty when there is none
 * @param types makes values of the contract's types
 * @param tables finds rows of tables
 * @param namespaces by prefix, those of the contract
 * @param secretHosts where the values of secrets may go
 * @param withheld the host that the secrets were taken out for; empty while they are in
 * @param stop ends an evaluation that is under way
 */
public record Scope(
        Map<String, XdmValue> variables,
        Optional<XdmItem> context,
        ValueMaker types,
        RowFinder tables,
        Map<String, String> namespaces,
        SecretHosts secretHosts,
        Optional<String> withheld,
        StopSignal stop) {
    /** No variables and no message. */
    public static final Scope EMPTY = new Scope(
            Map.of(),
            Optional.empty(),
            ValueMaker.NONE,
            RowFinder.NONE,
            Map.of(),
            SecretHosts.NONE,
            Optional.empty(),
            new StopSignal());

    /** What stands before the name of a secret. */
    public static final String SECRET = "secret:";

    public Scope {
        variables = Map.copyOf(variables);
        namespaces = Map.copyOf(namespaces);
    }

    /** With texts as variables. A text that reads as a number still is a text; XPath converts where it is asked to. */
    public Scope with(Map<String, String> texts) {
        Map<String, XdmValue> all = new LinkedHashMap<>(variables);
        texts.forEach((name, text) -> all.put(name, untyped(text)));
        return withAll(all);
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
        return withAll(all);
    }

    /** With more variables, whatever they hold. */
    public Scope withValues(Map<String, XdmValue> values) {
        if (values.isEmpty()) {
            return this;
        }
        Map<String, XdmValue> all = new LinkedHashMap<>(variables);
        all.putAll(values);
        return withAll(all);
    }

    /** With the message, or the part of one, that paths start from. */
    public Scope on(XdmItem item) {
        return new Scope(variables, Optional.of(item), types, tables, namespaces, secretHosts, withheld, stop);
    }

    /** With the types of a contract at hand. */
    public Scope with(ValueMaker maker) {
        return new Scope(variables, context, maker, tables, namespaces, secretHosts, withheld, stop);
    }

    /** With tables at hand. */
    public Scope with(RowFinder finder) {
        return new Scope(variables, context, types, finder, namespaces, secretHosts, withheld, stop);
    }

    /**
     * With the prefixes of a contract for names in paths; where two namespaces have one prefix, the first in the map counts.
     *
     * @param prefixes by namespace
     */
    public Scope withPrefixes(Map<String, String> prefixes) {
        Map<String, String> all = new LinkedHashMap<>();
        prefixes.forEach((namespace, prefix) -> {
            if (!prefix.isEmpty() && !namespace.isEmpty()) {
                all.putIfAbsent(prefix, namespace);
            }
        });
        return new Scope(variables, context, types, tables, all, secretHosts, withheld, stop);
    }

    /** With the value of a secret. */
    public Scope withSecret(String name, String value) {
        return with(SECRET + name, value);
    }

    /** With other hosts that secrets may go to. */
    public Scope with(SecretHosts hosts) {
        return new Scope(variables, context, types, tables, namespaces, hosts, withheld, stop);
    }

    /** With a signal that ends what is being evaluated. */
    public Scope until(StopSignal signal) {
        return new Scope(variables, context, types, tables, namespaces, secretHosts, withheld, signal);
    }

    /** What a request to a host may refer to: everything, or everything but the secrets. */
    public Scope forHost(String host) {
        if (secretHosts.allows(host)) {
            return this;
        }
        Map<String, XdmValue> open = new LinkedHashMap<>(variables);
        boolean taken = open.keySet().removeIf(name -> name.startsWith(SECRET));
        return taken ? new Scope(open, context, types, tables, namespaces, secretHosts, Optional.of(host), stop) : this;
    }

    private Scope withAll(Map<String, XdmValue> all) {
        return new Scope(all, context, types, tables, namespaces, secretHosts, withheld, stop);
    }

    /** Masks the values of its secrets, and all that is a credential by its nature. */
    public Redactor redactor() {
        Map<String, String> secrets = new LinkedHashMap<>();
        variables.forEach((name, value) -> {
            if (name.startsWith(SECRET)) {
                secrets.put(name.substring(SECRET.length()), Expressions.text(value));
            }
        });
        return Redactor.of(secrets);
    }

    /** A text as the value of a variable. A text that reads as a number still is a text; XPath converts where it is asked to. */
    public static XdmAtomicValue untyped(String text) {
        // untyped, so that $nights + 1 is a sum and $code = 'R-1' a comparison of texts, as with a value in a document
        return XdmAtomicValue.makeAtomicValue(new net.sf.saxon.value.StringValue(
                net.sf.saxon.str.StringView.of(text), net.sf.saxon.type.BuiltInAtomicType.UNTYPED_ATOMIC));
    }
}
