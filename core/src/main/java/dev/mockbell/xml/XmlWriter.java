package dev.mockbell.xml;

import com.ctc.wstx.stax.WstxOutputFactory;
import java.io.StringWriter;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLOutputFactory2;
import org.codehaus.stax2.XMLStreamWriter2;

/**
 * Writes XML element by element, by the names it is given, prefixes included. What XML cannot hold (XML 1.0 §2.2) becomes the
 * replacement character. Laid out with two spaces a level, but for elements that hold text.
 */
public final class XmlWriter {
    private static final XMLOutputFactory2 FACTORY = factory();

    private final StringWriter text = new StringWriter();
    private final XMLStreamWriter2 out;
    private int depth;
    private boolean first = true;
    /** Whether the element that is open holds text, so that nothing may be put in for the looks. */
    private boolean inline;

    /** Whether nothing stands in the element that is open. */
    private boolean leaf;

    private XmlWriter() {
        try {
            out = (XMLStreamWriter2) FACTORY.createXMLStreamWriter(text);
        } catch (XMLStreamException e) {
            throw new IllegalStateException("text can always be written to", e);
        }
    }

    private static XMLOutputFactory2 factory() {
        XMLOutputFactory2 factory = new WstxOutputFactory();
        factory.setProperty(XMLOutputFactory2.IS_REPAIRING_NAMESPACES, false);
        factory.setProperty(XMLOutputFactory2.XSP_NAMESPACE_AWARE, false);
        return factory;
    }

    /** A document, with its declaration. */
    public static XmlWriter document() {
        XmlWriter writer = new XmlWriter();
        writer.text.append("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        return writer;
    }

    /** An element to be put elsewhere. */
    public static XmlWriter fragment() {
        return new XmlWriter();
    }

    /** Steps that the underlying writer may refuse; it does so only for what would not be well-formed. */
    private interface Step {
        void write() throws XMLStreamException;
    }

    private XmlWriter write(Step step) {
        try {
            step.write();
            return this;
        } catch (XMLStreamException e) {
            throw new IllegalStateException("what is written is not well-formed", e);
        }
    }

    /** Opens an element in the one that is open. */
    public XmlWriter start(String name) {
        write(() -> {
            if (!first && !inline) {
                out.writeRaw("\n" + "  ".repeat(depth));
            }
            out.writeStartElement(name);
        });
        first = false;
        depth++;
        inline = false;
        leaf = true;
        return this;
    }

    /** An attribute, or a declaration, of the element that was opened right before. */
    public XmlWriter attribute(String name, Object value) {
        return write(() -> out.writeAttribute(name, Markup.legal(String.valueOf(value))));
    }

    /** Text of the element that was started last. */
    public XmlWriter text(String value) {
        inline = true;
        leaf = false;
        return write(() -> out.writeCharacters(Markup.legal(value)));
    }

    /** What is XML already, as it is. */
    public XmlWriter raw(String xml) {
        inline = true;
        leaf = false;
        return write(() -> out.writeRaw(xml));
    }

    /** Ends the element that was started last. */
    public XmlWriter end() {
        if (depth == 0) {
            throw new IllegalStateException("no element is open");
        }
        depth--;
        boolean close = !inline && !leaf;
        write(() -> {
            if (close) {
                out.writeRaw("\n" + "  ".repeat(depth));
            }
            out.writeEndElement();
        });
        inline = false;
        leaf = false;
        return this;
    }

    /** An element of text alone. */
    public XmlWriter element(String name, String value) {
        return start(name).text(value).end();
    }

    /** All of it, when every element has ended. */
    public String finish() {
        write(out::flush);
        return text.toString();
    }
}
