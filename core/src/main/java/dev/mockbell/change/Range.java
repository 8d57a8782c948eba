package dev.mockbell.change;

import dev.mockbell.schema.SimpleType;
import java.math.BigDecimal;
import java.util.Optional;
import javax.xml.datatype.DatatypeConfigurationException;
import javax.xml.datatype.DatatypeConstants;
import javax.xml.datatype.DatatypeFactory;

/**
 * From where to where the values of an ordered type go (XML Schema part 2 §4.3.7 to §4.3.10).
 *
 * @param primitive the primitive type whose order it is
 */
record Range(String primitive, Optional<Bound> low, Optional<Bound> high) {
    /** An end of a range, with whether it is itself within. */
    record Bound(String value, boolean inclusive) {}

    static Range of(SimpleType type) {
        return new Range(
                type.primitive(),
                type.minInclusive()
                        .map(v -> new Bound(v, true))
                        .or(() -> type.minExclusive().map(v -> new Bound(v, false))),
                type.maxInclusive()
                        .map(v -> new Bound(v, true))
                        .or(() -> type.maxExclusive().map(v -> new Bound(v, false))));
    }

    Relation to(Range now) {
        return ends(low, now.low, 1).and(ends(high, now.high, -1));
    }

    /** @param inward 1 where larger values lie within, -1 where smaller ones do */
    private Relation ends(Optional<Bound> was, Optional<Bound> is, int inward) {
        if (was.isEmpty() || is.isEmpty()) {
            return Relation.of(is.isEmpty(), was.isEmpty());
        }
        Optional<Integer> order = compare(is.get().value, was.get().value);
        if (order.isEmpty()) {
            return was.equals(is) ? Relation.SAME : Relation.UNKNOWN;
        }
        int moved = order.get() * inward;
        if (moved == 0) {
            moved = Boolean.compare(was.get().inclusive, is.get().inclusive);
        }
        return moved == 0 ? Relation.SAME : moved > 0 ? Relation.NARROWER : Relation.WIDER;
    }

    /** Empty where the order of the two is not determined (XML Schema part 2 §3.2.6.2, §3.2.7.4) or not known. */
    private Optional<Integer> compare(String a, String b) {
        try {
            return switch (primitive) {
                case "decimal" -> Optional.of(Integer.signum(new BigDecimal(a).compareTo(new BigDecimal(b))));
                case "float", "double" -> Optional.of(Integer.signum(Double.compare(number(a), number(b))));
                case "duration" -> determined(dates().newDuration(a).compare(dates().newDuration(b)));
                default -> determined(dates().newXMLGregorianCalendar(a).compare(dates().newXMLGregorianCalendar(b)));
            };
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static double number(String text) {
        return switch (text) {
            case "INF" -> Double.POSITIVE_INFINITY;
            case "-INF" -> Double.NEGATIVE_INFINITY;
            default -> Double.parseDouble(text);
        };
    }

    private static Optional<Integer> determined(int order) {
        return order == DatatypeConstants.INDETERMINATE ? Optional.empty() : Optional.of(order);
    }

    private static DatatypeFactory dates() {
        try {
            return DatatypeFactory.newInstance();
        } catch (DatatypeConfigurationException e) {
            throw new IllegalStateException("every Java has one", e);
        }
    }
}
