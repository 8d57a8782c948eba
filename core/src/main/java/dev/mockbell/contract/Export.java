package dev.mockbell.contract;

import dev.mockbell.schema.KnownSchemas;
import dev.mockbell.schema.SchemaSource;
import dev.mockbell.xml.Location;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Writes a contract's documents out again. */
public final class Export {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final Set<String> REFERENCES = Set.of("import", "include", "redefine");

    private Export() {}

    /** How the documents are written. */
    public enum Form {
        /** Byte for byte as they were fetched. */
        AS_FETCHED,
        /** Side by side, with imports that lead from one to the other and the addresses that were chosen. */
        REWRITTEN,
        /** One WSDL with all schemas inside; WSDLs of other namespaces, which one document cannot hold, beside it. */
        SINGLE
    }

    /**
     * The files by name, the WSDL first.
     *
     * @param address gives a port's address, by the one that it has; not asked for documents as they were fetched
     */
    public static Map<String, byte[]> files(Contract contract, Form form, UnaryOperator<String> address) {
        return files(contract, form, Rewriting.of(address));
    }

    /**
     * The files by name, the WSDL first.
     *
     * @param rewriting what becomes another; not heeded for documents as they were fetched
     */
    public static Map<String, byte[]> files(Contract contract, Form form, Rewriting rewriting) {
        Map<String, String> names = DocumentNames.of(contract.documents(), Set.of());
        Map<String, byte[]> files = new LinkedHashMap<>();
        if (form == Form.AS_FETCHED) {
            contract.documents().forEach(d -> files.put(names.get(d.uri()), d.bytes()));
            return files;
        }
        boolean single =
                form == Form.SINGLE && contract.schemas().sources().stream().noneMatch(SchemaSource::redefined);
        Document first = null;
        for (SourceDocument document : contract.documents()) {
            if (single && document.kind() == SourceDocument.Kind.XSD) {
                continue;
            }
            Document dom = Xml.parse(document.bytes(), document.contentType(), document.uri(), XmlLimits.CONTRACT);
            Element root = dom.getDocumentElement();
            readdress(root, rewriting.address());
            if (single && first != null && sameNamespace(first, root)) {
                relink(root, document.uri(), contract, names, true);
                move(root, first.getDocumentElement());
                continue;
            }
            if (single && first == null) {
                inline(contract, root);
            }
            relink(root, document.uri(), contract, names, single);
            first = first == null ? dom : first;
            boolean whole = !single || dom != first;
            files.put(names.get(document.uri()), whole ? text(dom, rewriting) : new byte[0]);
        }
        if (first != null && single) {
            files.put(names.get(contract.documents().get(0).uri()), text(first, rewriting));
        }
        return files;
    }

    private static byte[] text(Document dom, Rewriting rewriting) {
        if (rewriting.changesNames()) {
            rewriting.rename(dom.getDocumentElement());
        }
        return ("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + XmlText.exact(dom) + "\n")
                .getBytes(StandardCharsets.UTF_8);
    }

    private static void readdress(Element root, UnaryOperator<String> address) {
        for (Element service : Xml.children(root, root.getNamespaceURI(), "service")) {
            for (Element port : Xml.children(service)) {
                if (port.hasAttribute("address")) {
                    port.setAttribute("address", address.apply(port.getAttribute("address")));
                }
                for (Element extension : Xml.children(port)) {
                    if ("address".equals(extension.getLocalName()) && extension.hasAttribute("location")) {
                        extension.setAttribute("location", address.apply(extension.getAttribute("location")));
                    }
                }
            }
        }
    }

    private static boolean sameNamespace(Document first, Element root) {
        return first.getDocumentElement().getAttribute("targetNamespace").equals(root.getAttribute("targetNamespace"));
    }

    /** Moves the components of one WSDL into another of the same namespace, with the prefixes that they need. */
    private static void move(Element from, Element to) {
        for (Element child : Xml.children(from)) {
            if (!REFERENCES.contains(child.getLocalName())) {
                Element copy = (Element) to.getOwnerDocument().importNode(child, true);
                inherit(from, copy);
                if ("types".equals(child.getLocalName())) {
                    to.insertBefore(copy, to.getFirstChild());
                } else {
                    to.appendChild(copy);
                }
            }
        }
    }

    private static void inherit(Element from, Element copy) {
        for (Node n = from; n instanceof Element e; n = n.getParentNode()) {
            for (Attr a : Xml.attributes(e)) {
                if (XMLNS.equals(a.getNamespaceURI()) && !copy.hasAttribute(a.getName())) {
                    copy.setAttributeNS(XMLNS, a.getName(), a.getValue());
                }
            }
        }
    }

    /** Puts the schemas of their own documents into the types of the WSDL. */
    private static void inline(Contract contract, Element root) {
        Element types = Wsdl.first(root, "types").orElseGet(() -> {
            String prefix = root.getPrefix() == null ? "" : root.getPrefix() + ":";
            Element made = root.getOwnerDocument().createElementNS(root.getNamespaceURI(), prefix + "types");
            root.insertBefore(made, root.getFirstChild());
            return made;
        });
        for (SchemaSource source : contract.schemas().sources()) {
            if (source.root().getParentNode() instanceof Element || KnownSchemas.ships(source.uri())) {
                continue;
            }
            Element copy = (Element) types.getOwnerDocument().importNode(source.root(), true);
            if (!source.namespace().isEmpty() && !copy.hasAttribute("targetNamespace")) {
                copy.setAttribute("targetNamespace", source.namespace());
                if (!copy.hasAttribute("xmlns")) {
                    copy.setAttributeNS(XMLNS, "xmlns", source.namespace());
                }
            }
            types.appendChild(copy);
        }
    }

    private static void relink(
            Element root, String base, Contract contract, Map<String, String> names, boolean inlined) {
        for (Element e : Xml.children(root)) {
            boolean reference = REFERENCES.contains(e.getLocalName());
            boolean ofSchema = Wsdl.XSD.equals(e.getNamespaceURI());
            if (reference && ofSchema && inlined) {
                if ("import".equals(e.getLocalName())) {
                    e.removeAttribute("schemaLocation");
                } else {
                    root.removeChild(e);
                }
            } else if (reference) {
                String attribute = ofSchema ? "schemaLocation" : "location";
                SourceDocument target = target(base, e.getAttribute(attribute), contract);
                if (target != null && names.containsKey(target.uri())) {
                    boolean merged = inlined && sameTarget(root, target, contract);
                    if (merged) {
                        root.removeChild(e);
                    } else {
                        e.setAttribute(attribute, names.get(target.uri()));
                    }
                }
            } else if (ofSchema || "types".equals(e.getLocalName())) {
                relink(e, base, contract, names, inlined);
            }
        }
    }

    /** Whether an imported WSDL was moved into the first one. */
    private static boolean sameTarget(Element root, SourceDocument target, Contract contract) {
        if (target.kind() == SourceDocument.Kind.XSD) {
            return true;
        }
        Element other = Xml.parse(target.bytes(), target.contentType(), target.uri(), XmlLimits.CONTRACT)
                .getDocumentElement();
        List<SourceDocument> all = contract.documents();
        Element first = Xml.parse(
                        all.get(0).bytes(), all.get(0).contentType(), all.get(0).uri(), XmlLimits.CONTRACT)
                .getDocumentElement();
        return other.getAttribute("targetNamespace").equals(first.getAttribute("targetNamespace"))
                && root.getAttribute("targetNamespace").equals(first.getAttribute("targetNamespace"));
    }

    private static SourceDocument target(String base, String location, Contract contract) {
        if (location.isBlank()) {
            return null;
        }
        String uri = Location.resolve(base, location).map(Object::toString).orElse("");
        return contract.documents().stream()
                .filter(d -> d.uri().equals(uri) || d.requested().equals(uri))
                .findFirst()
                .orElse(null);
    }
}
