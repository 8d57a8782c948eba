package dev.mockbell.xml;

import com.ctc.wstx.stax.WstxInputFactory;
import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.SequenceInputStream;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import javax.xml.stream.XMLInputFactory;
import org.apache.xerces.impl.XMLErrorReporter;
import org.apache.xerces.impl.msg.XMLMessageFormatter;
import org.apache.xerces.parsers.SAXParser;
import org.apache.xerces.parsers.XML11Configuration;
import org.apache.xerces.util.SecurityManager;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import org.xml.sax.XMLReader;

/**
 * Makes every parser of the program. None of them follows an external entity or an external document type; sizes,
 * depths and entity expansions are bounded. Xerces knows none of the access attributes of the JDK's parser, so its
 * features are set one by one here and nowhere else.
 */
public final class Xml {
    private static final String SAX = "http://xml.org/sax/features/";
    private static final String APACHE = "http://apache.org/xml/features/";
    private static final String ERROR_REPORTER = "http://apache.org/xml/properties/internal/error-reporter";
    private static final String SECURITY_MANAGER = "http://apache.org/xml/properties/security-manager";

    /** How many characters more than the document has its entities may bring in. */
    private static final long ENTITY_TEXT = 1 << 20;

    /** How much of a document tells its encoding. */
    private static final int START = 8_192;

    private Xml() {}

    /** A namespace-aware reader that obeys {@code limits} in all but depth and size. */
    public static XMLReader reader(XmlLimits limits) {
        return reader(limits, new Complaints());
    }

    private static XMLReader reader(XmlLimits limits, Complaints complaints) {
        try {
            // made directly: the factories search the whole class path for a configuration each time
            XML11Configuration configuration = new XML11Configuration();
            ((XMLErrorReporter) configuration.getProperty(ERROR_REPORTER))
                    .putMessageFormatter(XMLMessageFormatter.XML_DOMAIN, complaints);
            XMLReader reader = new SAXParser(configuration);
            reader.setFeature(SAX + "external-general-entities", false);
            reader.setFeature(SAX + "external-parameter-entities", false);
            reader.setFeature(APACHE + "nonvalidating/load-external-dtd", false);
            reader.setFeature(APACHE + "disallow-doctype-decl", !limits.doctype());
            SecurityManager bounds = new SecurityManager();
            bounds.setEntityExpansionLimit(Math.max(1, limits.entityExpansions()));
            reader.setProperty(SECURITY_MANAGER, bounds);
            reader.setEntityResolver((publicId, systemId) -> new InputSource(new StringReader("")));
            reader.setErrorHandler(new Strict());
            return reader;
        } catch (SAXException e) {
            throw new IllegalStateException("the XML parser lacks a feature that keeps it safe", e);
        }
    }

    /** A streaming factory without document types, for finding one's way in a message quickly. Thread-safe once made. */
    public static XMLInputFactory streaming() {
        WstxInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, true);
        factory.getConfig().setMaxElementDepth(XmlLimits.MESSAGE.depth());
        return factory;
    }

    /**
     * Reads a document whose elements know their place.
     *
     * @param name shown in errors and kept as the document's URI
     * @throws Problem when it is not well-formed, with line and column, or beyond the limits
     */
    public static Document parse(byte[] bytes, String name, XmlLimits limits) {
        return parse(bytes, "", name, limits);
    }

    /**
     * As {@link #parse(byte[], String, XmlLimits)}, for a document that came with a Content-Type.
     *
     * @param contentType counts when neither a byte order mark nor the XML declaration tells the encoding
     */
    public static Document parse(byte[] bytes, String contentType, String name, XmlLimits limits) {
        return parse(Content.of(bytes), contentType, name, limits);
    }

    /** As {@link #parse(byte[], String, String, XmlLimits)}. */
    public static Document parse(Content from, String contentType, String name, XmlLimits limits) {
        return parse(from, contentType, name, limits, new StopSignal());
    }

    /**
     * As {@link #parse(byte[], String, String, XmlLimits)}, until it is stopped.
     *
     * @throws Problem also of kind STOPPED
     */
    public static Document parse(Content from, String contentType, String name, XmlLimits limits, StopSignal stop) {
        if (from.size() > limits.bytes()) {
            throw Problem.input(
                    "The document has " + from.size() + " bytes, more than the limit of " + limits.bytes(),
                    name,
                    "Raise the limit if it is meant to be that large.");
        }
        byte[] start = from.start(START);
        TextEncoding encoding = TextEncoding.of(start, contentType);
        byte[] read = encoding.withoutLateDeclaration(start);
        InputStream first = new ByteArrayInputStream(read, encoding.skip(), read.length - encoding.skip());
        try (InputStream rest = from.open(read.length);
                InputStream content = new Stoppable(new SequenceInputStream(first, rest), stop)) {
            return parse(content, encoding, from.size(), name, limits);
        } catch (IOException e) {
            throw Problem.of(Problem.Kind.INPUT, "The XML cannot be read: " + clause(Problem.reason(e)), name, null, e);
        }
    }

    /** A stream that ends with a problem once a stop was asked for. */
    private static final class Stoppable extends FilterInputStream {
        private final StopSignal stop;

        Stoppable(InputStream in, StopSignal stop) {
            super(in);
            this.stop = stop;
        }

        @Override
        public int read() throws IOException {
            stop.check();
            return super.read();
        }

        @Override
        public int read(byte[] into, int from, int most) throws IOException {
            stop.check();
            return super.read(into, from, most);
        }
    }

    private static Document parse(
            InputStream content, TextEncoding encoding, long size, String name, XmlLimits limits) {
        InputSource source = new InputSource(content);
        if (encoding.charset().name().startsWith("UTF-32")) {
            // the parser does not know it
            source.setCharacterStream(
                    new InputStreamReader(content, encoding.charset().newDecoder()));
        } else {
            source.setEncoding(encoding.charset().name());
        }
        source.setSystemId(name);
        return parse(source, size, name, limits);
    }

    /** As {@link #parse(byte[], String, XmlLimits)}, from text. */
    public static Document parse(String text, String name, XmlLimits limits) {
        InputSource source = new InputSource(new StringReader(text));
        source.setSystemId(name);
        return parse(source, text.length(), name, limits);
    }

    private static Document parse(InputSource source, long size, String name, XmlLimits limits) {
        PlacedDocument document = new PlacedDocument();
        document.setDocumentURI(name);
        PlacingBuilder builder = new PlacingBuilder(document, limits.depth(), size, size + ENTITY_TEXT);
        Complaints complaints = new Complaints();
        XMLReader reader = reader(limits, complaints);
        reader.setContentHandler(builder);
        try {
            reader.setFeature("http://xml.org/sax/features/namespace-prefixes", true);
            reader.setProperty("http://xml.org/sax/properties/lexical-handler", builder);
            // what the reader hands over is right; asking again costs more than the tree
            document.setErrorChecking(false);
            reader.parse(source);
            document.setErrorChecking(true);
            return document;
        } catch (SAXParseException e) {
            throw unreadable(e, complaints, name);
        } catch (SAXException | IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The XML cannot be read: " + clause(Problem.reason(e)),
                    name,
                    "Mend the document.",
                    e);
        } catch (org.apache.xerces.xni.XNIException e) {
            throw Problem.of(Problem.Kind.INPUT, "The XML cannot be read: " + clause(Problem.reason(e)), name, null, e);
        }
    }

    private static Problem unreadable(SAXParseException e, Complaints complaints, String name) {
        boolean bound = e instanceof BeyondBounds || complaints.isExpansion();
        String reason = complaints.isExpansion() ? "its entities expand beyond the limit" : clause(Problem.reason(e));
        return Problem.of(
                Problem.Kind.INPUT,
                complaints.isDoctype()
                        ? "The XML has a document type declaration, which SOAP forbids"
                        : (bound ? "The XML goes beyond what is read: " : "The XML is not well-formed: ") + reason,
                new Place(name, e.getLineNumber(), e.getColumnNumber()).toString(),
                bound ? "Raise the limit if it is meant to be so." : "Mend it there.",
                e);
    }

    private static String clause(String text) {
        String line = text.strip();
        return line.endsWith(".") ? line.substring(0, line.length() - 1) : line;
    }

    /** What a document that was read here refers to outside of itself, and is without. */
    public static List<Skipped> skipped(Document document) {
        return document instanceof PlacedDocument placed ? placed.skipped() : List.of();
    }

    /** An empty document. */
    public static Document newDocument() {
        return new PlacedDocument();
    }

    /** Where the element stood in its source. */
    public static Place placeOf(Node node) {
        for (Node at = node; at != null; at = at.getParentNode()) {
            if (at instanceof PlacedDocument.PlacedElement placed && placed.isPlaced()) {
                return placed.place();
            }
        }
        Document owner = node instanceof Document d ? d : node.getOwnerDocument();
        return Place.in(owner == null || owner.getDocumentURI() == null ? "" : owner.getDocumentURI());
    }

    /** Gives an element that was made beside the source the place of one that stands in it. */
    public static void place(Element made, Element like) {
        Place place = placeOf(like);
        ((PlacedDocument.PlacedElement) made).found(place.line(), place.column(), List.of());
    }

    /** The attributes of an element, namespace declarations among them. */
    public static List<Attr> attributes(Element element) {
        NamedNodeMap all = element.getAttributes();
        if (all.getLength() == 0) {
            return List.of();
        }
        List<Attr> found = new ArrayList<>(all.getLength());
        for (int i = 0; i < all.getLength(); i++) {
            found.add((Attr) all.item(i));
        }
        return found;
    }

    /** The child elements of a node in their order. */
    public static List<Element> children(Node parent) {
        List<Element> found = new ArrayList<>();
        for (Node n = parent.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element e) {
                found.add(e);
            }
        }
        return found;
    }

    /** The child elements of that name. */
    public static List<Element> children(Node parent, String namespace, String localName) {
        List<Element> found = new ArrayList<>();
        for (Element e : children(parent)) {
            if (localName.equals(e.getLocalName()) && java.util.Objects.equals(namespace, e.getNamespaceURI())) {
                found.add(e);
            }
        }
        return found;
    }

    private static final class Strict implements org.xml.sax.ErrorHandler {
        @Override
        public void warning(SAXParseException e) {
            // a warning of the parser changes nothing in what was read
        }

        @Override
        public void error(SAXParseException e) {
            // only a validating parser calls this, and this one does not validate
        }

        @Override
        public void fatalError(SAXParseException e) throws SAXException {
            throw e;
        }
    }
}
