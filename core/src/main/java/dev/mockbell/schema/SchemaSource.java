package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.Objects;
import org.w3c.dom.Element;

/**
 * One schema document as it was read, alone or inside a WSDL.
 *
 * @param uri where it came from; several inline schemas share the URI of their WSDL
 * @param namespace the namespace its components belong to; empty for none. For a document without a target namespace
 *     that another includes, the includer's (XML Schema part 1 §4.2.1)
 * @param root the {@code xs:schema} element, with places
 * @param redefined whether another document redefines it, so that it comes in through that one alone
 */
public record SchemaSource(String uri, String namespace, Element root, boolean redefined) {
    public SchemaSource {
        Objects.requireNonNull(uri, "uri");
        Objects.requireNonNull(namespace, "namespace");
        Objects.requireNonNull(root, "root");
    }

    /** Where the schema element starts. */
    public Place place() {
        return dev.mockbell.xml.Xml.placeOf(root);
    }
}
