package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** When a part of a request can become another: it decides what may be made once and sent many times. In rising order. */
public enum Changes {
    /** The same for every request of a run. */
    NEVER,
    /** By the values that earlier steps captured. */
    WITH_CAPTURES,
    /** With every request: randomness, counters, the time. */
    EVERY_CALL;

    private static final Pattern VARIABLE = Pattern.compile("\\$\\s*(?:Q\\{\\s*\\})?([\\p{L}_][\\p{L}\\p{N}_.-]*)");

    /** Functions whose value is another each time, by our own prefix or its namespace, and those of XPath. */
    private static final Pattern RESTLESS = Pattern.compile(
            "bell\\s*:|urn:mockbell:functions|current-(?:date|time|dateTime)|random-number-generator|generate-id|function-lookup");

    /** Texts that change when either does. */
    Changes and(Changes other) {
        return compareTo(other) >= 0 ? this : other;
    }

    /**
     * When the value of a text with expressions can change.
     *
     * @param captured names of the variables that steps capture
     */
    static Changes of(Braces text, Set<String> captured) {
        Changes all = NEVER;
        for (Braces.Piece piece : text.pieces()) {
            if (piece instanceof Braces.Piece.Expression expression) {
                all = all.and(of(expression.xpath(), captured));
            }
        }
        return all;
    }

    /** The text with every expression filled whose value cannot change. */
    static Braces settled(Braces text, Filler filler, Set<String> captured) {
        List<Braces.Piece> pieces = new ArrayList<>();
        for (Braces.Piece piece : text.pieces()) {
            boolean settles = piece instanceof Braces.Piece.Expression e && of(e.xpath(), captured) == NEVER;
            pieces.add(
                    settles ? new Braces.Piece.Literal(filler.fill(new Braces(text.source(), List.of(piece)))) : piece);
        }
        return new Braces(text.source(), List.copyOf(pieces));
    }

    private static Changes of(String xpath, Set<String> captured) {
        if (RESTLESS.matcher(xpath).find()) {
            return EVERY_CALL;
        }
        Matcher variable = VARIABLE.matcher(xpath);
        while (variable.find()) {
            if (captured.contains(variable.group(1))) {
                return WITH_CAPTURES;
            }
        }
        return NEVER;
    }
}
