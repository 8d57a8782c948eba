package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.ProcessingInstruction;
import org.w3c.dom.Text;

/** What of an envelope is not as SOAP wants it (SOAP 1.1 §3 and §4, SOAP 1.2 part 1 §5), though it can be read. */
public final class EnvelopeShape {
    private static final int SHOWN = 60;

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
        text(parts, message)
                .ifPresent(t -> flaws.add("Text (“" + t + "”) stands where "
                        + (first ? "SOAP 1.1 §4" : "SOAP 1.2 part 1 §5") + " has a place for elements alone"));
        message.headers().stream()
                .filter(h -> h.getNamespaceURI() == null)
                .findFirst()
                .ifPresent(h -> flaws.add("The header block <" + h.getTagName() + "> is in no namespace, which "
                        + (first ? "SOAP 1.1 §4.2" : "SOAP 1.2 part 1 §5.2") + " demands"));
        flaws.addAll(attributes(parts, message));
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

    /** Whether an element is the one of that name that SOAP defines. */
    static boolean is(Element element, SoapMessage message, String name) {
        return name.equals(element.getLocalName())
                && message.version().namespace().equals(element.getNamespaceURI());
    }

    private static Optional<Element> stranger(List<Element> parts, SoapMessage message) {
        return parts.stream()
                .filter(e -> !is(e, message, "Header") && !is(e, message, "Body"))
                .findFirst();
    }

    /** What is written beside elements in the envelope, its Header or its Body: the beginning of it. */
    private static Optional<String> text(List<Element> parts, SoapMessage message) {
        return Stream.concat(
                        Stream.of(message.document().getDocumentElement()),
                        parts.stream().filter(e -> is(e, message, "Header") || is(e, message, "Body")))
                .flatMap(e -> text(e).stream())
                .findFirst();
    }

    private static Optional<String> text(Element holder) {
        for (Node n = holder.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Text written && !written.getData().isBlank()) {
                String text = written.getData().strip().replaceAll("\\s+", " ");
                return Optional.of(text.length() > SHOWN ? text.substring(0, SHOWN) + "…" : text);
            }
        }
        return Optional.empty();
    }

    /** Those that SOAP itself defines. */
    private static List<String> attributes(List<Element> parts, SoapMessage message) {
        List<String> flaws = new ArrayList<>();
        String namespace = message.version().namespace();
        boolean first = message.version() == SoapVersion.V11;
        Set<String> understood = first ? Set.of("0", "1") : Set.of("0", "1", "true", "false");
        for (Element header : message.headers()) {
            String must = header.getAttributeNS(namespace, "mustUnderstand");
            if (header.hasAttributeNS(namespace, "mustUnderstand") && !understood.contains(must.strip())) {
                flaws.add("mustUnderstand of <" + header.getTagName() + "> is neither "
                        + (first ? "0 nor 1, which SOAP 1.1 §4.2.3" : "true nor false, which SOAP 1.2 part 1 §5.2.3")
                        + " demands");
                break;
            }
        }
        if (!first) {
            Stream.concat(Stream.of(message.document().getDocumentElement()), parts.stream())
                    .filter(e -> namespace.equals(e.getNamespaceURI()) && e.hasAttributeNS(namespace, "encodingStyle"))
                    .findFirst()
                    .ifPresent(e -> flaws.add("encodingStyle stands at <" + e.getTagName()
                            + ">, where SOAP 1.2 part 1 §5.1.1 forbids it"));
        }
        return flaws;
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
