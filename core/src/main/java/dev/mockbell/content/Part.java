package dev.mockbell.content;

import java.util.List;
import java.util.Optional;

/**
 * One part of a message's body (RFC 2046 §5.1): the body itself where there are no others, else one of several.
 *
 * @param headers the part's own, in their order; none where the message's describe it
 * @param content as it stands in the part; see {@link TransferEncoding}
 */
public record Part(List<Header> headers, Content content) {
    /** The value of the first field of that name. */
    public Optional<String> header(String name) {
        return Header.first(headers, name);
    }

    /** What others refer to it by (RFC 2392), without its angle brackets; empty when it has none. */
    public Optional<String> id() {
        return header("Content-ID").map(i -> i.strip().replaceAll("^<|>$", ""));
    }
}
