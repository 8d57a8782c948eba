package dev.mockbell.mock;

import io.netty.handler.codec.http.QueryStringDecoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A request for something to read: a document of the contract, or a page.
 *
 * @param path without a query
 * @param base the host as the client knows it, {@code http://huts.example:8480}
 * @param form what a page posted; empty for a plain look
 * @param remote the client's address
 * @param login as HTTP has it; empty for none
 */
record PageRequest(String path, String query, String base, Map<String, String> form, String remote, String login) {
    private static final int MOST_FIELDS = 5_000;

    /** The fields of a form as a browser posts it. */
    static Map<String, String> fields(byte[] body) {
        Map<String, String> fields = new LinkedHashMap<>();
        new QueryStringDecoder(new String(body, StandardCharsets.UTF_8), StandardCharsets.UTF_8, false, MOST_FIELDS)
                .parameters()
                .forEach((name, values) -> fields.put(name, values.get(0)));
        return fields;
    }

    /** The operation that a page is asked for to try; empty for none. */
    String tried() {
        return new QueryStringDecoder("/?" + query)
                .parameters()
                .getOrDefault("try", java.util.List.of(""))
                .get(0);
    }

    boolean isPlain() {
        return query.isEmpty();
    }

    /** What is served for it; with status 401 a login by Basic is asked for. */
    record Served(int status, String type, byte[] body) {
        static Served page(String html) {
            return new Served(200, "text/html; charset=utf-8", html.getBytes(StandardCharsets.UTF_8));
        }

        static Served text(int status, String text) {
            return new Served(status, "text/plain; charset=utf-8", text.getBytes(StandardCharsets.UTF_8));
        }
    }
}
