package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
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
 * @param effort how much an expression may take now
 */
record RequestValues(XdmValue[] all, XdmItem context, Expressions.Effort effort) {
    static RequestValues of(
            RequestReading reading,
            MockRequest request,
            String operation,
            long hit,
            boolean http,
            Expressions.Effort effort) {
        XdmValue[] values = new XdmValue[Slot.values().length];
        XdmNode content = reading.content().orElse(null);
        values[Slot.REQUEST.ordinal()] = content == null ? XdmEmptySequence.getInstance() : content;
        values[Slot.HEADERS.ordinal()] = new XdmValue(reading.headers().stream()
                .map(d -> (XdmItem) d.children().iterator().next())
                .toList());
        values[Slot.OPERATION.ordinal()] = new XdmAtomicValue(operation);
        values[Slot.HITS.ordinal()] = new XdmAtomicValue(hit);
        if (http) {
            values[Slot.HTTP.ordinal()] = http(request);
        }
        return new RequestValues(values, content, effort);
    }

    private static XdmMap http(MockRequest request) {
        Map<XdmAtomicValue, XdmValue> map = new LinkedHashMap<>();
        request.http().get().forEach((name, value) -> map.put(new XdmAtomicValue(name), new XdmAtomicValue(value)));
        return new XdmMap(map);
    }
}
