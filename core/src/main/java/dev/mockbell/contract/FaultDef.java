package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * A fault that an operation declares.
 *
 * @param part what stands within the fault's detail; empty when the message does not say
 * @param encoding the encoding style of an encoded detail; empty for a literal one
 * @param action the WS-Addressing action, given or by default
 */
public record FaultDef(String name, Optional<MessagePart> part, Optional<String> encoding, String action, Place place) {
    /** The element within the fault's detail. */
    public Optional<QName> element() {
        return part.flatMap(MessagePart::element);
    }
}
