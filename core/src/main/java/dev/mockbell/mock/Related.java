package dev.mockbell.mock;

import java.nio.charset.StandardCharsets;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts what WS-Addressing says of an answer into its envelope. */
final class Related {
    private static final Pattern HEADER = Pattern.compile("<(?:[A-Za-z_][\\w.-]*:)?Header(?:\\s[^>]*)?(/?)>");
    private static final Pattern BODY = Pattern.compile("<([A-Za-z_][\\w.-]*:)?Body[\\s>/]");

    private Related() {}

    /** The envelope with header blocks that relate it to a request; what is none, or says so itself, stays as it is. */
    static byte[] to(RequestReading.Addressed request, String action, byte[] envelope) {
        String text = new String(envelope, StandardCharsets.UTF_8);
        Matcher body = BODY.matcher(text);
        if (!body.find() || text.substring(0, body.start()).contains("RelatesTo")) {
            return envelope;
        }
        String blocks =
                String.join("", request.by().answering(action, "urn:uuid:" + UUID.randomUUID(), request.messageId()));
        Matcher header = HEADER.matcher(text);
        boolean there = header.find()
                && header.start() < body.start()
                && header.group(1).isEmpty();
        String prefix = body.group(1) == null ? "" : body.group(1);
        String made = there
                ? text.substring(0, header.end()) + blocks + text.substring(header.end())
                : text.substring(0, body.start()) + "<" + prefix + "Header>" + blocks + "</" + prefix + "Header>"
                        + text.substring(body.start());
        return made.getBytes(StandardCharsets.UTF_8);
    }
}
