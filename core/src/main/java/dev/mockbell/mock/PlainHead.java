package dev.mockbell.mock;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * The head of a request that calls, of the kind that nearly all are: a POST of HTTP/1.1 with a length, nothing unusual in it. What
 * is in any way otherwise is not read here but by the library, which knows all of HTTP.
 *
 * @param bytes as it came, with the empty line behind it
 * @param path without a query
 * @param length of the body
 * @param fields by their names in small letters
 */
record PlainHead(
        byte[] bytes,
        String path,
        RequestType type,
        String action,
        int length,
        boolean keepAlive,
        boolean takesGzip,
        Map<String, String> fields) {
    private static final String METHOD = "POST ";
    private static final String VERSION = " HTTP/1.1";

    /**
     * Reads a head.
     *
     * @param most how long a body may be
     * @return empty when it is not of that kind
     */
    static Optional<PlainHead> read(byte[] bytes, int most) {
        String[] lines = new String(bytes, StandardCharsets.ISO_8859_1).split("\r\n", -1);
        String start = lines[0];
        boolean usual = start.startsWith(METHOD + "/") && start.endsWith(VERSION);
        String target = usual ? start.substring(METHOD.length(), start.length() - VERSION.length()) : "";
        if (!target.matches("/[\\w./~%+,;=:@!$&'()*-]*")) {
            return Optional.empty();
        }
        Map<String, String> fields = new LinkedHashMap<>();
        // behind the last field stand the empty line and nothing
        for (int i = 1; i < lines.length - 2; i++) {
            int colon = lines[i].indexOf(':');
            String name = colon < 1 ? "" : lines[i].substring(0, colon).toLowerCase(Locale.ROOT);
            String value = lines[i].substring(colon + 1);
            boolean plain = name.matches("[a-z0-9!#$%&'*+.^_`|~-]+") && value.matches("[\\t\\x20-\\x7E]*");
            if (!plain || fields.put(name, value.strip()) != null) {
                return Optional.empty();
            }
        }
        boolean unusual = fields.containsKey("transfer-encoding")
                || fields.containsKey("content-encoding")
                || fields.containsKey("expect")
                || fields.containsKey("upgrade")
                || !fields.containsKey("host");
        String connection = fields.getOrDefault("connection", "keep-alive").toLowerCase(Locale.ROOT);
        String length = fields.getOrDefault("content-length", "");
        if (unusual
                || !connection.equals("keep-alive") && !connection.equals("close")
                || !length.matches("[0-9]{1,8}")
                || Integer.parseInt(length) > most) {
            return Optional.empty();
        }
        RequestType type = RequestType.of(fields.getOrDefault("content-type", ""));
        fields.put("method", "POST");
        fields.put("path", target);
        fields.put("query", "");
        return Optional.of(new PlainHead(
                bytes,
                target,
                type,
                MockHandler.unquoted(fields.getOrDefault("soapaction", type.action())),
                Integer.parseInt(length),
                connection.equals("keep-alive"),
                Packing.isTaken(fields.get("accept-encoding")),
                fields));
    }
}
