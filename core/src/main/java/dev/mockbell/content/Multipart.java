package dev.mockbell.content;

import dev.mockbell.problem.Problem;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Finds the parts of a body of several (RFC 2046 §5.1). They are stretches of the body: nothing is copied, and it is read
 * through once.
 */
public final class Multipart {
    private static final int MOST_PARTS = 1_000;
    private static final int LONGEST_HEAD = 64 * 1024;

    private final Content body;
    private final byte[] delimiter;

    private Multipart(Content body, String boundary) {
        this.body = body;
        this.delimiter = ("\r\n--" + boundary).getBytes(StandardCharsets.ISO_8859_1);
    }

    /** Whether a Content-Type says that there are several parts. */
    public static boolean is(MediaType type) {
        return type.name().startsWith("multipart/");
    }

    /**
     * The parts in their order.
     *
     * @throws Problem when the body is not in parts as its type says
     */
    public static List<Part> parts(Content body, MediaType type) {
        String boundary = type.parameter("boundary")
                .filter(b -> !b.isBlank())
                .orElseThrow(() -> flaw("its Content-Type names no boundary"));
        try {
            return new Multipart(body, boundary).parts();
        } catch (IOException e) {
            throw flaw(Problem.reason(e));
        }
    }

    /** The part that the others belong to (RFC 2387 §3.2): the one that {@code start} names, else the first. */
    public static Part root(List<Part> parts, MediaType type) {
        Optional<String> start = type.parameter("start").map(s -> s.strip().replaceAll("^<|>$", ""));
        return parts.stream()
                .filter(p -> start.isPresent() && p.id().equals(start))
                .findFirst()
                .orElse(parts.get(0));
    }

    private static Problem flaw(String why) {
        return Problem.input("The body should be in several parts, but " + why, null, null);
    }

    private List<Part> parts() throws IOException {
        List<Long> starts = new ArrayList<>();
        List<Long> ends = new ArrayList<>();
        boolean closed = false;
        // the first delimiter may stand at the very start, as if a line break were before it
        Content text = Content.joined(Content.of(new byte[] {'\r', '\n'}), body);
        try (InputStream in = new BufferedInputStream(text.open(), 1 << 16)) {
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
            throw flaw("the last one has no end");
        }
        List<Part> parts = new ArrayList<>();
        for (int i = 0; i < starts.size(); i++) {
            parts.add(part(text.slice(starts.get(i), Math.max(starts.get(i), ends.get(i)))));
        }
        return List.copyOf(parts);
    }

    /** Takes head and content apart (RFC 5322 §2.2); a part may begin with the empty line, without a head. */
    private static Part part(Content whole) throws IOException {
        String head = new String(whole.start(LONGEST_HEAD), StandardCharsets.ISO_8859_1);
        if (head.startsWith("\r\n")) {
            return new Part(List.of(), whole.slice(2, whole.size()));
        }
        int end = head.indexOf("\r\n\r\n");
        if (end < 0 && head.length() == LONGEST_HEAD) {
            throw flaw("one has a head of more than " + LONGEST_HEAD + " bytes");
        }
        List<Header> headers = new ArrayList<>();
        String text = end < 0 ? head : head.substring(0, end);
        for (String line : text.replaceAll("\r\n(?=[ \t])", "").split("\r\n")) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                headers.add(new Header(
                        line.substring(0, colon).strip(),
                        line.substring(colon + 1).strip()));
            }
        }
        return new Part(List.copyOf(headers), end < 0 ? Content.NONE : whole.slice(end + 4, whole.size()));
    }
}
