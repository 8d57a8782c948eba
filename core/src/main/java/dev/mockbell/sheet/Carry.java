package dev.mockbell.sheet;

import dev.mockbell.xml.Xml;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;

/** Carries values from one message into another of the same kind, by name and position. */
final class Carry {
    private Carry() {}

    static void over(Element from, Element to) {
        for (Attr a : Xml.attributes(from)) {
            if (to.hasAttributeNS(a.getNamespaceURI(), a.getLocalName())) {
                to.setAttributeNS(a.getNamespaceURI(), a.getNodeName(), a.getNodeValue());
            }
        }
        List<Element> below = Xml.children(to);
        if (below.isEmpty()) {
            if (Xml.children(from).isEmpty() && !from.getTextContent().isEmpty()) {
                to.setTextContent(from.getTextContent());
            }
            return;
        }
        Map<String, Integer> seen = new HashMap<>();
        for (Element child : below) {
            int index = seen.merge(child.getLocalName(), 1, Integer::sum) - 1;
            List<Element> like = Xml.children(from, child.getNamespaceURI(), child.getLocalName());
            if (index < like.size()) {
                over(like.get(index), child);
            }
        }
    }
}
