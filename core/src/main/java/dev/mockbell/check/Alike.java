package dev.mockbell.check;

import dev.mockbell.problem.Problem;
import java.math.BigDecimal;
import java.util.Optional;
import javax.xml.datatype.DatatypeConfigurationException;
import javax.xml.datatype.DatatypeConstants;
import javax.xml.datatype.DatatypeFactory;
import javax.xml.datatype.Duration;
import javax.xml.datatype.XMLGregorianCalendar;

/** Whether two values mean the same: as texts, as numbers, as dates and moments (XML Schema 1.0 part 2 §3.2). */
final class Alike {
    private final DatatypeFactory dates;

    Alike() {
        try {
            dates = DatatypeFactory.newInstance();
        } catch (DatatypeConfigurationException e) {
            throw new IllegalStateException("the JDK always has one", e);
        }
    }

    /**
     * Whether what was found is what should be, or near enough.
     *
     * @param tolerance a number or a duration; empty for none
     * @throws Problem when the tolerance is neither
     */
    boolean same(String expected, String found, String tolerance) {
        String wanted = expected.strip();
        String is = found.strip();
        Optional<BigDecimal> number = number(tolerance);
        Optional<Duration> duration =
                number.isPresent() || tolerance.isBlank() ? Optional.empty() : duration(tolerance);
        if (wanted.equals(is)) {
            return true;
        }
        Optional<BigDecimal> a = number(wanted);
        Optional<BigDecimal> b = number(is);
        if (a.isPresent() && b.isPresent()) {
            BigDecimal off = a.get().subtract(b.get()).abs();
            return off.compareTo(number.orElse(BigDecimal.ZERO)) <= 0;
        }
        Optional<XMLGregorianCalendar> x = moment(wanted);
        Optional<XMLGregorianCalendar> y = moment(is);
        return x.isPresent() && y.isPresent() && same(x.get(), y.get(), duration);
    }

    private static boolean same(XMLGregorianCalendar a, XMLGregorianCalendar b, Optional<Duration> off) {
        if (!a.getXMLSchemaType().equals(b.getXMLSchemaType())) {
            return false;
        }
        // many stacks write 2027-02-17Z for a date: where no time zone is asked for, any will do
        if (a.getTimezone() == DatatypeConstants.FIELD_UNDEFINED && b.getTimezone() != a.getTimezone()) {
            b.setTimezone(DatatypeConstants.FIELD_UNDEFINED);
        }
        if (off.isEmpty()) {
            return a.compare(b) == DatatypeConstants.EQUAL;
        }
        XMLGregorianCalendar earliest = (XMLGregorianCalendar) a.clone();
        earliest.add(off.get().negate());
        XMLGregorianCalendar latest = (XMLGregorianCalendar) a.clone();
        latest.add(off.get());
        int low = earliest.compare(b);
        int high = b.compare(latest);
        return (low == DatatypeConstants.LESSER || low == DatatypeConstants.EQUAL)
                && (high == DatatypeConstants.LESSER || high == DatatypeConstants.EQUAL);
    }

    /** A decimal or double of XML Schema; what else may be read as one is a text. */
    private static Optional<BigDecimal> number(String text) {
        String stripped = text.strip();
        // beyond that the exponent alone would fill the memory
        if (!stripped.matches("[+-]?(\\d+(\\.\\d*)?|\\.\\d+)([eE][+-]?\\d{1,4})?") || stripped.length() > 1_000) {
            return Optional.empty();
        }
        return Optional.of(new BigDecimal(stripped));
    }

    private Optional<XMLGregorianCalendar> moment(String text) {
        if (text.length() < 8 || text.length() > 64 || !text.matches("-?\\d{2,}[-:].*")) {
            return Optional.empty();
        }
        try {
            return Optional.of(dates.newXMLGregorianCalendar(text));
        } catch (IllegalArgumentException notOne) {
            return Optional.empty();
        }
    }

    private Optional<Duration> duration(String text) {
        try {
            return Optional.of(dates.newDuration(text.strip()));
        } catch (IllegalArgumentException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The tolerance “" + text + "” is neither a number nor a duration",
                    null,
                    "Write 0.01, or PT5M for five minutes.",
                    e);
        }
    }
}
