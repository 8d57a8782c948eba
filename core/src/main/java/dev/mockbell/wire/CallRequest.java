package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import java.net.URI;
import java.time.Duration;
import java.util.List;

/**
 * What to send.
 *
 * @param headers sent as given, after Host and Content-Length, which follow from the rest
 * @param body as it goes out; what its Content-Type says is for the headers to say
 * @param timeout how long to wait for the connection, and then for the next byte of the answer
 */
public record CallRequest(String method, URI address, List<Header> headers, Content body, Duration timeout) {
    /** How long people wait before they think that it hangs. */
    public static final Duration USUAL_TIMEOUT = Duration.ofSeconds(60);
}
