package dev.mockbell.message;

import java.util.ArrayDeque;
import java.util.Deque;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** XPaths made by pointing: unprefixed names, which this program reads as any namespace, with positions where needed. */
public final class MessagePath {
    private MessagePath() {}

    /** The path from the message's root to an element or attribute. */
    public static String of(Node node) {
        Deque<String> steps = new ArrayDeque<>();
        Node at = node;
        if (at instanceof Attr attr) {
            String local = attr.getLocalName() == null ? attr.getName() : attr.getLocalName();
            steps.push(attr.getNamespaceURI() == null ? "@" + local : "@*:" + local);
            at = attr.getOwnerElement();
        }
        for (; at instanceof Element e; at = at.getParentNode()) {
            steps.push(step(e));
        }
        return "/" + String.join("/", steps);
    }

    private static String step(Element e) {
        int position = 1;
        int like = 1;
        for (Node n = e.getPreviousSibling(); n != null; n = n.getPreviousSibling()) {
            if (n instanceof Element s && s.getLocalName().equals(e.getLocalName())) {
                position++;
            }
        }
        for (Node n = e.getNextSibling(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element s && s.getLocalName().equals(e.getLocalName())) {
                like++;
            }
        }
        return position + like > 2 ? e.getLocalName() + "[" + position + "]" : e.getLocalName();
    }
}
