package dev.mockbell.contract;

import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * An input or output as a binding puts it on the wire.
 *
 * @param name the message's local name
 * @param wrapper for rpc style, the element around the parts (WSDL 1.1 §3.5); empty for document style
 * @param body the parts that go into the body
 * @param headers the parts that go into headers
 * @param action the WS-Addressing action, given or by default (WS-Addressing Metadata §4.4)
 */
public record MessageDef(
        String name, Optional<QName> wrapper, List<MessagePart> body, List<MessagePart> headers, String action) {}
