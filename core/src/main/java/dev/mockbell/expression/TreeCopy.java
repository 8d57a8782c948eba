package dev.mockbell.expression;

import java.util.LinkedHashMap;
import java.util.Map;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** Copies an element out of a stream into a tree for expressions, with the declarations of namespaces that stand around it. */
public final class TreeCopy {
    /** The declarations around what is read, outermost first. */
    private final Map<String, String> around = new LinkedHashMap<>();

    /** Takes up what the element declares that the reader stands at, which goes around those to come. */
    public void declared(XMLStreamReader reader) {
        for (int i = 0; i < reader.getNamespaceCount(); i++) {
            around.put(text(reader.getNamespacePrefix(i)), text(reader.getNamespaceURI(i)));
        }
    }

    /**
     * Copies the element that the reader stands at, and moves the reader to that element's end.
     *
     * @throws XMLStreamException when it is not well-formed, or holds a processing instruction, which SOAP forbids (SOAP 1.1 §3)
     */
    public void copy(XMLStreamReader reader, TreeBuilding to) throws XMLStreamException {
        int depth = 0;
        do {
            switch (reader.getEventType()) {
                case XMLStreamConstants.START_ELEMENT -> {
                    start(reader, to, depth == 0);
                    depth++;
                }
                case XMLStreamConstants.END_ELEMENT -> {
                    to.end();
                    depth--;
                }
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.SPACE, XMLStreamConstants.CDATA ->
                    to.text(reader.getText());
                case XMLStreamConstants.COMMENT -> to.comment(reader.getText());
                case XMLStreamConstants.PROCESSING_INSTRUCTION ->
                    throw new XMLStreamException("a processing instruction");
                default -> {
                    // nothing else stands in an element
                }
            }
        } while (depth > 0 && reader.next() >= 0);
    }

    private void start(XMLStreamReader reader, TreeBuilding to, boolean outermost) {
        to.start(text(reader.getPrefix()), text(reader.getNamespaceURI()), reader.getLocalName());
        if (outermost) {
            around.forEach(to::declare);
        }
        for (int i = 0; i < reader.getNamespaceCount(); i++) {
            to.declare(text(reader.getNamespacePrefix(i)), text(reader.getNamespaceURI(i)));
        }
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            to.attribute(
                    text(reader.getAttributePrefix(i)),
                    text(reader.getAttributeNamespace(i)),
                    reader.getAttributeLocalName(i),
                    reader.getAttributeValue(i));
        }
    }

    private static String text(String orNull) {
        return orNull == null ? "" : orNull;
    }
}
