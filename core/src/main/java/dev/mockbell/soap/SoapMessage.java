package dev.mockbell.soap;

import dev.mockbell.content.Content;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * An envelope that was received.
 *
 * @param document the whole envelope
 * @param payload the first element of the body, a fault included; empty when the body is
 */
public record SoapMessage(
        SoapVersion version,
        Document document,
        List<Element> headers,
        Optional<Element> payload,
        Optional<SoapFault> fault) {
    /** A fault begins within so many bytes of its body; it may be in parts, but in no encoding that has no plain letters. */
    private static final int FAULT_WITHIN = 16_384;

    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    /**
     * Reads an envelope.
     *
     * @throws Problem when the bytes are no XML or no SOAP envelope
     */
    public static SoapMessage parse(byte[] bytes, String name) {
        return parse(Content.of(bytes), "", name);
    }

    /**
     * As {@link #parse(byte[], String)}, for bytes that came with a Content-Type.
     *
     * @param contentType counts when neither a byte order mark nor the XML declaration tells the encoding
     */
    public static SoapMessage parse(Content content, String contentType, String name) {
        return of(document(content, contentType, name), name);
    }

    /** Reads the envelope of a message: its body, or the root of its parts with what XOP took out of it back in. */
    public static SoapMessage of(Message message, String name) {
        Part root = message.root();
        Document document = document(root.content(), root.header("Content-Type").orElse(""), name);
        List<Part> beside = message.attachments();
        if (!beside.isEmpty()) {
            Xop.resolve(document, beside);
        }
        return of(document, name);
    }

    /** The fault that a message is; empty for what is none, or no envelope. Costs little for most of what is none. */
    public static Optional<SoapFault> faultOf(Message message) {
        String start = new String(message.body().start(FAULT_WITHIN), StandardCharsets.ISO_8859_1);
        if (!start.contains("Fault")) {
            return Optional.empty();
        }
        try {
            return of(message, "message").fault();
        } catch (Problem noEnvelope) {
            return Optional.empty();
        }
    }

    private static Document document(Content content, String contentType, String name) {
        if (content.isEmpty()) {
            throw Problem.input("The body is empty, not a SOAP envelope", name, null);
        }
        return Xml.parse(content, contentType, name, XmlLimits.MESSAGE);
    }

    /**
     * Reads the envelope that a document is.
     *
     * @throws Problem when it is none
     */
    public static SoapMessage of(Document document, String name) {
        Element root = document.getDocumentElement();
        Optional<SoapVersion> version = SoapVersion.ofNamespace(root.getNamespaceURI());
        if (version.isEmpty() || !"Envelope".equals(root.getLocalName())) {
            throw Problem.input(
                    "This is <" + root.getTagName() + ">, not a SOAP envelope",
                    name,
                    "html".equalsIgnoreCase(root.getLocalName()) ? "The address leads to a web page." : null);
        }
        String ns = version.get().namespace();
        List<Element> headers = Xml.children(root, ns, "Header").stream()
                .flatMap(h -> Xml.children(h).stream())
                .toList();
        Optional<Element> payload = Xml.children(root, ns, "Body").stream()
                .flatMap(b -> Xml.children(b).stream())
                .findFirst();
        Optional<SoapFault> fault = payload.filter(
                        p -> "Fault".equals(p.getLocalName()) && ns.equals(p.getNamespaceURI()))
                .map(SoapFault::of);
        return new SoapMessage(version.get(), document, headers, payload, fault);
    }

    /** The payload as a document of its own, with the namespace declarations it inherited. */
    public Optional<Document> payloadDocument() {
        return payload.map(SoapMessage::alone);
    }

    /** Whether there is a Body, which there must be (SOAP 1.1 §4.3, SOAP 1.2 part 1 §5.1). */
    public boolean hasBody() {
        return !Xml.children(document.getDocumentElement(), version.namespace(), "Body")
                .isEmpty();
    }

    /** The body itself as a document of its own, for contracts that put several elements into it. */
    public Optional<Document> bodyDocument() {
        return Xml.children(document.getDocumentElement(), version.namespace(), "Body").stream()
                .findFirst()
                .map(SoapMessage::alone);
    }

    /**
     * As {@link #payloadDocument()}, taken out of the envelope, which is left without it. Nothing is copied, which counts where
     * a message is large.
     */
    public Optional<Document> takePayload() {
        return payload.map(p -> {
            declareInherited(p, p);
            Document alone = Xml.newDocument();
            alone.appendChild(alone.adoptNode(p));
            return alone;
        });
    }

    private static Document alone(Element element) {
        Document alone = Xml.newDocument();
        Element copy = (Element) alone.importNode(element, true);
        alone.appendChild(copy);
        declareInherited(element, copy);
        return alone;
    }

    /** Declares on an element what is declared around another. */
    private static void declareInherited(Element from, Element to) {
        for (Node n = from.getParentNode(); n instanceof Element e; n = n.getParentNode()) {
            for (Attr a : Xml.attributes(e)) {
                if (XMLNS.equals(a.getNamespaceURI()) && !to.hasAttribute(a.getName())) {
                    to.setAttributeNS(XMLNS, a.getName(), a.getValue());
                }
            }
        }
    }

    /**
     * The envelope as text with another payload in the place of its own; all else stays.
     *
     * @throws Problem when the other is not well-formed
     */
    public String textWith(String otherPayload) {
        Document copy = (Document) document.cloneNode(true);
        Element other = Xml.parse(otherPayload.getBytes(StandardCharsets.UTF_8), "payload", XmlLimits.MESSAGE)
                .getDocumentElement();
        Element body = Xml.children(copy.getDocumentElement(), version.namespace(), "Body")
                .get(0);
        Node fresh = copy.importNode(other, true);
        Xml.children(body).stream()
                .findFirst()
                .ifPresentOrElse(was -> body.replaceChild(fresh, was), () -> body.appendChild(fresh));
        return XmlText.exact(copy);
    }

    /** The payload as text of its own; empty for an empty body. */
    public String payloadText() {
        return payloadDocument().map(XmlText::exact).orElse("");
    }
}
