package dev.mockbell.sample;

import dev.mockbell.xml.Xml;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Fits elements that were built with prefixes into a place where a default namespace is declared (Namespaces in XML §6.2). */
final class DefaultNamespace {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    private DefaultNamespace() {}

    /** The default namespace at an element; empty when there is none. */
    static String at(Element place) {
        for (Node n = place; n instanceof Element e; n = n.getParentNode()) {
            if (e.hasAttribute("xmlns")) {
                return e.getAttribute("xmlns");
            }
        }
        return "";
    }

    /** Elements of that namespace lose their prefixes, as the ones around them have none; elements of no namespace say so. */
    static void adopt(Element built, String namespace) {
        if (namespace.isEmpty()) {
            return;
        }
        if (hasNone(built)) {
            say(built);
        } else {
            rename(built, namespace);
        }
    }

    private static boolean hasNone(Element element) {
        return element.getNamespaceURI() == null
                || Xml.children(element).stream().anyMatch(DefaultNamespace::hasNone);
    }

    private static void say(Element element) {
        if (element.getNamespaceURI() == null) {
            element.setAttributeNS(XMLNS, "xmlns", "");
        } else {
            Xml.children(element).forEach(DefaultNamespace::say);
        }
    }

    private static void rename(Element element, String namespace) {
        if (namespace.equals(element.getNamespaceURI())) {
            element.setPrefix(null);
        }
        Xml.children(element).forEach(c -> rename(c, namespace));
    }
}
