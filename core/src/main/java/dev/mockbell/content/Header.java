package dev.mockbell.content;

import java.util.List;
import java.util.Optional;

/** A named value beside a content: a header field as it was sent, or a property of a message. */
public record Header(String name, String value) {
    /** The value of the first field of that name, upper and lower case alike. */
    public static Optional<String> first(List<Header> headers, String name) {
        // asked of every message that passes
        for (Header header : headers) {
            if (header.name().equalsIgnoreCase(name)) {
                return Optional.of(header.value());
            }
        }
        return Optional.empty();
    }
}
