package dev.mockbell.content;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A body of several parts (RFC 2046 §5.1). They are stretches of the body: nothing is copied, and it is read through once.
 *
 * @param parts in their order, at least one
 * @param root the one that the others belong to (RFC 2387 §3.2): the one that {@code start} names, else the first
 * @param flaws what is not as it should be though the parts can be told apart, sentences without a full stop
 */
public record Multipart(List<Part> parts, Part root, List<String> flaws) {
    private static final int MOST_PARTS = 1_000;
    private static final int LONGEST_HEAD = 64 * 1024;

    public Multipart {
        parts = List.copyOf(parts);
        flaws = List.copyOf(flaws);
    }

    /** Whether a Content-Type says that there are several parts. */
    public static boolean is(MediaType type) {
        return type.name().startsWith("multipart/");
    }

    /**
     * Finds the parts of a body. One that does not end, or whose lines end in another way, is read as far as it can be.
     *
     * @throws Problem when the body is not in parts as its type says
     */
    public static Multipart of(Content body, MediaType type) {
        String boundary = type.parameter("boundary")
                .filter(b -> !b.isBlank())
                .orElseThrow(() -> flaw("its Content-Type names no boundary"));
        try {
            Reading reading = new Reading(body, boundary);
            List<Part> parts = reading.parts();
            List<String> flaws = new ArrayList<>(reading.flaws);
            Optional<String> start = type.parameter("start").map(s -> s.strip().replaceAll("^<|>$", ""));
            Optional<Part> named = parts.stream()
                    .filter(p -> start.isPresent() && p.id().equals(start))
                    .findFirst();
            if (start.isPresent() && named.isEmpty()) {
                flaws.add("The Content-Type says that it starts with <" + start.get()
                        + ">, which is no part; the first was taken");
            }
            Set<String> ids = new HashSet<>();
            parts.stream()
                    .flatMap(p -> p.id().stream())
                    .filter(id -> !ids.add(id))
                    .findFirst()
                    .ifPresent(id -> flaws.add("Several parts are named <" + id + ">; the first is taken"));
            return new Multipart(parts, named.orElse(parts.get(0)), flaws);
        } catch (IOException e) {
            throw flaw(Problem.reason(e));
        }
    }

    /** Those besides the root. */
    public List<Part> attachments() {
        return parts.stream().filter(p -> p != root).toList();
    }

    private static Problem flaw(String why) {
        return Problem.input("The body should be in several parts, but " + why, null, null);
    }

    /** One byte after the other, many millions of them; the library's stream takes a lock for each. */
    private static final class Bytes {
        private final InputStream from;
        private final byte[] some = new byte[1 << 16];
        private int at;
        private int end;

        Bytes(InputStream from) {
            this.from = from;
        }

        /** Negative at the end. */
        int read() throws IOException {
            if (at == end) {
                at = 0;
                end = Math.max(0, from.read(some));
            }
            return at == end ? -1 : some[at++] & 0xFF;
        }
    }

    /** Goes through a body once. */
    private static final class Reading {
        private final Content body;
        private final String boundary;
        private final List<String> flaws = new ArrayList<>();

        /** What ends a line: where the first boundary ends with a line feed alone, all do. */
        private String lineEnd = "\r\n";

        Reading(Content body, String boundary) {
            this.body = body;
            this.boundary = boundary;
        }

        List<Part> parts() throws IOException {
            String first = "--" + boundary;
            String start = new String(body.start(LONGEST_HEAD), StandardCharsets.ISO_8859_1);
            int at = start.indexOf(first);
            int end = at < 0 ? -1 : start.indexOf('\n', at);
            if (end > 0 && start.charAt(end - 1) != '\r') {
                lineEnd = "\n";
                flaws.add("The lines of its parts end with a line feed alone, where RFC 2046 §5.1.1 wants CR LF");
            }
            return found((lineEnd + first).getBytes(StandardCharsets.ISO_8859_1));
        }

        private List<Part> found(byte[] delimiter) throws IOException {
            List<Long> starts = new ArrayList<>();
            List<Long> ends = new ArrayList<>();
            boolean closed = false;
            // the first delimiter may stand at the very start, as if a line break were before it
            Content text = Content.joined(Content.of(lineEnd.getBytes(StandardCharsets.ISO_8859_1)), body);
            try (InputStream from = text.open()) {
                Bytes in = new Bytes(from);
                long at = 0;
                int matched = 0;
                int b;
                while (!closed && (b = in.read()) >= 0) {
                    at++;
                    // a delimiter has its first byte nowhere else: a boundary holds no line break
                    matched = b == delimiter[matched] ? matched + 1 : b == delimiter[0] ? 1 : 0;
                    if (matched == delimiter.length) {
                        long found = at - matched;
                        matched = 0;
                        StringBuilder line = new StringBuilder();
                        while ((b = in.read()) >= 0 && b != '\n' && line.length() < 1_000) {
                            at++;
                            line.append((char) b);
                        }
                        at += b >= 0 ? 1 : 0;
                        closed = line.toString().startsWith("--");
                        if (!closed && !line.toString().isBlank()) {
                            // a longer boundary that starts alike
                            continue;
                        }
                        if (!starts.isEmpty()) {
                            ends.add(found);
                        }
                        if (!closed) {
                            starts.add(at);
                        }
                        if (starts.size() > MOST_PARTS) {
                            throw flaw("there are more than " + MOST_PARTS);
                        }
                    }
                }
            }
            if (starts.isEmpty()) {
                throw flaw("its boundary stands nowhere in it");
            }
            if (!closed) {
                flaws.add("The last part has no end: its closing boundary, which RFC 2046 §5.1.1 wants, is missing");
                ends.add(text.size());
            }
            List<Part> parts = new ArrayList<>();
            for (int i = 0; i < starts.size(); i++) {
                parts.add(part(text.slice(starts.get(i), Math.max(starts.get(i), ends.get(i)))));
            }
            return List.copyOf(parts);
        }

        /** Takes head and content apart (RFC 5322 §2.2); a part may begin with the empty line, without a head. */
        private Part part(Content whole) throws IOException {
            String head = new String(whole.start(LONGEST_HEAD), StandardCharsets.ISO_8859_1);
            if (head.startsWith(lineEnd)) {
                return new Part(List.of(), whole.slice(lineEnd.length(), whole.size()));
            }
            int end = head.indexOf(lineEnd + lineEnd);
            if (end < 0 && head.length() == LONGEST_HEAD) {
                throw flaw("one has a head of more than " + LONGEST_HEAD + " bytes");
            }
            List<Header> headers = new ArrayList<>();
            String text = end < 0 ? head : head.substring(0, end);
            for (String line : text.replaceAll("\r?\n(?=[ \t])", "").split("\r?\n")) {
                int colon = line.indexOf(':');
                if (colon > 0) {
                    headers.add(new Header(
                            line.substring(0, colon).strip(),
                            line.substring(colon + 1).strip()));
                }
            }
            return new Part(
                    List.copyOf(headers),
                    end < 0 ? Content.NONE : whole.slice(end + 2 * lineEnd.length(), whole.size()));
        }
    }
}
