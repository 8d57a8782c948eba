package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;

/** A request while stages make it. */
final class Draft {
    private Filler filler;
    private URI address;
    private Content body = Content.NONE;
    private final List<Header> headers = new ArrayList<>();

    Draft(Filler filler) {
        this.filler = filler;
    }

    /** Fills texts; from the address on, for its host. */
    Filler filler() {
        return filler;
    }

    URI address() {
        return address;
    }

    void address(URI made) {
        address = made;
        filler = filler.forHost(JmsAddress.hostOf(made));
    }

    /** What is filled from now on passes another host too. */
    void passing(String host) {
        filler = filler.forHost(host);
    }

    Content body() {
        return body;
    }

    void body(Content made) {
        body = made;
    }

    List<Header> headers() {
        return headers;
    }

    /** Sets a header field in place of one of its name. */
    void header(String name, String value) {
        headers.removeIf(h -> h.name().equalsIgnoreCase(name));
        headers.add(new Header(name, value));
    }
}
