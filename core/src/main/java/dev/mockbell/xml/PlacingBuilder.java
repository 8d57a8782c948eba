package dev.mockbell.xml;

import dev.mockbell.xml.PlacedDocument.PlacedElement;
import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.Node;
import org.xml.sax.Attributes;
import org.xml.sax.Locator;
import org.xml.sax.SAXException;
import org.xml.sax.ext.DefaultHandler2;

/**
 * Builds a DOM from SAX events and notes each element's place; nothing of the document is dropped. The reader must hand
 * over namespace declarations among the attributes, where they stood.
 */
final class PlacingBuilder extends DefaultHandler2 {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    /** The tree keeps attributes sorted, so many of them on one element would cost the square of their number. */
    private static final int MOST_ATTRIBUTES = 10_000;

    private final PlacedDocument document;
    private final int depthLimit;
    private final long textLimit;
    private final StringBuilder text = new StringBuilder();
    private Locator locator;
    private Node at;
    private long textSize;
    private int depth;
    private int line;
    private int column;
    private boolean cdata;
    private final Recurring recurring;

    /**
     * @param size about how many characters the document has
     * @param textLimit greatest number of characters that the document's text and attributes may have, entities expanded
     */
    PlacingBuilder(PlacedDocument document, int depthLimit, long size, long textLimit) {
        this.recurring = new Recurring(size);
        this.textLimit = textLimit;
        this.document = document;
        this.depthLimit = depthLimit;
        this.at = document;
    }

    @Override
    public void skippedEntity(String name) throws SAXException {
        flush();
        Place place = new Place(
                String.valueOf(document.getDocumentURI()), locator.getLineNumber(), locator.getColumnNumber());
        document.skipped(new Skipped(name, place));
    }

    /** A document type of its own file is not read, and the reader says nothing of that by itself. */
    @Override
    public void startDTD(String name, String publicId, String systemId) throws SAXException {
        if (publicId != null || systemId != null) {
            skippedEntity("[dtd]");
        }
    }

    @Override
    public void setDocumentLocator(Locator locator) {
        this.locator = locator;
    }

    @Override
    public void startElement(String uri, String localName, String qName, Attributes attributes) throws SAXException {
        flush();
        if (++depth > depthLimit) {
            throw new BeyondBounds("elements are nested more than " + depthLimit + " deep", locator);
        }
        if (attributes.getLength() > MOST_ATTRIBUTES) {
            throw new BeyondBounds("an element has more than " + MOST_ATTRIBUTES + " attributes", locator);
        }
        PlacedElement element = document.read(uri.isEmpty() ? null : uri, qName, localName);
        int count = attributes.getLength();
        List<String> order = count == 0 ? List.of() : new ArrayList<>(count);
        for (int i = 0; i < count; i++) {
            String name = attributes.getQName(i);
            boolean declares = "xmlns".equals(name) || name.startsWith("xmlns:");
            String ns = declares ? XMLNS : attributes.getURI(i);
            Attr attr = document.createAttributeNS(ns.isEmpty() ? null : ns, name);
            grow(attributes.getValue(i).length());
            attr.setValue(recurring.of(attributes.getValue(i)));
            element.setAttributeNodeNS(attr);
            order.add(name);
        }
        boolean root = at == document;
        element.found(
                root || line == 0 ? locator.getLineNumber() : line,
                root || line == 0 ? locator.getColumnNumber() : column,
                order);
        at.appendChild(element);
        at = element;
        mark();
    }

    private void grow(int by) throws SAXException {
        textSize += by;
        if (textSize > textLimit) {
            throw new BeyondBounds("its entities expand beyond the limit", locator);
        }
    }

    /** Notes where an event ended, which is where the next tag starts; the parser itself tells only where a tag ends. */
    private void mark() {
        line = locator.getLineNumber();
        column = locator.getColumnNumber();
    }

    @Override
    public void endElement(String uri, String localName, String qName) {
        flush();
        depth--;
        at = at.getParentNode();
        mark();
    }

    @Override
    public void characters(char[] ch, int start, int length) throws SAXException {
        grow(length);
        text.append(ch, start, length);
        mark();
    }

    @Override
    public void ignorableWhitespace(char[] ch, int start, int length) {
        text.append(ch, start, length);
        mark();
    }

    @Override
    public void startCDATA() {
        flush();
        cdata = true;
    }

    @Override
    public void endCDATA() {
        at.appendChild(document.createCDATASection(text.toString()));
        text.setLength(0);
        cdata = false;
        mark();
    }

    @Override
    public void comment(char[] ch, int start, int length) {
        flush();
        at.appendChild(document.createComment(new String(ch, start, length)));
        mark();
    }

    @Override
    public void processingInstruction(String target, String data) {
        flush();
        at.appendChild(document.createProcessingInstruction(target, data));
        mark();
    }

    private void flush() {
        if (text.length() == 0 || cdata) {
            return;
        }
        if (at != document) {
            at.appendChild(document.createTextNode(recurring.of(text)));
        }
        text.setLength(0);
    }
}
