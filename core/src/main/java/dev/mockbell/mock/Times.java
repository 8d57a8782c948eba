package dev.mockbell.mock;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Some of the numbers from 1 on, written as {@code 1}, {@code 2-4}, {@code 8-} and lists of those.
 *
 * @param spans empty for all
 */
public record Times(List<Span> spans) {
    /** Every number. */
    public static final Times ALL = new Times(List.of());

    private static final Pattern SPAN = Pattern.compile("([1-9][0-9]{0,8})(\\s*[-–]\\s*([1-9][0-9]{0,8})?)?");

    public Times {
        spans = List.copyOf(spans);
    }

    /** From one number to another, both included. */
    public record Span(long from, long to) {
        private static final long NO_END = Long.MAX_VALUE;

        @Override
        public String toString() {
            return from == to ? "" + from : from + "-" + (to == NO_END ? "" : to);
        }
    }

    /**
     * Reads what was written; nothing stands for all.
     *
     * @throws Problem when it is something else
     */
    public static Times parse(String text) {
        if (text.isBlank()) {
            return ALL;
        }
        List<Span> spans = new ArrayList<>();
        for (String one : text.split(",", -1)) {
            Matcher matcher = SPAN.matcher(one.strip());
            boolean read = matcher.matches();
            long from = read ? Long.parseLong(matcher.group(1)) : 0;
            long to = !read || matcher.group(2) == null
                    ? from
                    : matcher.group(3) == null ? Span.NO_END : Long.parseLong(matcher.group(3));
            if (!read || to < from) {
                throw Problem.input(
                        "“" + text + "” does not say which times",
                        null,
                        "Write 1, or 2-4, or 8-, or several with commas.");
            }
            spans.add(new Span(from, to));
        }
        return new Times(spans);
    }

    public boolean isAll() {
        return spans.isEmpty();
    }

    public boolean has(long number) {
        return isAll() || spans.stream().anyMatch(s -> s.from() <= number && number <= s.to());
    }

    /** As it is written; empty for all. */
    @Override
    public String toString() {
        return spans.stream().map(Span::toString).collect(Collectors.joining(", "));
    }
}
