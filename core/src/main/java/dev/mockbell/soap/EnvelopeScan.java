package dev.mockbell.soap;

import dev.mockbell.content.Part;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.util.Optional;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * An envelope that is too large for a tree, gone through once from end to end.
 *
 * @param payload the name of the body's first element; empty when there is none
 * @param flaw why it is no envelope, a clause; empty when it is one
 */
public record EnvelopeScan(Optional<SoapVersion> version, Optional<QName> payload, Optional<String> flaw) {
    /** Goes through the root of a message. */
    public static EnvelopeScan of(Part root) {
        TextEncoding encoding = TextEncoding.of(
                root.content().start(8_192), root.header("Content-Type").orElse(""));
        try (Reader text = new InputStreamReader(root.content().open(encoding.skip()), encoding.charset())) {
            XMLStreamReader reader = Xml.streaming().createXMLStreamReader(text);
            try {
                return read(reader);
            } finally {
                reader.close();
            }
        } catch (XMLStreamException e) {
            return broken("the XML is not well-formed: "
                    + Problem.reason(e).replaceAll("\\s+", " ").replaceFirst("^ParseError at ", ""));
        } catch (IOException e) {
            return broken("it cannot be read: " + Problem.reason(e));
        }
    }

    private static EnvelopeScan broken(String why) {
        return new EnvelopeScan(Optional.empty(), Optional.empty(), Optional.of(why));
    }

    private static EnvelopeScan read(XMLStreamReader reader) throws XMLStreamException {
        Optional<SoapVersion> version = Optional.empty();
        Optional<QName> payload = Optional.empty();
        int depth = 0;
        boolean inBody = false;
        while (reader.hasNext()) {
            switch (reader.next()) {
                case XMLStreamConstants.START_ELEMENT -> {
                    depth++;
                    if (depth == 1) {
                        version = SoapVersion.ofNamespace(String.valueOf(reader.getNamespaceURI()));
                        if (version.isEmpty() || !"Envelope".equals(reader.getLocalName())) {
                            return broken("the body is XML, <" + reader.getLocalName() + ">, not a SOAP envelope");
                        }
                    } else if (depth == 2) {
                        inBody = "Body".equals(reader.getLocalName());
                    } else if (depth == 3 && inBody && payload.isEmpty()) {
                        payload = Optional.of(reader.getName());
                    }
                }
                case XMLStreamConstants.END_ELEMENT -> depth--;
                case XMLStreamConstants.DTD -> {
                    return broken("the XML has a document type declaration, which SOAP forbids");
                }
                default -> {
                    // what stands between elements is only held against the rules of XML
                }
            }
        }
        return new EnvelopeScan(version, payload, Optional.empty());
    }

    /** Whether the body holds a fault. */
    public boolean isFault() {
        return payload.filter(p -> "Fault".equals(p.getLocalPart())
                        && version.map(SoapVersion::namespace)
                                .filter(p.getNamespaceURI()::equals)
                                .isPresent())
                .isPresent();
    }
}
