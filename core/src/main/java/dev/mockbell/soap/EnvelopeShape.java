package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.ProcessingInstruction;

/** What of an envelope is not as SOAP wants it (SOAP 1.1 §3 and §4, SOAP 1.2 part 1 §5), though it can be read. */
public final class EnvelopeShape {
    private EnvelopeShape() {}

    /**
     * The flaws, sentences without a full stop; none when all is in its place. Goes through the whole message.
     *
     * @param taken what was taken out of the body
     */
    public static List<String> flaws(SoapMessage message, Optional<Document> taken) {
        List<String> flaws = new ArrayList<>();
        boolean first = message.version() == SoapVersion.V11;
        List<Element> parts = Xml.children(message.document().getDocumentElement());
        int headers = count(parts, message, "Header");
        int bodies = count(parts, message, "Body");
        if (bodies == 0) {
            flaws.add("The envelope has no Body, which " + (first ? "SOAP 1.1 §4.3" : "SOAP 1.2 part 1 §5.1")
                    + " demands");
        }
        if (bodies > 1) {
            flaws.add("The envelope has " + bodies + " Bodies; the first is read");
        }
        if (headers > 1) {
            flaws.add("The envelope has " + headers + " Headers; the blocks of all are read");
        }
        if (headers > 0 && !is(parts.get(0), message, "Header")) {
            flaws.add("The Header is not the first in the envelope, which "
                    + (first ? "SOAP 1.1 §4.2" : "SOAP 1.2 part 1 §5.1") + " demands");
        }
        stranger(parts, message)
                .ifPresent(e -> flaws.add("<" + e.getTagName() + "> stands beside the Body, which "
                        + (first ? "the WS-I Basic Profile forbids (R1011)" : "SOAP 1.2 part 1 §5.1 forbids")));
        instruction(message.document())
                .or(() -> taken.flatMap(EnvelopeShape::instruction))
                .ifPresent(
                        i -> flaws.add("A processing instruction (" + i.getTarget() + ") stands in the message, which "
                                + (first ? "SOAP 1.1 §3" : "SOAP 1.2 part 1 §5") + " forbids"));
        flaws.addAll(FaultShape.flaws(message));
        return flaws;
    }

    private static int count(List<Element> parts, SoapMessage message, String name) {
        return (int) parts.stream().filter(e -> is(e, message, name)).count();
    }

    private static boolean is(Element element, SoapMessage message, String name) {
        return name.equals(element.getLocalName())
                && message.version().namespace().equals(element.getNamespaceURI());
    }

    private static Optional<Element> stranger(List<Element> parts, SoapMessage message) {
        return parts.stream()
                .filter(e -> !is(e, message, "Header") && !is(e, message, "Body"))
                .findFirst();
    }

    /** Without recursion, for a message may be nested deeply. */
    private static Optional<ProcessingInstruction> instruction(Node root) {
        Node at = root.getFirstChild();
        while (at != null) {
            if (at instanceof ProcessingInstruction found) {
                return Optional.of(found);
            }
            Node next = at.getFirstChild();
            while (next == null && at != null && at != root) {
                next = at.getNextSibling();
                at = next == null ? at.getParentNode() : at;
            }
            at = next;
        }
        return Optional.empty();
    }
}
