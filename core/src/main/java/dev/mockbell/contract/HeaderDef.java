package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;

/**
 * A header block that the contract names (WSDL 1.1 §3.7).
 *
 * @param namespace the namespace of a block whose part has a type and no element; may be empty
 * @param encoded whether it follows encoding rules
 * @param faults the parts that tell of errors in this header
 */
public record HeaderDef(MessagePart part, String namespace, boolean encoded, List<MessagePart> faults, Place place) {}
