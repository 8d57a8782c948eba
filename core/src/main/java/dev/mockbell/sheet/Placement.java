package dev.mockbell.sheet;

import dev.mockbell.xml.Xml;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/** Puts nodes into a tree and takes them out so that it stays laid out as it was. */
public final class Placement {
    private Placement() {}

    /**
     * Inserts a node.
     *
     * @param before what it comes before; null for the end
     */
    public static void insert(Element parent, Node node, Node before) {
        Document document = parent.getOwnerDocument();
        Node at = before;
        String indent = indentOf(parent);
        boolean spread = hasElement(parent) || parent.getFirstChild() == null;
        if (at == null
                && parent.getLastChild() instanceof Text last
                && last.getData().isBlank()) {
            at = last;
        } else if (at != null
                && at.getPreviousSibling() instanceof Text gap
                && gap.getData().isBlank()) {
            at = gap;
        }
        if (spread) {
            parent.insertBefore(document.createTextNode("\n" + indent + "  "), at);
        }
        parent.insertBefore(node, at);
        if (spread && at == null) {
            parent.appendChild(document.createTextNode("\n" + indent));
        }
        if (node instanceof Element e && hasElement(e)) {
            layOut(e, indent + "  ");
        }
    }

    /** Takes a node out with the white space that set it on a line of its own. */
    static void remove(Node node) {
        Node gap = node.getPreviousSibling();
        Node parent = node.getParentNode();
        parent.removeChild(node);
        if (gap instanceof Text text && text.getData().isBlank()) {
            parent.removeChild(gap);
        }
        boolean emptied = parent.getFirstChild() instanceof Text only
                && only.getNextSibling() == null
                && only.getData().isBlank();
        if (emptied) {
            parent.removeChild(parent.getFirstChild());
        }
    }

    /** The markup that follows a node; null when none does. */
    static Node nextMarkup(Node node) {
        Node next = node.getNextSibling();
        while (next instanceof Text text && text.getData().isBlank()) {
            next = next.getNextSibling();
        }
        return next;
    }

    private static void layOut(Element element, String indent) {
        boolean bare = true;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            bare &= !(n instanceof Text);
        }
        if (!bare || !element.hasChildNodes()) {
            return;
        }
        for (Element child : Xml.children(element)) {
            element.insertBefore(element.getOwnerDocument().createTextNode("\n" + indent + "  "), child);
            layOut(child, indent + "  ");
        }
        element.appendChild(element.getOwnerDocument().createTextNode("\n" + indent));
    }

    private static boolean hasElement(Element parent) {
        for (Node n = parent.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element) {
                return true;
            }
        }
        return false;
    }

    private static String indentOf(Element parent) {
        int depth = 0;
        for (Node n = parent.getParentNode(); n instanceof Element; n = n.getParentNode()) {
            depth++;
        }
        return "  ".repeat(depth);
    }
}
