package dev.mockbell.xml;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/** Finds and replaces in a text, literally or by a regular expression of Java, within a bounded time. */
public final class TextFinder {
    /** How many places are found at most. */
    public static final int MOST = 20_000;

    private static final long NANOS = 2_000_000_000L;

    private final Pattern pattern;
    private final boolean literal;

    /** A stretch of the text. */
    public record Range(int start, int end) {}

    private TextFinder(Pattern pattern, boolean literal) {
        this.pattern = pattern;
        this.literal = literal;
    }

    /**
     * Looks for a text.
     *
     * @param asPattern whether it is a regular expression
     * @throws Problem when it is none
     */
    public static TextFinder of(String wanted, boolean asPattern, boolean matchCase) {
        int flags = Pattern.MULTILINE | (matchCase ? 0 : Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
        try {
            return new TextFinder(Pattern.compile(asPattern ? wanted : Pattern.quote(wanted), flags), !asPattern);
        } catch (PatternSyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The pattern is not well-formed: " + e.getDescription(),
                    e.getIndex() < 0 ? null : "character " + (e.getIndex() + 1),
                    "Mend it there, or look for the text itself.",
                    e);
        }
    }

    /** Where it stands, empty matches left out, the first {@link #MOST}. */
    public List<Range> in(String text) {
        List<Range> found = new ArrayList<>();
        Matcher matcher = matcher(text);
        while (found.size() < MOST && matcher.find()) {
            if (matcher.end() > matcher.start()) {
                found.add(new Range(matcher.start(), matcher.end()));
            }
        }
        return found;
    }

    /** The text with every match replaced; in a pattern's replacement {@code $1} is what its first group matched. */
    public String replaceAll(String text, String replacement) {
        try {
            return matcher(text).replaceAll(literal ? Matcher.quoteReplacement(replacement) : replacement);
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw notReplacement(e);
        }
    }

    /** What one match is replaced by. */
    public String replacement(String text, Range range, String replacement) {
        if (literal) {
            return replacement;
        }
        Matcher matcher = matcher(text);
        StringBuilder out = new StringBuilder();
        if (!matcher.find(range.start())) {
            return replacement;
        }
        try {
            matcher.appendReplacement(out, replacement);
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw notReplacement(e);
        }
        return out.substring(matcher.start());
    }

    private static Problem notReplacement(RuntimeException e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The replacement is not well-formed: " + Problem.reason(e),
                null,
                "Write $1 for the first group and \\$ for the character.",
                e);
    }

    private Matcher matcher(String text) {
        return pattern.matcher(new Timed(text, System.nanoTime() + NANOS));
    }

    /** A text that is not read any more after a while, as a pattern may take exponential time. */
    private static final class Timed implements CharSequence {
        private final CharSequence text;
        private final long until;
        private int reads;

        Timed(CharSequence text, long until) {
            this.text = text;
            this.until = until;
        }

        @Override
        public char charAt(int index) {
            if ((++reads & 0xFFF) == 0 && System.nanoTime() > until) {
                throw Problem.input(
                        "The pattern takes too long on this text", null, "Make it simpler: no repeat within a repeat.");
            }
            return text.charAt(index);
        }

        @Override
        public int length() {
            return text.length();
        }

        @Override
        public CharSequence subSequence(int start, int end) {
            return text.subSequence(start, end);
        }

        @Override
        public String toString() {
            return text.toString();
        }
    }
}
