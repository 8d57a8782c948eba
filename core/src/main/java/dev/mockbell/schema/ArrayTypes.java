package dev.mockbell.schema;

import dev.mockbell.xml.Xml;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Reads what a type that restricts SOAP-ENC:Array says of its items (WSDL 1.1 §2.2); schema libraries drop it. */
final class ArrayTypes {
    private static final String WSDL = "http://schemas.xmlsoap.org/wsdl/";
    private static final String NAME = "arrayType";
    private static final Set<String> STEPS =
            Set.of("complexContent", "restriction", "extension", "sequence", "attribute", "attributeGroup");

    private ArrayTypes() {}

    /** The type of the items; of an array of arrays, written {@code t[][]}, the innermost. */
    static Optional<QName> itemOf(Element complexType) {
        return "complexType".equals(complexType.getLocalName()) ? search(complexType) : Optional.empty();
    }

    private static Optional<QName> search(Element at) {
        String text = at.getAttributeNS(WSDL, NAME).strip();
        if ("attribute".equals(at.getLocalName()) && !text.isEmpty()) {
            int bracket = text.indexOf('[');
            String name = bracket < 0 ? text : text.substring(0, bracket).strip();
            int colon = name.indexOf(':');
            String ns = at.lookupNamespaceURI(colon < 0 ? null : name.substring(0, colon));
            return Optional.of(new QName(ns == null ? "" : ns, name.substring(colon + 1)));
        }
        for (Element child : Xml.children(at)) {
            if (STEPS.contains(child.getLocalName())) {
                Optional<QName> found = search(child);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }
}
