package dev.mockbell.request;

import dev.mockbell.content.Header;
import java.util.List;

/**
 * What a person wrote of a request, with expressions in braces.
 *
 * @param body the payload, or a whole envelope
 * @param soapHeaders the blocks of the SOAP header as XML; empty for none
 * @param headers HTTP header fields; one of a name that would be made takes its place
 */
public record RequestText(String body, String soapHeaders, List<Header> headers, Delivery delivery) {
    public RequestText {
        headers = List.copyOf(headers);
    }

    /** One that is delivered as usual. */
    public RequestText(String body, String soapHeaders, List<Header> headers) {
        this(body, soapHeaders, headers, Delivery.USUAL);
    }

    RequestText withBody(String other) {
        return new RequestText(other, soapHeaders, headers, delivery);
    }

    /** With nothing done to its bytes, so that it can be read. */
    public RequestText readable() {
        return new RequestText(body, soapHeaders, headers, delivery.readable());
    }
}
