package dev.mockbell.mock;

import com.ctc.wstx.stax.WstxInputFactory;
import dev.mockbell.soap.SoapVersion;
import java.io.ByteArrayInputStream;
import java.util.Optional;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * The start of a request, as far as is needed to find its operation; the rest is not read.
 *
 * @param payload the name of the body's first element; empty when the body is empty
 * @param flaw why the request is no SOAP message; empty when it is one
 */
record RequestReading(Optional<SoapVersion> version, Optional<QName> payload, String flaw) {
    static RequestReading of(XMLInputFactory factory, byte[] body) {
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(body));
            try {
                return read(reader);
            } finally {
                reader.close();
            }
        } catch (XMLStreamException | RuntimeException e) {
            String reason = dev.mockbell.problem.Problem.reason(e).replaceAll("\\s+", " ");
            return new RequestReading(
                    Optional.empty(), Optional.empty(), "The request is not well-formed XML: " + reason);
        }
    }

    private static RequestReading read(XMLStreamReader reader) throws XMLStreamException {
        Optional<SoapVersion> version = Optional.empty();
        int depth = 0;
        boolean inBody = false;
        while (reader.hasNext()) {
            int event = reader.next();
            if (event == XMLStreamConstants.START_ELEMENT) {
                depth++;
                if (depth == 1) {
                    version = SoapVersion.ofNamespace(reader.getNamespaceURI());
                    if (version.isEmpty() || !"Envelope".equals(reader.getLocalName())) {
                        String name = reader.getName().toString();
                        return new RequestReading(
                                Optional.empty(),
                                Optional.empty(),
                                "The request is " + name + ", not a SOAP envelope.");
                    }
                } else if (depth == 2) {
                    inBody = "Body".equals(reader.getLocalName());
                } else if (depth == 3 && inBody) {
                    return new RequestReading(version, Optional.of(reader.getName()), "");
                }
            } else if (event == XMLStreamConstants.END_ELEMENT) {
                depth--;
            } else if (event == XMLStreamConstants.DTD) {
                return new RequestReading(
                        version, Optional.empty(), "The request has a document type declaration, which SOAP forbids.");
            }
        }
        return new RequestReading(version, Optional.empty(), "");
    }

    /** A factory whose readers are cheap to make. */
    static XMLInputFactory factory() {
        WstxInputFactory factory = (WstxInputFactory) dev.mockbell.xml.Xml.streaming();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        return factory;
    }
}
