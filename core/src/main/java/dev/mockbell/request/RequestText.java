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
public record RequestText(String body, String soapHeaders, List<Header> headers) {
    public RequestText {
        headers = List.copyOf(headers);
    }
}
