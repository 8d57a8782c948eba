package dev.mockbell.xml;

import java.util.ArrayList;
import java.util.List;
import org.apache.xerces.dom.DocumentImpl;
import org.apache.xerces.dom.ElementNSImpl;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;

/** A document whose elements hold their place and the order of their attributes in two fields, not in a map of the document. */
final class PlacedDocument extends DocumentImpl {
    private static final long serialVersionUID = 1L;

    private transient List<Skipped> skipped = new ArrayList<>();

    /** What the parser did not follow. */
    void skipped(Skipped entity) {
        skipped.add(entity);
    }

    List<Skipped> skipped() {
        return List.copyOf(skipped);
    }

    @Override
    public Element createElementNS(String namespace, String qualifiedName) {
        return new PlacedElement(this, namespace, qualifiedName);
    }

    /** As {@link #createElementNS}, of a name that a reader has looked at; going over it once more takes longer than the rest. */
    PlacedElement read(String namespace, String qualifiedName, String localName) {
        return new PlacedElement(this, namespace, qualifiedName, localName);
    }

    /** An element with its place; copies within a document keep it. */
    static final class PlacedElement extends ElementNSImpl {
        private static final long serialVersionUID = 1L;

        private int line;
        private int column;
        private transient List<String> order = List.of();

        PlacedElement(PlacedDocument owner, String namespace, String qualifiedName) {
            super(owner, namespace, qualifiedName);
        }

        PlacedElement(PlacedDocument owner, String namespace, String qualifiedName, String localName) {
            super(owner, namespace, qualifiedName, localName);
        }

        /** @param order the names of the attributes as they stood in the source */
        void found(int atLine, int atColumn, List<String> order) {
            this.line = atLine;
            this.column = atColumn;
            this.order = order;
        }

        /** As the standard says, but of one without attributes not the place where some could be put: that would be room for each. */
        @Override
        public NamedNodeMap getAttributes() {
            return hasAttributes() ? super.getAttributes() : NoAttributes.HERE;
        }

        boolean isPlaced() {
            return line > 0;
        }

        Place place() {
            String uri = ownerDocument.getDocumentURI();
            return new Place(uri == null ? "" : uri, line, column);
        }

        List<String> order() {
            return order;
        }
    }
}
