package dev.mockbell.xml;

import org.w3c.dom.DOMException;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;

/** The attributes of an element that has none. They cannot be given it this way: that is for the element itself. */
final class NoAttributes implements NamedNodeMap {
    static final NamedNodeMap HERE = new NoAttributes();

    private NoAttributes() {}

    @Override
    public int getLength() {
        return 0;
    }

    @Override
    public Node item(int index) {
        return null;
    }

    @Override
    public Node getNamedItem(String name) {
        return null;
    }

    @Override
    public Node getNamedItemNS(String namespace, String localName) {
        return null;
    }

    @Override
    public Node setNamedItem(Node attribute) {
        throw readOnly();
    }

    @Override
    public Node setNamedItemNS(Node attribute) {
        throw readOnly();
    }

    @Override
    public Node removeNamedItem(String name) {
        throw new DOMException(DOMException.NOT_FOUND_ERR, name);
    }

    @Override
    public Node removeNamedItemNS(String namespace, String localName) {
        throw new DOMException(DOMException.NOT_FOUND_ERR, localName);
    }

    private static DOMException readOnly() {
        return new DOMException(
                DOMException.NO_MODIFICATION_ALLOWED_ERR, "Attributes are set on the element, not in their map");
    }
}
