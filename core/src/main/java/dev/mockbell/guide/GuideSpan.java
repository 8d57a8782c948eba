package dev.mockbell.guide;

/**
 * A stretch of words of one look.
 *
 * @param target where a link leads: the name of a page; empty for other words
 */
public record GuideSpan(String text, Style style, String target) {
    /** How words look. */
    public enum Style {
        PLAIN,
        CODE,
        STRONG,
        EMPHASIS,
        LINK
    }
}
