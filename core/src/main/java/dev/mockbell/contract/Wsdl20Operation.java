package dev.mockbell.contract;

import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Reads one operation of WSDL 2.0 from its interface and what a binding adds to it. */
final class Wsdl20Operation {
    private final Definitions definitions;
    private final Schemas schemas;
    private final Policies policies;
    private final Protocol protocol;
    private final Element declared;
    private final Optional<Element> bound;

    Wsdl20Operation(
            Definitions definitions,
            Schemas schemas,
            Policies policies,
            Protocol protocol,
            Element declared,
            Optional<Element> bound) {
        this.definitions = definitions;
        this.schemas = schemas;
        this.policies = policies;
        this.protocol = protocol;
        this.declared = declared;
        this.bound = bound;
    }

    Operation read(String key, Map<QName, Element> faults, List<String> needsOfBinding) {
        boolean soap = protocol.soap();
        Optional<Element> in = Wsdl.first(declared, "input");
        Optional<Element> out = Wsdl.first(declared, "output");
        return new Operation(
                declared.getAttribute("name"),
                key,
                soap ? Optional.of(Operation.Style.DOCUMENT) : Optional.empty(),
                soap ? Optional.of(Operation.Use.LITERAL) : Optional.empty(),
                bound.flatMap(b -> Wsdl20Reader.extension(b, "action")),
                pattern(in, out),
                Policies.ordered(needsOfBinding, needs()),
                in.map(e -> message(e, "input")),
                out.map(e -> message(e, "output")),
                faults(faults),
                Wsdl.documentation(declared),
                Xml.placeOf(bound.orElse(declared)));
    }

    private List<String> needs() {
        List<Element> places = new ArrayList<>(List.of(declared));
        bound.ifPresent(places::add);
        return policies.needs(places.toArray(new Element[0]));
    }

    /** From the pattern's name (WSDL 2.0 part 2 §2); where it names none known, from what is there. */
    private Operation.Pattern pattern(Optional<Element> in, Optional<Element> out) {
        String uri = declared.getAttribute("pattern").strip();
        return switch (uri.substring(uri.lastIndexOf('/') + 1)) {
            case "in-only", "robust-in-only" -> Operation.Pattern.ONE_WAY;
            case "in-out", "in-opt-out", "in-optional-out" -> Operation.Pattern.REQUEST_RESPONSE;
            case "out-only", "robust-out-only" -> Operation.Pattern.NOTIFICATION;
            case "out-in", "out-opt-in", "out-optional-in" -> Operation.Pattern.SOLICIT_RESPONSE;
            default ->
                in.isEmpty()
                        ? Operation.Pattern.NOTIFICATION
                        : out.isEmpty() ? Operation.Pattern.ONE_WAY : Operation.Pattern.REQUEST_RESPONSE;
        };
    }

    private MessageDef message(Element half, String kind) {
        String label = half.getAttribute("messageLabel").strip();
        String name = label.isEmpty() ? "input".equals(kind) ? "In" : "Out" : label;
        return new MessageDef(
                name,
                protocol.envelope(),
                Optional.empty(),
                part(half).map(List::of).orElse(List.of()),
                headers(kind),
                List.of(),
                Optional.empty(),
                Wsdl.action(half).orElseGet(() -> action("input".equals(kind) ? "Request" : "Response")),
                Xml.placeOf(half));
    }

    /** The element of a message or fault; {@code #none} and {@code #other} give none, {@code #any} any element. */
    private Optional<MessagePart> part(Element half) {
        String text = half.getAttribute("element").strip();
        Place place = Xml.placeOf(half);
        if ("#any".equals(text)) {
            QName any = new QName(Wsdl.XSD, "anyType");
            return Optional.of(new MessagePart("any", Optional.empty(), Optional.of(any), place));
        }
        if (text.isEmpty() || text.startsWith("#")) {
            return Optional.empty();
        }
        QName name = Wsdl.name(half, text).orElseGet(() -> new QName(Wsdl.targetNamespace(half), text));
        if (schemas.element(name).isEmpty()) {
            definitions.finding(
                    Finding.Severity.ERROR,
                    "unresolved-element",
                    "The " + half.getLocalName() + " of " + declared.getAttribute("name") + " refers to the element "
                            + name + ", which no schema has",
                    "Import the schema that has it.",
                    half);
        }
        return Optional.of(new MessagePart(name.getLocalPart(), Optional.of(name), Optional.empty(), place));
    }

    /** The header blocks that the binding adds (WSDL 2.0 part 2 §5.9). */
    private List<HeaderDef> headers(String kind) {
        List<HeaderDef> found = new ArrayList<>();
        Optional<Element> half = bound.flatMap(b -> Wsdl.first(b, kind));
        for (Element e : half.map(Xml::children).orElse(List.of())) {
            boolean soap = "header".equals(e.getLocalName())
                    && String.valueOf(e.getNamespaceURI()).endsWith("/soap");
            Optional<QName> name = soap ? Wsdl.qname(e, "element") : Optional.empty();
            name.ifPresent(n -> found.add(new HeaderDef(
                    new MessagePart(n.getLocalPart(), Optional.of(n), Optional.empty(), Xml.placeOf(e)),
                    "",
                    false,
                    List.of(),
                    Xml.placeOf(e))));
        }
        return List.copyOf(found);
    }

    private String action(String suffix) {
        String ns = Wsdl.targetNamespace(declared);
        String separator = ns.startsWith("urn:") ? ":" : "/";
        String base = ns.endsWith(separator) ? ns.substring(0, ns.length() - 1) : ns;
        String face = ((Element) declared.getParentNode()).getAttribute("name");
        return base + separator + face + separator + declared.getAttribute("name") + suffix;
    }

    private List<FaultDef> faults(Map<QName, Element> declaredFaults) {
        List<FaultDef> found = new ArrayList<>();
        for (Element e : Xml.children(declared)) {
            boolean fault = "outfault".equals(e.getLocalName()) || "infault".equals(e.getLocalName());
            if (!fault || !declared.getNamespaceURI().equals(e.getNamespaceURI())) {
                continue;
            }
            Optional<QName> ref = Wsdl.qname(e, "ref");
            Optional<Element> of = ref.map(declaredFaults::get);
            if (of.isEmpty()) {
                definitions.error(
                        "unresolved-fault",
                        "Operation " + declared.getAttribute("name") + " refers to the fault " + e.getAttribute("ref")
                                + ", which is not there",
                        e);
            }
            String name = ref.map(QName::getLocalPart).orElse(e.getAttribute("ref"));
            if (found.stream().noneMatch(f -> f.name().equals(name))) {
                found.add(new FaultDef(
                        name,
                        of.flatMap(this::part),
                        Optional.empty(),
                        Wsdl.action(e).orElseGet(() -> action("Fault")),
                        Xml.placeOf(of.orElse(e))));
            }
        }
        return List.copyOf(found);
    }
}
