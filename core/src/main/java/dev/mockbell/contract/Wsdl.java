package dev.mockbell.contract;

import dev.mockbell.xml.Xml;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Names and small readings that the parts of the WSDL reader share. */
final class Wsdl {
    static final String V11 = "http://schemas.xmlsoap.org/wsdl/";
    static final String V20 = "http://www.w3.org/ns/wsdl";
    static final String SOAP11 = "http://schemas.xmlsoap.org/wsdl/soap/";
    static final String SOAP12 = "http://schemas.xmlsoap.org/wsdl/soap12/";
    static final String HTTP = "http://schemas.xmlsoap.org/wsdl/http/";
    static final String JMS_TRANSPORT = "http://www.w3.org/2010/soapjms/";
    static final String XSD = "http://www.w3.org/2001/XMLSchema";
    static final String ADDRESSING = "http://www.w3.org/2007/05/addressing/metadata";
    static final String ADDRESSING_OLD = "http://www.w3.org/2006/05/addressing/wsdl";

    private Wsdl() {}

    /** The QName that an attribute holds, read with the prefixes in scope; empty when absent or of an unknown prefix. */
    static Optional<QName> qname(Element element, String attribute) {
        String text = element.getAttribute(attribute).strip();
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

    /** The words of the element's wsdl:documentation, white space folded. */
    static String documentation(Element element) {
        for (Element child : Xml.children(element, element.getNamespaceURI(), "documentation")) {
            return child.getTextContent().strip().replaceAll("\\s+", " ");
        }
        return "";
    }

    /** The first extension child of that local name in the SOAP 1.1 or 1.2 binding namespace. */
    static Optional<Element> soap(Element parent, String localName) {
        return Xml.children(parent).stream()
                .filter(e -> localName.equals(e.getLocalName()))
                .filter(e -> SOAP11.equals(e.getNamespaceURI()) || SOAP12.equals(e.getNamespaceURI()))
                .findFirst();
    }
}
