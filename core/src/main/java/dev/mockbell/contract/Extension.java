package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import javax.xml.namespace.QName;

/**
 * An element of another namespace in the WSDL that this program gives no meaning to (WSDL 1.1 §2.1.3).
 *
 * @param on what it stands on: {@code binding}, {@code port}
 * @param required whether the contract says that it cannot be used by one who does not know it
 */
public record Extension(QName name, String on, boolean required, Place place) {}
