package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.HttpHead;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/** Reads start line and headers off recorded bytes, as they were written and in their order. */
public final class WireHead {
    /** What an answer begins with (RFC 9112 §4). */
    private static final String HTTP = "HTTP/";

    private WireHead() {}

    /**
     * A request as it goes over the wire (RFC 9112 §3): Host first, the headers as given, then the length of the body. Host
     * stays the user's where it is given; lengths and codings of the transfer follow from the body alone.
     */
    public static Content encoded(CallRequest request) {
        return encoded(request, request.body());
    }

    /** As {@link #encoded(CallRequest)}, for people: with another body than the one that its head tells of. */
    public static Content encoded(CallRequest request, Content shown) {
        StringBuilder head = new StringBuilder();
        head.append(request.method())
                .append(' ')
                .append(target(request.address()))
                .append(" HTTP/1.1\r\n");
        boolean named = request.headers().stream().anyMatch(h -> h.name().equalsIgnoreCase("Host"));
        if (!named) {
            head.append("Host: ").append(authority(request.address())).append("\r\n");
        }
        if (request.headers().stream().noneMatch(h -> h.name().equalsIgnoreCase("User-Agent"))) {
            head.append("User-Agent: MockBell\r\n");
        }
        for (Header h : request.headers()) {
            if (!h.name().equalsIgnoreCase("Content-Length") && !h.name().equalsIgnoreCase("Transfer-Encoding")) {
                head.append(h.name()).append(": ").append(h.value()).append("\r\n");
            }
        }
        if (request.framing().expectsContinue()) {
            head.append("Expect: 100-continue\r\n");
        }
        head.append(
                        request.framing().chunked()
                                ? "Transfer-Encoding: chunked"
                                : "Content-Length: " + request.body().size())
                .append("\r\n\r\n");
        Content start = Content.of(head.toString().getBytes(StandardCharsets.ISO_8859_1));
        return Content.joined(start, shown);
    }

    /** The target in origin form (RFC 9112 §3.2.1). */
    static String target(URI address) {
        String path = address.getRawPath();
        String query = address.getRawQuery();
        return (path == null || path.isEmpty() ? "/" : path) + (query == null ? "" : "?" + query);
    }

    private static String authority(URI address) {
        return address.getHost() + (address.getPort() < 0 ? "" : ":" + address.getPort());
    }

    /**
     * The last message in the bytes with its decoded body.
     *
     * @param wire all bytes of one direction of a connection; interim responses (1xx) before the last are skipped
     */
    public static Optional<Message> read(Content wire, Content body) {
        return HttpHead.of(wire).map(h -> message(h, body, wire));
    }

    /**
     * What came of an answer that is not whole: its head if that is, and what followed it, as it was transferred; all of it
     * where it is no HTTP. Empty when nothing came.
     */
    static Optional<Message> broken(Content wire) {
        if (wire.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(HttpHead.of(wire)
                .map(h -> message(h, wire.slice(h.end(), wire.size()), wire))
                .orElseGet(() -> new HttpMessage("", List.of(), isHttp(wire) ? Content.NONE : wire, wire)));
    }

    private static boolean isHttp(Content wire) {
        byte[] start = wire.start(HTTP.length());
        return HTTP.startsWith(new String(start, StandardCharsets.ISO_8859_1));
    }

    private static Message message(HttpHead head, Content body, Content wire) {
        return new HttpMessage(head.title(), head.headers(), body, wire);
    }
}
