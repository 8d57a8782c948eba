package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;
import org.xml.sax.helpers.AttributesImpl;
import org.xml.sax.helpers.XMLFilterImpl;

/**
 * Plays a schema element that was read before as SAX events, so that the schema library sees each schema as a document of
 * its own, with the lines and columns of the original. References to other documents are rewritten on the way: schemas
 * inside WSDLs often import each other by namespace with no location.
 */
final class SchemaReplay extends XMLFilterImpl {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    static final String XSD = "http://www.w3.org/2001/XMLSchema";

    private final Element root;
    private final String systemId;
    private final BiFunction<Element, Integer, Element> rewrite;
    private final List<Element> first;
    private Place at = Place.in("");

    /**
     * @param rewrite gives the element to play in place of one at that level, 0 for the root; null drops it
     * @param first elements to play before the root's own children
     */
    SchemaReplay(Element root, String systemId, BiFunction<Element, Integer, Element> rewrite, List<Element> first) {
        this.first = first;
        this.root = root;
        this.systemId = systemId;
        this.rewrite = rewrite;
    }

    @Override
    public boolean getFeature(String name) {
        return name.endsWith("/namespaces");
    }

    @Override
    public void setFeature(String name, boolean value) {
        // the events are fixed; nothing to switch
    }

    @Override
    public void setProperty(String name, Object value) {
        // as above
    }

    @Override
    public void parse(InputSource input) throws SAXException {
        getContentHandler().setDocumentLocator(new At());
        getContentHandler().startDocument();
        Map<String, String> inherited = new LinkedHashMap<>();
        for (Node n = root.getParentNode(); n instanceof Element e; n = n.getParentNode()) {
            namespaces(e).forEach(inherited::putIfAbsent);
        }
        namespaces(root).keySet().forEach(inherited::remove);
        play(root, inherited, 0);
        getContentHandler().endDocument();
    }

    private void play(Element element, Map<String, String> more, int level) throws SAXException {
        Element shown = rewrite.apply(element, level);
        if (shown == null) {
            return;
        }
        at = Xml.placeOf(element);
        Map<String, String> prefixes = new LinkedHashMap<>(more);
        prefixes.putAll(namespaces(shown));
        for (Map.Entry<String, String> p : prefixes.entrySet()) {
            getContentHandler().startPrefixMapping(p.getKey(), p.getValue());
        }
        AttributesImpl attributes = new AttributesImpl();
        for (Attr a : Xml.attributes(shown)) {
            if (!XMLNS.equals(a.getNamespaceURI())) {
                String ns = a.getNamespaceURI() == null ? "" : a.getNamespaceURI();
                attributes.addAttribute(ns, local(a), a.getName(), "CDATA", a.getValue());
            }
        }
        String ns = shown.getNamespaceURI() == null ? "" : shown.getNamespaceURI();
        getContentHandler().startElement(ns, local(shown), shown.getTagName(), attributes);
        for (Element e : level == 0 ? first : List.<Element>of()) {
            play(e, Map.of(), level + 1);
        }
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child) {
                play(child, Map.of(), level + 1);
            } else if (n instanceof Text text) {
                char[] chars = text.getData().toCharArray();
                getContentHandler().characters(chars, 0, chars.length);
            }
        }
        getContentHandler().endElement(ns, local(shown), shown.getTagName());
        for (String prefix : prefixes.keySet()) {
            getContentHandler().endPrefixMapping(prefix);
        }
    }

    private static String local(Node node) {
        return node.getLocalName() == null ? node.getNodeName() : node.getLocalName();
    }

    /** The namespaces that an element declares, by prefix; the empty text for the default. */
    static Map<String, String> namespaces(Element element) {
        Map<String, String> found = new LinkedHashMap<>();
        for (Attr a : Xml.attributes(element)) {
            if (XMLNS.equals(a.getNamespaceURI())) {
                found.put("xmlns".equals(a.getName()) ? "" : a.getLocalName(), a.getValue());
            }
        }
        return found;
    }

    private final class At implements org.xml.sax.Locator {
        @Override
        public String getPublicId() {
            return null;
        }

        @Override
        public String getSystemId() {
            return systemId;
        }

        @Override
        public int getLineNumber() {
            return at.line();
        }

        @Override
        public int getColumnNumber() {
            return at.column();
        }
    }
}
