package dev.mockbell.contract;

import dev.mockbell.xml.Location;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Writes a contract's documents anew with other addresses; nothing else of them changes. */
public final class Endpoints {
    private Endpoints() {}

    /**
     * The documents with port addresses and locations replaced.
     *
     * @param address gives a port's new address; empty to leave it
     * @param location gives the new location of a document by its URI
     * @return document text by URI
     */
    public static Map<String, String> rewritten(
            Contract contract, Function<String, Optional<String>> address, Function<String, String> location) {
        return rewritten(contract, address, location, Set.of());
    }

    /**
     * As {@link #rewritten(Contract, Function, Function)}, without some operations.
     *
     * @param concealed their keys
     */
    public static Map<String, String> rewritten(
            Contract contract,
            Function<String, Optional<String>> address,
            Function<String, String> location,
            Set<String> concealed) {
        Map<String, Document> documents = new LinkedHashMap<>();
        for (SourceDocument document : contract.documents()) {
            Document dom = Xml.parse(document.bytes(), document.contentType(), document.uri(), XmlLimits.CONTRACT);
            rewrite(dom.getDocumentElement(), document.uri(), address, location, contract);
            documents.put(document.uri(), dom);
        }
        Concealment.apply(contract, documents.values(), concealed);
        Map<String, String> texts = new LinkedHashMap<>();
        documents.forEach((uri, dom) ->
                texts.put(uri, "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + XmlText.exact(dom) + "\n"));
        return texts;
    }

    private static void rewrite(
            Element element,
            String base,
            Function<String, Optional<String>> address,
            Function<String, String> location,
            Contract contract) {
        String name = element.getLocalName();
        if (element.getParentNode() instanceof Element port
                && "address".equals(name)
                && element.hasAttribute("location")
                && Wsdl.V11.equals(port.getNamespaceURI())
                && "port".equals(port.getLocalName())) {
            address.apply(port.getAttribute("name")).ifPresent(a -> element.setAttribute("location", a));
        }
        if ("endpoint".equals(name)
                && Wsdl.V20_FAMILY.contains(String.valueOf(element.getNamespaceURI()))
                && element.hasAttribute("address")) {
            address.apply(element.getAttribute("name")).ifPresent(a -> element.setAttribute("address", a));
        }
        for (String attribute : new String[] {"location", "schemaLocation"}) {
            boolean reference = "import".equals(name) || "include".equals(name) || "redefine".equals(name);
            if (reference
                    && element.hasAttribute(attribute)
                    && !element.getAttribute(attribute).isBlank()) {
                String target = Location.resolve(base, element.getAttribute(attribute))
                        .map(Object::toString)
                        .orElse("");
                contract.documents().stream()
                        .filter(d -> d.uri().equals(target) || d.requested().equals(target))
                        .findFirst()
                        .ifPresent(d -> element.setAttribute(attribute, location.apply(d.uri())));
            }
        }
        for (Element child : Xml.children(element)) {
            rewrite(child, base, address, location, contract);
        }
    }
}
