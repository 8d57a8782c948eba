package dev.mockbell.profile;

import dev.mockbell.schema.SchemaSource;
import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** The documents of a contract as the rules see them. What many rules ask for is found once. */
public final class Description {
    static final String WSDL = "http://schemas.xmlsoap.org/wsdl/";
    static final String SOAP = "http://schemas.xmlsoap.org/wsdl/soap/";
    static final String SOAP12 = "http://schemas.xmlsoap.org/wsdl/soap12/";
    static final String XSD = "http://www.w3.org/2001/XMLSchema";

    private final List<Element> wsdls;
    private final List<SchemaSource> schemas;
    private final List<Source> sources;
    private final Schemas compiled;
    private final Map<String, Map<QName, Element>> named = new HashMap<>();
    private List<SoapBinding> bindings;

    /**
     * @param wsdls the roots of the WSDL documents
     * @param schemas the schema documents, those inside the WSDLs included
     * @param sources the documents as they were fetched
     * @param compiled the schemas, compiled
     */
    public Description(List<Element> wsdls, List<SchemaSource> schemas, List<Source> sources, Schemas compiled) {
        this.wsdls = wsdls;
        this.schemas = schemas;
        this.sources = sources;
        this.compiled = compiled;
    }

    List<Element> wsdls() {
        return wsdls;
    }

    List<SchemaSource> schemas() {
        return schemas;
    }

    List<Source> sources() {
        return sources;
    }

    Schemas compiled() {
        return compiled;
    }

    /** The SOAP bindings. */
    List<SoapBinding> bindings() {
        if (bindings == null) {
            bindings = SoapBinding.all(this);
        }
        return bindings;
    }

    /** A document as it was fetched. */
    public record Source(String uri, byte[] bytes, String contentType) {}

    /** The components of a kind, such as {@code portType}, of all documents. */
    List<Element> all(String kind) {
        List<Element> found = new ArrayList<>();
        wsdls.forEach(root -> found.addAll(Xml.children(root, WSDL, kind)));
        return found;
    }

    /** The components of a kind by name; the first of each. */
    Map<QName, Element> named(String kind) {
        return named.computeIfAbsent(kind, k -> {
            Map<QName, Element> found = new HashMap<>();
            all(k).forEach(e ->
                    found.putIfAbsent(new QName(root(e).getAttribute("targetNamespace"), e.getAttribute("name")), e));
            return found;
        });
    }

    static Element root(Element element) {
        return element.getOwnerDocument().getDocumentElement();
    }

    static Optional<QName> name(Element element, String attribute) {
        String text = element.getAttribute(attribute).strip();
        if (text.isEmpty()) {
            return Optional.empty();
        }
        int colon = text.indexOf(':');
        String ns = element.lookupNamespaceURI(colon < 0 ? null : text.substring(0, colon));
        return Optional.of(new QName(ns == null ? "" : ns, text.substring(colon + 1)));
    }

    static boolean isSoap(Element element) {
        return SOAP.equals(element.getNamespaceURI()) || SOAP12.equals(element.getNamespaceURI());
    }

    /** The SOAP extension child of that name. */
    static Optional<Element> soap(Element parent, String local) {
        return Xml.children(parent).stream()
                .filter(e -> isSoap(e) && local.equals(e.getLocalName()))
                .findFirst();
    }

    /** Whether the element lies in the WSDL namespace. */
    static boolean isWsdl(Element element) {
        return WSDL.equals(element.getNamespaceURI());
    }
}
