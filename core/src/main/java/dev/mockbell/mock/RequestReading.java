package dev.mockbell.mock;

import com.ctc.wstx.stax.WstxInputFactory;
import dev.mockbell.expression.TreeBuilding;
import dev.mockbell.expression.TreeCopy;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.Supplier;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import net.sf.saxon.s9api.XdmNode;
import org.codehaus.stax2.XMLInputFactory2;
import org.codehaus.stax2.io.Stax2ByteArraySource;

/**
 * A request, read once from its start to its end.
 *
 * @param version empty when the envelope is of no version of SOAP, or there is none
 * @param envelope the name of the outermost element; empty when that cannot be told
 * @param payload the name of the body's first element; empty when the body is empty
 * @param mustUnderstand the header blocks that whoever answers must understand
 * @param flaw why the request cannot be read; empty when it can
 * @param content what is in the body, as a document; empty unless somebody wants to look at it
 * @param headers the header blocks, each as a document; as for {@code content}
 * @param addressed the id that WS-Addressing gives it; empty for none
 */
record RequestReading(
        Optional<SoapVersion> version,
        Optional<QName> envelope,
        Optional<QName> payload,
        List<QName> mustUnderstand,
        String flaw,
        Optional<XdmNode> content,
        List<XdmNode> headers,
        Optional<Addressed> addressed) {
    /**
     * What a request is known by.
     *
     * @param by the version of WS-Addressing
     */
    record Addressed(Addressing by, String messageId) {}

    private static final String NEXT_11 = "http://schemas.xmlsoap.org/soap/actor/next";

    /** Makes a tree. */
    interface Trees extends Supplier<TreeBuilding> {}

    /**
     * Reads a request.
     *
     * @param body in UTF-8
     * @param wanted whether somebody looks into a request with that payload; asked once, at its start. Header blocks are kept when
     *     it says so for null
     */
    static RequestReading of(XMLInputFactory2 factory, byte[] body, Trees trees, Predicate<QName> wanted) {
        Reading reading = new Reading(trees, wanted);
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new Stax2ByteArraySource(body, 0, body.length));
            try {
                reading.read(reader);
            } finally {
                reader.close();
            }
        } catch (XMLStreamException | RuntimeException e) {
            reading.flaw = flaw(body);
        }
        return reading.done();
    }

    /**
     * Looks at the first element of the body of a request that was read before without a flaw.
     *
     * @param look gets a reader that stands at its start
     * @return false when there is none
     */
    static boolean atPayload(XMLInputFactory2 factory, byte[] body, Predicate<XMLStreamReader> look) {
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new Stax2ByteArraySource(body, 0, body.length));
            try {
                int depth = 0;
                boolean inBody = false;
                while (reader.hasNext()) {
                    int event = reader.next();
                    if (event == XMLStreamConstants.START_ELEMENT) {
                        depth++;
                        if (depth == 3 && inBody) {
                            return look.test(reader);
                        }
                        inBody |= depth == 2 && "Body".equals(reader.getLocalName());
                    } else if (event == XMLStreamConstants.END_ELEMENT) {
                        depth--;
                    }
                }
                return false;
            } finally {
                reader.close();
            }
        } catch (XMLStreamException e) {
            return false;
        }
    }

    RequestReading with(Optional<XdmNode> other) {
        return new RequestReading(version, envelope, payload, mustUnderstand, flaw, other, headers, addressed);
    }

    /** In the words of the parser that reads messages for people: this one's are for who knows it. */
    private static String flaw(byte[] body) {
        try {
            Xml.parse(body, "request", XmlLimits.MESSAGE);
            return "The request is nested too deep, or has more attributes on an element than are taken.";
        } catch (Problem problem) {
            return "The request cannot be read: " + problem.getMessage();
        }
    }

    /** One reading under way. */
    private static final class Reading {
        private final Trees trees;
        private final Predicate<QName> wanted;
        private final List<QName> must = new ArrayList<>();
        private final List<XdmNode> headers = new ArrayList<>();
        private final TreeCopy copy = new TreeCopy();

        private SoapVersion version;
        private QName envelope;
        private QName payload;
        private XdmNode content;
        private Addressed addressed;
        private String flaw = "";

        Reading(Trees trees, Predicate<QName> wanted) {
            this.trees = trees;
            this.wanted = wanted;
        }

        RequestReading done() {
            return new RequestReading(
                    Optional.ofNullable(version),
                    Optional.ofNullable(envelope),
                    Optional.ofNullable(payload),
                    must,
                    flaw,
                    Optional.ofNullable(content),
                    headers,
                    Optional.ofNullable(addressed));
        }

        void read(XMLStreamReader reader) throws XMLStreamException {
            int depth = 0;
            boolean inHeader = false;
            boolean inBody = false;
            boolean body = false;
            TreeBuilding tree = null;
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    depth++;
                    if (depth == 1) {
                        envelope = reader.getName();
                        version = SoapVersion.ofNamespace(envelope.getNamespaceURI())
                                .filter(v -> "Envelope".equals(envelope.getLocalPart()))
                                .orElse(null);
                        if (version == null) {
                            // whatever follows is not SOAP
                            return;
                        }
                        copy.declared(reader);
                    } else if (depth == 2) {
                        boolean soap = version.namespace().equals(reader.getNamespaceURI());
                        inHeader = soap && "Header".equals(reader.getLocalName());
                        inBody = soap && "Body".equals(reader.getLocalName());
                        body |= inBody;
                        copy.declared(reader);
                    } else if (depth == 3 && inHeader) {
                        if (mustBeUnderstood(reader)) {
                            must.add(reader.getName());
                        }
                        Addressing by = "MessageID".equals(reader.getLocalName())
                                ? Addressing.ofNamespace(reader.getNamespaceURI())
                                        .orElse(null)
                                : null;
                        if (wanted.test(null)) {
                            TreeBuilding block = trees.get();
                            copy.copy(reader, block);
                            headers.add(block.done());
                            depth--;
                            addressed(by, headers.get(headers.size() - 1).getStringValue());
                        } else if (by != null) {
                            addressed(by, reader.getElementText());
                            depth--;
                        }
                    } else if (depth == 3 && inBody) {
                        if (payload == null) {
                            payload = reader.getName();
                            tree = wanted.test(payload) ? trees.get() : null;
                        }
                        if (tree != null) {
                            copy.copy(reader, tree);
                            depth--;
                        }
                    }
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    depth--;
                } else if (event == XMLStreamConstants.DTD) {
                    flaw = "The request has a document type declaration, which SOAP forbids.";
                    return;
                } else if (event == XMLStreamConstants.PROCESSING_INSTRUCTION && depth > 0) {
                    flaw = "The request has a processing instruction, which SOAP forbids.";
                    return;
                }
            }
            if (tree != null) {
                content = tree.done();
            }
            if (!body) {
                flaw = "The envelope has no Body.";
            }
        }

        private void addressed(Addressing by, String id) {
            if (by != null && !id.isBlank()) {
                addressed = new Addressed(by, id.strip());
            }
        }

        /** Whether a block is meant for who answers, and must be understood (SOAP 1.1 §4.2, SOAP 1.2 part 1 §5.2). */
        private boolean mustBeUnderstood(XMLStreamReader reader) {
            String must = reader.getAttributeValue(version.namespace(), "mustUnderstand");
            if (must == null || !must.strip().equals("1") && !must.strip().equals("true")) {
                return false;
            }
            boolean old = version == SoapVersion.V11;
            String role = reader.getAttributeValue(version.namespace(), old ? "actor" : "role");
            return role == null
                    || role.isBlank()
                    || role.strip().equals(NEXT_11)
                    || role.strip().equals(SoapVersion.V12.namespace() + "/role/next")
                    || role.strip().equals(SoapVersion.V12.namespace() + "/role/ultimateReceiver");
        }
    }

    /** A factory whose readers are cheap to make. */
    static XMLInputFactory2 factory(MockLimits limits) {
        WstxInputFactory factory = (WstxInputFactory) Xml.streaming();
        factory.getConfig().setMaxElementDepth(limits.depth());
        factory.getConfig().setMaxAttributesPerElement(limits.attributes());
        return factory;
    }
}
