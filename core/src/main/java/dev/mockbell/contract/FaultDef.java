package dev.mockbell.contract;

import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * A fault that an operation declares.
 *
 * @param element the element within the fault's detail; empty when the message does not say
 */
public record FaultDef(String name, Optional<QName> element) {}
