package dev.mockbell.message;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Markup;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Parts of a message as text that stands alone, and back. */
public final class Fragments {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    /** What the parser says of the element that attributes are read in. */
    private static final String HOLDER = " (associated with|for) an?\\s+element( type)?\\s+\"x\"";

    private Fragments() {}

    /** The node as XML with the namespace declarations that it needs from around it. */
    public static String text(Node node) {
        if (node instanceof Attr attr) {
            return attr.getValue();
        }
        if (!(node instanceof Element element)) {
            return node == null ? "" : XmlText.exact(node);
        }
        Document alone = Xml.newDocument();
        Element copy = (Element) alone.importNode(element, true);
        alone.appendChild(copy);
        Map<String, String> around = inScope(element.getParentNode());
        for (String prefix : prefixesIn(copy)) {
            String uri = around.get(prefix);
            String name = prefix.isEmpty() ? "xmlns" : "xmlns:" + prefix;
            if (uri != null && !copy.hasAttribute(name)) {
                copy.setAttributeNS(XMLNS, name, uri);
            }
        }
        return XmlText.laidOut(alone);
    }

    /** The prefixes that names in an element use, and those that its values may use. */
    static Set<String> prefixesIn(Element element) {
        TreeSet<String> used = new TreeSet<>();
        collect(element, used);
        return used;
    }

    private static void collect(Element element, TreeSet<String> used) {
        used.add(element.getPrefix() == null ? "" : element.getPrefix());
        for (Attr a : Xml.attributes(element)) {
            if (a.getPrefix() != null && !XMLNS.equals(a.getNamespaceURI())) {
                used.add(a.getPrefix());
            }
            // a qualified name in a value needs its prefix too
            inValue(a.getValue(), used);
        }
        boolean leaf = true;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child) {
                leaf = false;
                collect(child, used);
            }
        }
        if (leaf) {
            inValue(element.getTextContent(), used);
        }
    }

    private static void inValue(String value, TreeSet<String> used) {
        int at = value.length() < 1_000 ? value.indexOf(':') : -1;
        while (at > 0) {
            // lists of qualified names hold several
            int start = Math.max(value.lastIndexOf(' ', at), value.lastIndexOf('\n', at)) + 1;
            used.add(value.substring(start, at).strip());
            at = value.indexOf(':', at + 1);
        }
    }

    private static Map<String, String> inScope(Node from) {
        Map<String, String> found = new LinkedHashMap<>();
        for (Node n = from; n instanceof Element e; n = n.getParentNode()) {
            for (Attr a : Xml.attributes(e)) {
                if (XMLNS.equals(a.getNamespaceURI())) {
                    found.putIfAbsent(a.getPrefix() == null ? "" : a.getLocalName(), a.getValue());
                }
            }
        }
        return found;
    }

    /** Reads XML, of one or several elements, with the prefixes in scope at a place; the holder's children are what was read. */
    public static Element read(String xml, Element scope) {
        String text = xml.strip().replaceFirst("^<\\?xml[^>]*\\?>", "");
        StringBuilder holder = new StringBuilder("<holder");
        inScope(scope).forEach((prefix, uri) -> {
            if (!prefix.isEmpty()) {
                holder.append(" xmlns:")
                        .append(prefix)
                        .append("=\"")
                        .append(Markup.anywhere(uri))
                        .append('"');
            }
        });
        return Xml.parse(
                        holder.append('>').append(text).append("</holder>").toString(), "pasted XML", XmlLimits.MESSAGE)
                .getDocumentElement();
    }

    /**
     * Reads attributes as they stand in a tag, with the prefixes in scope at a place; declarations come first.
     *
     * @throws Problem when it is not attributes, or none
     */
    public static List<Attr> attributes(String text, Element scope) {
        if (text.indexOf('<') >= 0 || text.indexOf('>') >= 0) {
            throw notAttributes(null);
        }
        Element holder;
        try {
            holder = read("<x " + text.strip() + "/>", scope);
        } catch (Problem notWellFormed) {
            throw notAttributes(notWellFormed);
        }
        List<Attr> all = Xml.attributes(Xml.children(holder).get(0));
        List<Attr> found = new ArrayList<>();
        for (boolean declarations : new boolean[] {true, false}) {
            all.stream()
                    .filter(a -> XMLNS.equals(a.getNamespaceURI()) == declarations)
                    .forEach(found::add);
        }
        if (found.isEmpty()) {
            throw notAttributes(null);
        }
        return found;
    }

    private static Problem notAttributes(Problem cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "These are not attributes"
                        + (cause == null ? "" : ": " + cause.what().replaceFirst(HOLDER, "")),
                null,
                "Write them as in a tag: note=\"late arrival\".",
                cause);
    }
}
