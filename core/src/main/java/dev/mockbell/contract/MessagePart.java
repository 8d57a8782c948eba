package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * A part of a WSDL 1.1 message (§2.3.1): an element, or a type under the part's name. The element of a WSDL 2.0 message
 * is told as its only part.
 */
public record MessagePart(String name, Optional<QName> element, Optional<QName> type, Place place) {}
