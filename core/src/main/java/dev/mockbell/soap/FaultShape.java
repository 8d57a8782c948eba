package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.XMLConstants;
import org.w3c.dom.Element;

/**
 * What of a fault is not as SOAP wants it (SOAP 1.1 §4.4, SOAP 1.2 part 1 §5.4), though it can be read. Clients that build a fault
 * of their own language from it fail on most of these.
 */
final class FaultShape {
    private static final Set<String> PARTS_11 = Set.of("faultcode", "faultstring", "faultactor", "detail");
    private static final List<String> PARTS_12 = List.of("Code", "Reason", "Node", "Role", "Detail");
    private static final Set<String> CODES_11 = Set.of("VersionMismatch", "MustUnderstand", "Client", "Server");
    private static final Set<String> CODES_12 =
            Set.of("VersionMismatch", "MustUnderstand", "DataEncodingUnknown", "Sender", "Receiver");

    /** A qualified name (Namespaces in XML §4), as far as telling it from a number or a sentence needs. */
    private static final Pattern QNAME = Pattern.compile("(?:([^\\s:\\d.-][^\\s:]*):)?([^\\s:\\d.-][^\\s:]*)");

    /** Of what stands where a name is due, so many characters are enough to know it again. */
    private static final int SAID = 60;

    private final Element fault;
    private final String namespace;
    private final List<String> flaws = new ArrayList<>();

    private FaultShape(Element fault) {
        this.fault = fault;
        this.namespace = fault.getNamespaceURI();
    }

    /** The flaws of a message's fault, sentences without a full stop; none where all is in its place, or there is no fault. */
    static List<String> flaws(SoapMessage message) {
        boolean first = message.version() == SoapVersion.V11;
        List<Element> entries =
                Xml.children(
                                message.document().getDocumentElement(),
                                message.version().namespace(),
                                "Body")
                        .stream()
                        .limit(1)
                        .flatMap(b -> Xml.children(b).stream())
                        .filter(e -> e != message.payload().orElse(null))
                        .toList();
        if (message.fault().isEmpty()) {
            return entries.stream().anyMatch(e -> EnvelopeShape.is(e, message, "Fault"))
                    ? List.of("A Fault stands behind <"
                            + message.payload().map(Element::getTagName).orElse("")
                            + "> in the Body, and is passed over")
                    : List.of();
        }
        FaultShape shape = new FaultShape(message.payload().orElseThrow());
        if (first) {
            shape.first();
            if (entries.stream().anyMatch(e -> EnvelopeShape.is(e, message, "Fault"))) {
                shape.flaws.add("The Body has more than one Fault, which SOAP 1.1 §4.4 forbids; the first is read");
            }
        } else {
            shape.second();
            entries.stream()
                    .findFirst()
                    .ifPresent(e -> shape.flaws.add(
                            "<" + e.getTagName() + "> stands beside the Fault, which SOAP 1.2 part 1 §5.4 forbids"));
        }
        return shape.flaws;
    }

    private void first() {
        List<Element> parts = Xml.children(fault);
        if (parts.stream().noneMatch(e -> "faultcode".equals(e.getLocalName()))) {
            flaws.add("The Fault has no faultcode, which SOAP 1.1 §4.4 demands");
        }
        if (parts.stream().noneMatch(e -> "faultstring".equals(e.getLocalName()))) {
            flaws.add("The Fault has no faultstring, which SOAP 1.1 §4.4 demands");
        }
        for (Element part : parts) {
            if (!PARTS_11.contains(part.getLocalName())) {
                flaws.add("<" + part.getTagName()
                        + "> stands in the Fault, which the WS-I Basic Profile forbids (R1000)");
                break;
            }
            if (part.getNamespaceURI() != null) {
                flaws.add("<" + part.getTagName() + "> is in the namespace " + part.getNamespaceURI()
                        + "; what stands in a Fault is in none (WS-I Basic Profile R1001)");
                break;
            }
        }
        parts.stream()
                .filter(e -> "faultcode".equals(e.getLocalName()))
                .findFirst()
                .flatMap(e -> named(e, "SOAP 1.1 §4.4", CODES_11))
                .ifPresent(flaws::add);
    }

    private void second() {
        List<Element> parts = Xml.children(fault);
        Optional<Element> strange = parts.stream().filter(e -> place(e) < 0).findFirst();
        strange.ifPresent(e ->
                flaws.add("<" + e.getTagName() + "> stands in the Fault, which SOAP 1.2 part 1 §5.4 has no place for"));
        List<Element> known = parts.stream().filter(e -> place(e) >= 0).toList();
        for (int i = 1; i < known.size(); i++) {
            if (place(known.get(i)) <= place(known.get(i - 1))) {
                flaws.add("<" + known.get(i).getTagName() + "> stands behind <"
                        + known.get(i - 1).getTagName()
                        + "> in the Fault, which is not the order of SOAP 1.2 part 1 §5.4");
                break;
            }
        }
        Optional<Element> code = within(fault, "Code");
        Optional<Element> value = code.flatMap(c -> within(c, "Value"));
        if (value.isEmpty()) {
            flaws.add("The Fault has no Code" + (code.isEmpty() ? "" : " with a Value") + ", which SOAP 1.2 part 1 §5.4"
                    + (code.isEmpty() ? "" : ".1") + " demands");
        }
        value.flatMap(this::code).ifPresent(flaws::add);
        Optional<Element> reason = within(fault, "Reason");
        Optional<Element> text = reason.flatMap(r -> within(r, "Text"));
        if (text.isEmpty()) {
            flaws.add("The Fault has no Reason" + (reason.isEmpty() ? "" : " with a Text")
                    + ", which SOAP 1.2 part 1 §5.4" + (reason.isEmpty() ? "" : ".2") + " demands");
        }
        text.filter(t -> !t.hasAttributeNS(XMLConstants.XML_NS_URI, "lang"))
                .ifPresent(
                        t -> flaws.add(
                                "The Reason's Text does not name its language (xml:lang), which SOAP 1.2 part 1 §5.4.2.1 demands"));
    }

    /** The place of a part among its brothers; less than 0 for a stranger. */
    private int place(Element part) {
        return namespace.equals(part.getNamespaceURI()) ? PARTS_12.indexOf(part.getLocalName()) : -1;
    }

    private Optional<Element> within(Element parent, String name) {
        return Xml.children(parent, namespace, name).stream().findFirst();
    }

    private Optional<String> code(Element value) {
        Optional<String> unnamed = named(value, "SOAP 1.2 part 1 §5.4.1.1", CODES_12);
        if (unnamed.isPresent()) {
            return unnamed;
        }
        Matcher name = name(value);
        boolean own = namespace.equals(value.lookupNamespaceURI(name.group(1))) && CODES_12.contains(name.group(2));
        return own
                ? Optional.empty()
                : Optional.of("The Code's Value is " + said(name.group())
                        + ", which is none of those of SOAP 1.2 part 1 §5.4.6; others belong into a Subcode");
    }

    private static String said(String text) {
        return "\"" + (text.length() > SAID ? text.substring(0, SAID) + "…" : text) + "\"";
    }

    private static Matcher name(Element element) {
        Matcher name = QNAME.matcher(element.getTextContent().strip());
        name.matches();
        return name;
    }

    /** What hinders that an element's text names something in a namespace. */
    private Optional<String> named(Element element, String paragraph, Set<String> own) {
        String text = element.getTextContent().strip();
        String what = "The " + (PARTS_11.contains(element.getLocalName()) ? "faultcode" : "Code's Value");
        if (text.isEmpty()) {
            return Optional.of(what + " is empty, where " + paragraph + " wants a qualified name");
        }
        Matcher name = QNAME.matcher(text);
        if (!name.matches()) {
            return Optional.of(what + " " + said(text) + " is no qualified name, which " + paragraph + " wants");
        }
        String found = element.lookupNamespaceURI(name.group(1));
        if (found != null) {
            return Optional.empty();
        }
        if (name.group(1) != null) {
            return Optional.of(what + " " + said(text) + " has a prefix that is not declared");
        }
        String local = name.group(2).replaceFirst("\\..*", "");
        return Optional.of(what + " " + said(text) + " is in no namespace"
                + (own.contains(local)
                        ? "; the one that SOAP defines is in " + namespace
                        : ", which " + paragraph + " wants"));
    }
}
