package dev.mockbell.contract;

import dev.mockbell.xml.Xml;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Names and small readings that the parts of the WSDL reader share. */
final class Wsdl {
    static final String V11 = "http://schemas.xmlsoap.org/wsdl/";
    static final String V20 = "http://www.w3.org/ns/wsdl";
    /** WSDL 2.0 and the drafts of it that tools have written. */
    static final Set<String> V20_FAMILY = Set.of(
            V20, "http://www.w3.org/2006/01/wsdl", "http://www.w3.org/2005/08/wsdl", "http://www.w3.org/2005/05/wsdl");

    static final String SOAP11 = "http://schemas.xmlsoap.org/wsdl/soap/";
    static final String SOAP12 = "http://schemas.xmlsoap.org/wsdl/soap12/";
    static final String HTTP = "http://schemas.xmlsoap.org/wsdl/http/";
    static final String MIME = "http://schemas.xmlsoap.org/wsdl/mime/";
    static final String XSD = "http://www.w3.org/2001/XMLSchema";
    static final Map<String, String> ACTIONS = Map.of(
            "http://www.w3.org/2007/05/addressing/metadata", "Action",
            "http://www.w3.org/2006/05/addressing/wsdl", "Action",
            "http://www.w3.org/2005/08/addressing/wsdl", "Action",
            "http://www.w3.org/2005/08/addressing", "Action",
            "http://schemas.xmlsoap.org/ws/2004/08/addressing", "Action",
            "http://schemas.xmlsoap.org/ws/2004/03/addressing", "Action");

    private Wsdl() {}

    static boolean isV20(Element root) {
        return V20_FAMILY.contains(String.valueOf(root.getNamespaceURI())) && "description".equals(root.getLocalName());
    }

    static boolean isV11(Element root) {
        return V11.equals(root.getNamespaceURI()) && "definitions".equals(root.getLocalName());
    }

    static boolean isSchema(Element root) {
        return XSD.equals(root.getNamespaceURI()) && "schema".equals(root.getLocalName());
    }

    /** The QName that an attribute holds, read with the prefixes in scope; empty when absent or of an unknown prefix. */
    static Optional<QName> qname(Element element, String attribute) {
        return name(element, element.getAttribute(attribute).strip());
    }

    /** The QName that a text is, read with the prefixes in scope of an element. */
    static Optional<QName> name(Element element, String text) {
        if (text.isEmpty()) {
            return Optional.empty();
        }
        int colon = text.indexOf(':');
        String prefix = colon < 0 ? null : text.substring(0, colon);
        String ns = element.lookupNamespaceURI(prefix);
        if (ns == null && prefix != null) {
            return "xml".equals(prefix)
                    ? Optional.of(new QName("http://www.w3.org/XML/1998/namespace", text.substring(4)))
                    : Optional.empty();
        }
        return Optional.of(new QName(ns == null ? "" : ns, text.substring(colon + 1)));
    }

    static Optional<String> attribute(Element element, String name) {
        return element.hasAttribute(name) ? Optional.of(element.getAttribute(name)) : Optional.empty();
    }

    /** The WS-Addressing action that an input, output or fault is given. */
    static Optional<String> action(Element half) {
        return ACTIONS.entrySet().stream()
                .filter(a -> half.hasAttributeNS(a.getKey(), a.getValue()))
                .map(a -> half.getAttributeNS(a.getKey(), a.getValue()).strip())
                .findFirst();
    }

    /** The words of the element's wsdl:documentation, white space folded. */
    static String documentation(Element element) {
        for (Element child : Xml.children(element, element.getNamespaceURI(), "documentation")) {
            return child.getTextContent().strip().replaceAll("\\s+", " ");
        }
        return "";
    }

    /** The version of the SOAP binding that an extension element belongs to; empty when it is of another kind. */
    static Optional<Protocol> soapVersion(Element extension) {
        String ns = String.valueOf(extension.getNamespaceURI());
        String full = ns.endsWith("/") ? ns : ns + "/";
        if (SOAP11.equals(full)) {
            return Optional.of(Protocol.SOAP11);
        }
        return SOAP12.equals(full) ? Optional.of(Protocol.SOAP12) : Optional.empty();
    }

    /** The first extension child of that local name in the SOAP 1.1 or 1.2 binding namespace. */
    static Optional<Element> soap(Element parent, String localName) {
        return Xml.children(parent).stream()
                .filter(e -> localName.equals(e.getLocalName()))
                .filter(e -> soapVersion(e).isPresent())
                .findFirst();
    }

    static Optional<Element> first(Element parent, String name) {
        return Xml.children(parent, parent.getNamespaceURI(), name).stream().findFirst();
    }

    /** The target namespace of the document that an element stands in. */
    static String targetNamespace(Element element) {
        return element.getOwnerDocument().getDocumentElement().getAttribute("targetNamespace");
    }
}
