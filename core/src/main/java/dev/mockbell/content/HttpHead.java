package dev.mockbell.content;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Start line and header fields in front of a message, behind interim responses (RFC 9112 §2.1, RFC 9110 §15.2). Read as those read
 * it who are not strict: lines may end with a line feed alone, empty ones stand before the first, and a field goes on in the next
 * line.
 *
 * @param title the start line
 * @param end where the body begins
 * @param flaws what is not as it should be, sentences without a full stop
 */
public record HttpHead(String title, List<Header> headers, int end, List<String> flaws) {
    /** Most heads are shorter; more is only taken where that is not so. */
    private static final int USUAL = 16 << 10;

    /** Heads are bounded to less than this where they are received, interim ones included. */
    private static final int LONGEST = 1 << 20;

    /** Another one follows, but for that which says that something else than HTTP does. */
    private static final Pattern INTERIM = Pattern.compile("HTTP/1\\.\\d 1(?!01)\\d\\d\\b.*");

    private static final Pattern HTTP = Pattern.compile("HTTP/\\d.*|.* HTTP/\\d\\.\\d\\s*");

    public HttpHead {
        headers = List.copyOf(headers);
        flaws = List.copyOf(flaws);
    }

    /** The head in front of what went over a connection; empty where it does not end, or is none. */
    public static Optional<HttpHead> of(Content wire) {
        Optional<HttpHead> found = of(new String(wire.start(USUAL), StandardCharsets.ISO_8859_1));
        return found.isPresent() || wire.size() <= USUAL
                ? found
                : of(new String(wire.start(LONGEST), StandardCharsets.ISO_8859_1));
    }

    /** As {@link #of(Content)}, with characters in place of bytes. */
    public static Optional<HttpHead> of(String text) {
        Reading reading = new Reading(text);
        HttpHead head = reading.next();
        while (head != null && INTERIM.matcher(head.title).matches()) {
            head = reading.next();
        }
        return Optional.ofNullable(head);
    }

    /** Goes through one head after the other. */
    private static final class Reading {
        private final String text;
        private int at;
        private boolean bare;

        Reading(String text) {
            this.text = text;
        }

        /** Null where there is no whole one. */
        HttpHead next() {
            Set<String> flaws = new LinkedHashSet<>();
            bare = false;
            String title = line();
            while (title != null && title.isEmpty()) {
                flaws.add("Empty lines stand before the start line, which RFC 9112 §2.1 has no place for");
                bare = false;
                title = line();
            }
            List<Header> headers = new ArrayList<>();
            String line = title == null ? null : line();
            while (line != null && !line.isEmpty()) {
                String next = line();
                if (next != null && isContinued(next)) {
                    StringBuilder whole = new StringBuilder(line);
                    while (next != null && isContinued(next)) {
                        whole.append(' ').append(next.strip());
                        next = line();
                    }
                    flaws.add("The field " + name(line) + " goes on in the next line, which RFC 9112 §5.2 forbids");
                    line = whole.toString();
                }
                field(line, headers, flaws);
                line = next;
            }
            // what is no HTTP may hold an empty line anywhere
            if (line == null || bare && !HTTP.matcher(title).matches()) {
                return null;
            }
            if (bare) {
                flaws.add("Lines of the head end with a line feed alone, where RFC 9112 §2.2 wants CR LF");
            }
            return new HttpHead(title, headers, at, List.copyOf(flaws));
        }

        /** The next line without its end; null where there is no more. */
        private String line() {
            int end = text.indexOf('\n', at);
            if (end < 0) {
                return null;
            }
            boolean whole = end > at && text.charAt(end - 1) == '\r';
            bare |= !whole;
            String line = text.substring(at, whole ? end - 1 : end);
            at = end + 1;
            return line;
        }

        private static boolean isContinued(String line) {
            return line.startsWith(" ") || line.startsWith("\t");
        }

        private static String name(String line) {
            return line.split(":", 2)[0].strip();
        }

        private static void field(String line, List<Header> headers, Set<String> flaws) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                if (Character.isWhitespace(line.charAt(colon - 1))) {
                    flaws.add("White space stands before the colon of " + name(line) + ", which RFC 9112 §5.1 forbids");
                }
                headers.add(new Header(name(line), line.substring(colon + 1).strip()));
            }
        }
    }
}
