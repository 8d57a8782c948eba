package dev.mockbell.mock;

import dev.mockbell.content.MediaType;
import dev.mockbell.content.Multipart;
import dev.mockbell.xml.TextEncoding;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * What a Content-Type says, taken apart once: a client writes the same again and again.
 *
 * @param name in small letters, without parameters
 * @param inParts whether the message is one part of several
 * @param utf8 whether the charset that it gives is UTF-8, or it gives none
 * @param action as SOAP 1.2 has it; empty for none
 */
record RequestType(MediaType type, String name, boolean inParts, boolean utf8, String action) {
    static final RequestType NONE = of("");

    /** The longest declaration that is looked through here. */
    private static final int LONGEST = 128;

    static RequestType of(String contentType) {
        MediaType type = new MediaType(contentType);
        return new RequestType(
                type,
                type.name().toLowerCase(Locale.ROOT),
                Multipart.is(type),
                type.parameter("charset").map(c -> c.equalsIgnoreCase("UTF-8")).orElse(true),
                type.parameter("action").orElse(""));
    }

    /** A body in UTF-8; the same array where it is so already, as nearly every one is. */
    byte[] inUtf8(byte[] body) {
        return inParts || utf8 && isPlain(body) ? body : TextEncoding.inUtf8(body, type.text());
    }

    /** Whether it begins with an element, or with a declaration that names no other encoding. */
    private static boolean isPlain(byte[] body) {
        if (body.length < 2 || body[0] != '<' || body[1] < '?') {
            return false;
        }
        if (body[1] != '?') {
            return true;
        }
        String start = new String(body, 0, Math.min(body.length, LONGEST), StandardCharsets.ISO_8859_1);
        int end = start.indexOf("?>");
        int said = start.indexOf("encoding");
        if (end < 0 || said < 0 || said > end) {
            return end >= 0;
        }
        return start.regionMatches(true, said + "encoding".length() + 2, "utf-8", 0, 5);
    }
}
