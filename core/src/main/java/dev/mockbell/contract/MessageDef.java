package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * An input or output as a binding puts it on the wire.
 *
 * @param name the message's local name
 * @param envelope the namespace of the SOAP envelope it travels in; empty for other protocols
 * @param wrapper for rpc style, the element around the parts (WSDL 1.1 §3.5); empty for document style
 * @param body the parts that go into the body
 * @param headers the parts that go into headers
 * @param attachments the parts that travel beside the envelope (WSDL 1.1 §5)
 * @param encoding the encoding style of an encoded body; empty for a literal one
 * @param action the WS-Addressing action, given or by default (WS-Addressing Metadata §4.4)
 * @param place where the message is defined
 */
public record MessageDef(
        String name,
        String envelope,
        Optional<QName> wrapper,
        List<MessagePart> body,
        List<HeaderDef> headers,
        List<Attachment> attachments,
        Optional<String> encoding,
        String action,
        Place place) {}
