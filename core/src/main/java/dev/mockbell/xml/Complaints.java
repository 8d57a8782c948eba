package dev.mockbell.xml;

import java.util.Locale;
import java.util.MissingResourceException;
import org.apache.xerces.impl.msg.XMLMessageFormatter;
import org.apache.xerces.util.MessageFormatter;

/** Words the parser's complaints, and remembers which one came last by its key: what to make of it must not hang on words. */
final class Complaints implements MessageFormatter {
    private static final String DOCTYPE = "DoctypeNotAllowed";
    private static final String EXPANSIONS = "EntityExpansionLimitExceeded";

    private final MessageFormatter words = new XMLMessageFormatter();
    private String last = "";

    @Override
    public String formatMessage(Locale locale, String key, Object[] arguments) throws MissingResourceException {
        last = key;
        return words.formatMessage(locale, key, arguments);
    }

    /** Whether the last was of a document type declaration that is refused. */
    boolean isDoctype() {
        return DOCTYPE.equals(last);
    }

    /** Whether the last was of more entities than are expanded. */
    boolean isExpansion() {
        return EXPANSIONS.equals(last);
    }
}
