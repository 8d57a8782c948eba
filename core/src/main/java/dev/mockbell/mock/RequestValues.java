package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmMap;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmValue;

/**
 * What expressions see of one request.
 *
 * @param all by slot
 * @param context what paths start from; null when there is nothing in the body
 * @param caller who calls; empty where nobody asks
 * @param effort how much an expression may take now
 */
record RequestValues(XdmValue[] all, XdmItem context, String caller, Expressions.Effort effort) {
    /**
     * Of a request, with nothing remembered.
     *
     * @param slots how many there are
     */
    static RequestValues of(
            RequestReading reading, XdmAtomicValue operation, long hit, int slots, Expressions.Effort effort) {
        XdmValue[] values = new XdmValue[slots];
        XdmNode content = reading.content().orElse(null);
        values[Slot.REQUEST.ordinal()] = content == null ? XdmEmptySequence.getInstance() : content;
        values[Slot.HEADERS.ordinal()] = reading.headers().isEmpty()
                ? XdmEmptySequence.getInstance()
                : new XdmValue(reading.headers().stream()
                        .map(d -> (XdmItem) d.children().iterator().next())
                        .toList());
        values[Slot.OPERATION.ordinal()] = operation;
        values[Slot.HITS.ordinal()] = new XdmAtomicValue(hit);
        values[Slot.CALLER.ordinal()] = XdmEmptySequence.getInstance();
        values[Slot.ANSWER.ordinal()] = XdmEmptySequence.getInstance();
        for (int i = Slot.values().length; i < slots; i++) {
            values[i] = XdmEmptySequence.getInstance();
        }
        return new RequestValues(values, content, "", effort);
    }

    RequestValues with(Map<String, String> http) {
        Map<XdmAtomicValue, XdmValue> map = new LinkedHashMap<>();
        http.forEach((name, value) -> map.put(new XdmAtomicValue(name), new XdmAtomicValue(value)));
        all[Slot.HTTP.ordinal()] = new XdmMap(map);
        return this;
    }

    RequestValues calledBy(String name) {
        all[Slot.CALLER.ordinal()] = new XdmAtomicValue(name);
        return new RequestValues(all, context, name, effort);
    }

    /** The same for expressions that see an answer. */
    RequestValues answered(XdmNode answer) {
        XdmValue[] values = Arrays.copyOf(all, all.length);
        values[Slot.ANSWER.ordinal()] = answer;
        return new RequestValues(values, context, caller, effort);
    }
}
