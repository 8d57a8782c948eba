package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** Messages that a person changed or wrote, as they go on a connection: with their length, in place of chunks and compression. */
public final class Remade {
    private static final Set<String> FRAMING =
            Set.of("content-length", "transfer-encoding", "content-encoding", "trailer");

    private Remade() {}

    /**
     * A message with another head and body.
     *
     * @param head start line and header fields as text, a line each; those of framing are of no account
     */
    public static Message of(String head, Content body) {
        List<Header> headers = new ArrayList<>();
        String[] lines = head.strip().split("\\r?\\n");
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(':');
            if (colon > 0
                    && !FRAMING.contains(lines[i].substring(0, colon).strip().toLowerCase(Locale.ROOT))) {
                headers.add(new Header(
                        lines[i].substring(0, colon).strip(),
                        lines[i].substring(colon + 1).strip()));
            }
        }
        String title = lines[0].strip();
        if (!hasNoBody(title)) {
            headers.add(new Header("Content-Length", String.valueOf(body.size())));
        }
        HttpMessage plain = new HttpMessage(title, List.copyOf(headers), body, Content.NONE);
        return new HttpMessage(title, plain.headers(), body, Content.joined(head(plain), body));
    }

    /** A status that never has a body (RFC 9110 §15.2, §15.3.5, §15.4.5). */
    private static boolean hasNoBody(String title) {
        return title.matches("HTTP/\\S+ (?:1\\d\\d|204|304)\\b.*");
    }

    private static Content head(Message message) {
        return Content.of(message.head().getBytes(StandardCharsets.ISO_8859_1));
    }
}
