package dev.mockbell.expression;

/**
 * A name with a value, for expressions.
 *
 * @param value the text; empty for a secret, whose value is kept elsewhere
 * @param secret whether it is referred to as {@code $secret:name} and masked wherever it would be shown
 */
public record Variable(String name, String value, boolean secret) {
    /** Whether the text can be the name of a variable: an XML name without a colon. */
    public static boolean isName(String text) {
        return text.matches("[\\p{L}_][\\p{L}\\p{N}_.-]*");
    }
}
