package dev.mockbell.xml;

import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.Attributes;
import org.xml.sax.Locator;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import org.xml.sax.ext.DefaultHandler2;

/** Builds a DOM from SAX events and notes each element's place; nothing of the document is dropped. */
final class PlacingBuilder extends DefaultHandler2 {
    static final String PLACE = "mockbell.place";
    static final String ORDER = "mockbell.attribute-order";
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    private final Document document;
    private final int depthLimit;
    private final StringBuilder text = new StringBuilder();
    private final List<String[]> declared = new ArrayList<>();
    private Locator locator;
    private Node at;
    private int depth;
    private boolean cdata;

    PlacingBuilder(Document document, int depthLimit) {
        this.document = document;
        this.depthLimit = depthLimit;
        this.at = document;
    }

    @Override
    public void setDocumentLocator(Locator locator) {
        this.locator = locator;
    }

    @Override
    public void startPrefixMapping(String prefix, String uri) {
        declared.add(new String[] {prefix, uri});
    }

    @Override
    public void startElement(String uri, String localName, String qName, Attributes attributes) throws SAXException {
        flush();
        if (++depth > depthLimit) {
            throw new SAXParseException("elements are nested more than " + depthLimit + " deep", locator);
        }
        Element element = document.createElementNS(uri.isEmpty() ? null : uri, qName);
        List<String> order = new ArrayList<>();
        for (String[] d : declared) {
            String name = d[0].isEmpty() ? "xmlns" : "xmlns:" + d[0];
            element.setAttributeNS(XMLNS, name, d[1]);
            order.add(name);
        }
        declared.clear();
        for (int i = 0; i < attributes.getLength(); i++) {
            String ns = attributes.getURI(i);
            Attr attr = document.createAttributeNS(ns.isEmpty() ? null : ns, attributes.getQName(i));
            attr.setValue(attributes.getValue(i));
            element.setAttributeNodeNS(attr);
            order.add(attr.getName());
        }
        element.setUserData(
                PLACE, new Place(document.getDocumentURI(), locator.getLineNumber(), locator.getColumnNumber()), null);
        element.setUserData(ORDER, order, null);
        at.appendChild(element);
        at = element;
    }

    @Override
    public void endElement(String uri, String localName, String qName) {
        flush();
        depth--;
        at = at.getParentNode();
    }

    @Override
    public void characters(char[] ch, int start, int length) {
        text.append(ch, start, length);
    }

    @Override
    public void ignorableWhitespace(char[] ch, int start, int length) {
        text.append(ch, start, length);
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
    }

    @Override
    public void comment(char[] ch, int start, int length) {
        flush();
        at.appendChild(document.createComment(new String(ch, start, length)));
    }

    @Override
    public void processingInstruction(String target, String data) {
        flush();
        at.appendChild(document.createProcessingInstruction(target, data));
    }

    private void flush() {
        if (text.length() == 0 || cdata) {
            return;
        }
        if (at != document) {
            at.appendChild(document.createTextNode(text.toString()));
        }
        text.setLength(0);
    }
}
