package dev.mockbell.mock;

import dev.mockbell.content.MediaType;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;

/**
 * A request as it came over HTTP.
 *
 * @param path without a query
 * @param type what it says to be
 * @param action the SOAPAction, or the action of the media type; empty for none
 * @param body in UTF-8
 * @param http its fields by their names in small letters, made when they are wanted; with {@code method}, {@code path},
 *     {@code query}
 */
record MockRequest(String path, MediaType type, String action, byte[] body, Supplier<Map<String, String>> http) {
    /** The media type in small letters, without parameters. */
    String mediaType() {
        return type.name().toLowerCase(Locale.ROOT);
    }

    MockRequest withBody(byte[] other, MediaType itsType) {
        return new MockRequest(path, itsType, action, other, http);
    }
}
