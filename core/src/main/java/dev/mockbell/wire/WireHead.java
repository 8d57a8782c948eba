package dev.mockbell.wire;

import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.HttpMessage.Header;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Reads start line and headers off recorded bytes, as they were written and in their order. */
public final class WireHead {
    private WireHead() {}

    /**
     * The last message in the bytes with its decoded body.
     *
     * @param wire all bytes of one direction of a connection; interim responses (1xx) before the last are skipped
     */
    public static Optional<HttpMessage> read(byte[] wire, byte[] body) {
        String text = new String(wire, StandardCharsets.ISO_8859_1);
        int start = 0;
        while (text.startsWith("HTTP/1.1 1", start)) {
            int end = text.indexOf("\r\n\r\n", start);
            if (end < 0) {
                return Optional.empty();
            }
            start = end + 4;
        }
        int end = text.indexOf("\r\n\r\n", start);
        if (end < 0) {
            return Optional.empty();
        }
        String[] lines = text.substring(start, end).split("\r\n");
        List<Header> headers = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(':');
            if (colon > 0) {
                headers.add(new Header(
                        lines[i].substring(0, colon),
                        lines[i].substring(colon + 1).strip()));
            }
        }
        return Optional.of(new HttpMessage(lines[0], List.copyOf(headers), body, wire));
    }
}
