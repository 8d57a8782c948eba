package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import java.net.URI;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What to send.
 *
 * @param headers sent as given, after Host and Content-Length, which follow from the rest
 * @param body as it goes out; what its Content-Type says is for the headers to say
 * @param framing how it is put on its connection
 * @param timeout how long all of it may take, silence within it being bounded by how the server is reached
 */
public record CallRequest(
        String method, URI address, List<Header> headers, Content body, Framing framing, Duration timeout) {
    /** Longer than anybody waits for an answer, and long enough for a large one. */
    public static final Duration USUAL_TIMEOUT = Duration.ofMinutes(10);

    /** One whose body goes with its length, all at once. */
    public CallRequest(String method, URI address, List<Header> headers, Content body, Duration timeout) {
        this(method, address, headers, body, Framing.USUAL, timeout);
    }

    /** With one more header field, in place of one of its name. */
    public CallRequest with(Header header) {
        List<Header> all = new ArrayList<>(headers);
        all.removeIf(h -> h.name().equalsIgnoreCase(header.name()));
        all.add(header);
        return new CallRequest(method, address, List.copyOf(all), body, framing, timeout);
    }

    /** With another body. */
    public CallRequest with(Content other) {
        return new CallRequest(method, address, headers, other, framing, timeout);
    }

    /** Put on its connection in another way. */
    public CallRequest with(Framing other) {
        return new CallRequest(method, address, headers, body, other, timeout);
    }

    /** To another address. */
    public CallRequest to(URI other) {
        return new CallRequest(method, other, headers, body, framing, timeout);
    }
}
