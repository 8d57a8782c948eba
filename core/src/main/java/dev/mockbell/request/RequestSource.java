package dev.mockbell.request;

import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessageOutline;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * All that a request is made of.
 *
 * @param asks what the contract wants in it; asked for only where parts are put into it
 * @param endpoint where to, perhaps with expressions; empty for the address in the contract
 * @param security what WS-Security adds; empty for nothing
 * @param parts files that go with it
 * @param via a proxy on the way, perhaps with expressions; empty for none
 */
public record RequestSource(
        BoundOperation bound,
        Supplier<MessageOutline> asks,
        RequestText text,
        Optional<String> endpoint,
        Optional<SecurityText> security,
        List<Attachment> parts,
        Optional<Braces> via) {
    public RequestSource {
        parts = List.copyOf(parts);
    }

    /** With one more HTTP header, unless the text has one of its name. */
    public RequestSource with(Header header) {
        if (Header.first(text.headers(), header.name()).isPresent()) {
            return this;
        }
        List<Header> more = new ArrayList<>(text.headers());
        more.add(header);
        RequestText with = new RequestText(text.body(), text.soapHeaders(), more, text.delivery());
        return new RequestSource(bound, asks, with, endpoint, security, parts, via);
    }
}
