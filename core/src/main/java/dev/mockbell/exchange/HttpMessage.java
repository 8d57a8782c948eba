package dev.mockbell.exchange;

import dev.mockbell.content.Chunks;
import dev.mockbell.content.Content;
import dev.mockbell.content.ContentCoding;
import dev.mockbell.content.Header;
import dev.mockbell.content.HttpHead;
import dev.mockbell.content.Multipart;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A message of HTTP/1.1 (RFC 9112 §2.1).
 */
public final class HttpMessage implements Message {
    /** So many bytes may stand around the key and the value of an encrypted body, beside what base64 adds. */
    private static final int ENCRYPTION = 1 << 20;

    private static final int NO_CONTENT = 204;
    private static final int NOT_MODIFIED = 304;

    /** RFC 9110 §8.6, as far as it can be counted. */
    private static final Pattern LENGTH = Pattern.compile("\\d{1,18}");

    private final String title;
    private final List<Header> headers;
    private final Content body;
    private final Content wire;

    /** Finding the parts goes through the whole body, and they are asked for again and again; null until they are. */
    private Multipart parts;

    private Problem notInParts;

    public HttpMessage(String title, List<Header> headers, Content body, Content wire) {
        this.title = title;
        this.headers = headers;
        this.body = body;
        this.wire = wire;
    }

    /** The request line or status line. */
    @Override
    public String title() {
        return title;
    }

    @Override
    public List<Header> headers() {
        return headers;
    }

    @Override
    public Content body() {
        return body;
    }

    @Override
    public Content wire() {
        return wire;
    }

    @Override
    public synchronized Multipart inParts() {
        if (parts == null && notInParts == null) {
            try {
                parts = Message.super.inParts();
            } catch (Problem e) {
                notInParts = e;
            }
        }
        if (notInParts != null) {
            throw notInParts;
        }
        return parts;
    }

    /** Also of its head, where it ends, and its coding, for which the body is unpacked once more. */
    @Override
    public List<String> flaws() {
        Optional<HttpHead> head = HttpHead.of(wire);
        List<String> flaws = new ArrayList<>(head.map(HttpHead::flaws).orElseGet(List::of));
        if (head.isPresent()) {
            try {
                flaws.addAll(framed(wire.slice(head.get().end(), wire.size())));
            } catch (IOException notInChunks) {
                // that was told in its place; the body is as it came
                return flaws;
            }
        }
        flaws.addAll(Message.super.flaws());
        return flaws;
    }

    private static String bytes(long count) {
        return count + (count == 1 ? " byte" : " bytes");
    }

    private List<String> framed(Content sent) throws IOException {
        List<String> flaws = new ArrayList<>();
        boolean chunked = Chunks.in(headers);
        Optional<String> length = header("Content-Length");
        if (chunked && length.isPresent()) {
            // who reads the length and who reads the chunks see two messages
            flaws.add(
                    "Content-Length and Transfer-Encoding came both, which RFC 9112 §6.2 forbids; the chunks were read");
        }
        if (status() == NO_CONTENT || status() == NOT_MODIFIED) {
            if (!sent.isEmpty()) {
                flaws.add(bytes(sent.size()) + " came behind the head, where " + status()
                        + " has no body (RFC 9110 §6.4.1)");
            }
            return flaws;
        }
        boolean coded = ContentCoding.isIn(headers);
        Content packed = sent;
        long end = sent.size();
        if (chunked && coded) {
            Chunks.Undone undone = Chunks.undone(sent);
            packed = undone.body();
            end = undone.end();
        } else if (chunked) {
            end = Chunks.end(sent);
        } else if (length.filter(l -> LENGTH.matcher(l).matches()).isPresent()) {
            end = Math.min(end, Long.parseLong(length.get()));
            packed = sent.slice(0, end);
        }
        long beyond = sent.size() - end;
        if (beyond > 0) {
            flaws.add(bytes(beyond) + " came behind the end that its " + (chunked ? "last chunk" : "Content-Length")
                    + " gives the message, and " + (beyond == 1 ? "is" : "are") + " not in the body");
        }
        if (coded) {
            // a body that was encrypted is shorter than what came, by no more than that
            flaws.addAll(ContentCoding.flaws(packed, headers, 2 * body.size() + ENCRYPTION));
        }
        return flaws;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof HttpMessage m
                && title.equals(m.title)
                && headers.equals(m.headers)
                && body.equals(m.body)
                && wire.equals(m.wire);
    }

    @Override
    public int hashCode() {
        return Objects.hash(title, headers, body, wire);
    }

    @Override
    public String toString() {
        return title + " " + headers + " " + body;
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
        return visitor.http(this);
    }

    @Override
    public int status() {
        int space = title.indexOf(' ');
        if (!title.startsWith("HTTP/") || space < 0 || title.length() < space + 4) {
            return 0;
        }
        int number = 0;
        for (int i = space + 1; i < space + 4; i++) {
            int digit = title.charAt(i) - '0';
            if (digit < 0 || digit > 9) {
                return 0;
            }
            number = number * 10 + digit;
        }
        boolean ends = title.length() == space + 4 || title.charAt(space + 4) == ' ';
        return ends ? number : 0;
    }

    /** The start line and headers as text, ending with an empty line. */
    @Override
    public String head() {
        StringBuilder text = new StringBuilder(title).append("\r\n");
        headers.forEach(
                h -> text.append(h.name()).append(": ").append(h.value()).append("\r\n"));
        return text.append("\r\n").toString();
    }
}
