package dev.mockbell.content;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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

    /** So many characters of a name are enough to know it again. */
    private static final int SHOWN = 60;

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

    /** What a head may have against it; each is told once, for the first place where it is so. */
    private enum Flaw {
        EMPTY,
        CONTINUED,
        SPACED,
        BARE
    }

    /** Goes through one head after the other. */
    private static final class Reading {
        private final String text;
        private int at;

        /** What is no HTTP may hold a line feed anywhere. */
        private String lineEnd = "\n";

        private Map<Flaw, String> flaws = new EnumMap<>(Flaw.class);

        Reading(String text) {
            this.text = text;
        }

        /** Null where there is no whole one. */
        HttpHead next() {
            flaws = new EnumMap<>(Flaw.class);
            String title = title();
            List<Header> headers = new ArrayList<>();
            String line = title == null ? null : line();
            while (line != null && !line.isEmpty()) {
                String next = line();
                if (next != null && isContinued(next)) {
                    flaws.putIfAbsent(
                            Flaw.CONTINUED,
                            "The field " + shown(line) + " goes on in the next line, which RFC 9112 §5.2 forbids");
                    StringBuilder whole = new StringBuilder(line);
                    while (next != null && isContinued(next)) {
                        whole.append(' ').append(next.strip());
                        next = line();
                    }
                    line = whole.toString();
                }
                field(line, headers);
                line = next;
            }
            return line == null ? null : new HttpHead(title, headers, at, List.copyOf(flaws.values()));
        }

        private String title() {
            int begin = at;
            String title = line();
            while (title != null && title.isEmpty()) {
                flaws.clear();
                flaws.put(Flaw.EMPTY, "Empty lines stand before the start line, which RFC 9112 §2.1 has no place for");
                title = line();
            }
            if (title != null && lineEnd.equals("\n") && !HTTP.matcher(title).matches()) {
                lineEnd = "\r\n";
                at = begin;
                return title();
            }
            return title;
        }

        /** The next line without its end; null where there is no more. */
        private String line() {
            int end = text.indexOf(lineEnd, at);
            if (end < 0) {
                return null;
            }
            String line = text.substring(at, end);
            at = end + lineEnd.length();
            if (lineEnd.equals("\r\n")) {
                return line;
            }
            if (line.endsWith("\r")) {
                return line.substring(0, line.length() - 1);
            }
            flaws.put(Flaw.BARE, "Lines of the head end with a line feed alone, where RFC 9112 §2.2 wants CR LF");
            return line;
        }

        private static boolean isContinued(String line) {
            return line.startsWith(" ") || line.startsWith("\t");
        }

        private static String name(String line) {
            return line.split(":", 2)[0].strip();
        }

        private static String shown(String line) {
            String name = name(line);
            return name.length() > SHOWN ? name.substring(0, SHOWN) + "…" : name;
        }

        private void field(String line, List<Header> headers) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                if (Character.isWhitespace(line.charAt(colon - 1))) {
                    flaws.putIfAbsent(
                            Flaw.SPACED,
                            "White space stands before the colon of " + shown(line) + ", which RFC 9112 §5.1 forbids");
                }
                headers.add(new Header(name(line), line.substring(colon + 1).strip()));
            }
        }
    }
}
