package dev.mockbell.contract;

import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * A part of a WSDL 1.1 message (§2.3.1): an element, or a type under the part's name.
 */
public record MessagePart(String name, Optional<QName> element, Optional<QName> type) {}
