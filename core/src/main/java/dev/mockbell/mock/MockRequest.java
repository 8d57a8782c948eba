package dev.mockbell.mock;

import java.util.Map;
import java.util.function.Supplier;

/**
 * A request as it came over HTTP.
 *
 * @param path without a query
 * @param action the SOAPAction, or the action of the media type; empty for none
 * @param body in UTF-8
 * @param raw as it came, unpacked
 * @param http its fields by their names in small letters, made when they are wanted; with {@code method}, {@code path},
 *     {@code query}
 * @param remote the client's address, without its port
 */
record MockRequest(
        String path,
        RequestType type,
        String action,
        byte[] body,
        byte[] raw,
        Supplier<Map<String, String>> http,
        Supplier<String> remote) {
    MockRequest withBody(byte[] other, RequestType itsType) {
        return new MockRequest(path, itsType, action, other, raw, http, remote);
    }
}
