package dev.mockbell.contract;

import dev.mockbell.schema.SoapEncoding;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Reads one operation of WSDL 1.1 from its two halves, the binding's and the port type's. */
final class Wsdl11Operation {
    private static final String INPUT = "input";
    private static final String OUTPUT = "output";

    private final Protocol protocol;
    private final Optional<Element> soapBinding;
    private final Element bound;
    private final Optional<Element> declared;
    private final PartReader parts;
    private final Policies policies;
    private final Optional<Element> soapOperation;

    /** @param declared the port type's half; empty when the binding names an operation that is not there */
    Wsdl11Operation(
            Protocol protocol,
            Optional<Element> soapBinding,
            Element bound,
            Optional<Element> declared,
            PartReader parts,
            Policies policies) {
        this.protocol = protocol;
        this.soapBinding = soapBinding;
        this.bound = bound;
        this.declared = declared;
        this.parts = parts;
        this.policies = policies;
        this.soapOperation = Wsdl.soap(bound, "operation");
    }

    Operation read(String key, List<String> needsOfBinding) {
        boolean soap = soapBinding.isPresent();
        Optional<Operation.Style> style = soap ? Optional.of(style()) : Optional.empty();
        Optional<MessageDef> input = half(INPUT).flatMap(e -> message(e, INPUT, style));
        Optional<MessageDef> output = half(OUTPUT).flatMap(e -> message(e, OUTPUT, style));
        String words = declared.map(Wsdl::documentation).orElse("");
        return new Operation(
                bound.getAttribute("name"),
                key,
                style,
                soap ? Optional.of(use()) : Optional.empty(),
                soapOperation.flatMap(e -> Wsdl.attribute(e, "soapAction")),
                pattern(),
                Policies.ordered(needsOfBinding, needs()),
                input,
                output,
                faults(),
                words.isEmpty() ? Wsdl.documentation(bound) : words,
                Xml.placeOf(bound));
    }

    private Optional<Element> half(String name) {
        return declared.flatMap(d -> Wsdl.first(d, name));
    }

    private List<String> needs() {
        List<Element> places = new ArrayList<>(List.of(bound));
        declared.ifPresent(places::add);
        for (String name : List.of(INPUT, OUTPUT)) {
            Wsdl.first(bound, name).ifPresent(places::add);
            half(name).ifPresent(places::add);
        }
        return policies.needs(places.toArray(new Element[0]));
    }

    private Operation.Pattern pattern() {
        Element from = declared.orElse(bound);
        Optional<Element> in = Wsdl.first(from, INPUT);
        Optional<Element> out = Wsdl.first(from, OUTPUT);
        if (in.isPresent() && out.isPresent()) {
            boolean outFirst = (in.get().compareDocumentPosition(out.get()) & Node.DOCUMENT_POSITION_PRECEDING) != 0;
            return outFirst ? Operation.Pattern.SOLICIT_RESPONSE : Operation.Pattern.REQUEST_RESPONSE;
        }
        return out.isPresent() ? Operation.Pattern.NOTIFICATION : Operation.Pattern.ONE_WAY;
    }

    private Operation.Style style() {
        String own = soapOperation.map(e -> e.getAttribute("style").strip()).orElse("");
        String given = own.isEmpty()
                ? soapBinding.map(e -> e.getAttribute("style").strip()).orElse("")
                : own;
        return "rpc".equals(given) ? Operation.Style.RPC : Operation.Style.DOCUMENT;
    }

    private Operation.Use use() {
        for (String half : List.of(INPUT, OUTPUT)) {
            if (Wsdl.first(bound, half)
                    .flatMap(Wsdl11Operation::body)
                    .filter(Wsdl11Operation::encoded)
                    .isPresent()) {
                return Operation.Use.ENCODED;
            }
        }
        return Operation.Use.LITERAL;
    }

    private static boolean encoded(Element body) {
        return "encoded".equals(body.getAttribute("use").strip());
    }

    private static Optional<String> encoding(Element body) {
        String given = body.getAttribute("encodingStyle").strip();
        return encoded(body)
                ? Optional.of(given.isEmpty() ? SoapEncoding.V11 : given.split("\\s+")[0])
                : Optional.empty();
    }

    private Optional<MessageDef> message(Element half, String kind, Optional<Operation.Style> style) {
        Optional<Element> boundHalf = Wsdl.first(bound, kind);
        Optional<PartReader.Message> message = parts.message(half);
        Optional<Element> body = boundHalf.flatMap(Wsdl11Operation::body);
        Set<String> away = new HashSet<>();
        List<HeaderDef> headers = boundHalf
                .map(b -> headers(b, message.map(PartReader.Message::name).orElse(null), away))
                .orElse(List.of());
        List<Attachment> attachments =
                boundHalf.map(Wsdl11Operation::attachments).orElse(List.of());
        attachments.forEach(a -> away.add(a.part()));
        List<MessagePart> inBody =
                new ArrayList<>(message.map(PartReader.Message::parts).orElse(List.of()));
        Optional<List<MessagePart>> chosen =
                message.flatMap(m -> body.filter(b -> b.hasAttribute("parts")).flatMap(b -> chosen(m, b)));
        inBody.removeIf(p -> chosen.isPresent() ? !chosen.get().contains(p) : away.contains(p.name()));
        Optional<QName> wrapper = style.filter(s -> s == Operation.Style.RPC)
                .map(s -> new QName(
                        body.map(b -> b.getAttribute("namespace").strip()).orElse(""),
                        bound.getAttribute("name") + (OUTPUT.equals(kind) ? "Response" : "")));
        return Optional.of(new MessageDef(
                message.map(m -> m.name().getLocalPart())
                        .orElse(half.getAttribute("message").replaceAll("^.*:", "")),
                protocol.envelope(),
                wrapper,
                List.copyOf(inBody),
                headers,
                attachments,
                body.flatMap(Wsdl11Operation::encoding),
                action(half, kind),
                message.map(m -> Xml.placeOf(m.element())).orElseGet(() -> Xml.placeOf(half))));
    }

    /**
     * The parts that a body's attribute {@code parts} chooses (WSDL 1.1 §3.5); empty when all that it names are not there, so
     * that the body holds what is not elsewhere.
     */
    private Optional<List<MessagePart>> chosen(PartReader.Message message, Element body) {
        String names = body.getAttribute("parts").strip();
        if (names.isEmpty()) {
            return Optional.of(List.of());
        }
        List<MessagePart> found = Arrays.stream(names.split("\\s+"))
                .flatMap(name -> parts.part(message, name, body).stream())
                .toList();
        return found.isEmpty() ? Optional.empty() : Optional.of(found);
    }

    /** The soap:body of a binding's input or output, also inside a part of a MIME multipart. */
    private static Optional<Element> body(Element half) {
        return Wsdl.soap(half, "body")
                .or(() -> multiparts(half).stream()
                        .flatMap(e -> Wsdl.soap(e, "body").stream())
                        .findFirst());
    }

    /** The parts of a MIME multipart (WSDL 1.1 §5.4). */
    private static List<Element> multiparts(Element half) {
        return Xml.children(half, Wsdl.MIME, "multipartRelated").stream()
                .flatMap(e -> Xml.children(e, Wsdl.MIME, "part").stream())
                .toList();
    }

    /** Several contents of one part are the types that it may be of; one without a type may be of any (WSDL 1.1 §5.3). */
    private static List<Attachment> attachments(Element half) {
        Map<String, List<String>> types = new LinkedHashMap<>();
        multiparts(half).stream()
                .flatMap(e -> Xml.children(e, Wsdl.MIME, "content").stream())
                .filter(e -> !e.getAttribute("part").isBlank())
                .forEach(e -> types.computeIfAbsent(e.getAttribute("part").strip(), p -> new ArrayList<>())
                        .add(e.getAttribute("type").strip()));
        return types.entrySet().stream()
                .map(e -> new Attachment(e.getKey(), e.getValue().contains("") ? List.of() : e.getValue()))
                .toList();
    }

    /** @param away takes the names of the message's own parts that travel as headers */
    private List<HeaderDef> headers(Element boundHalf, QName own, Set<String> away) {
        List<Element> found = new ArrayList<>(Xml.children(boundHalf));
        multiparts(boundHalf).forEach(p -> found.addAll(Xml.children(p)));
        List<HeaderDef> headers = new ArrayList<>();
        for (Element e : found) {
            if (!"header".equals(e.getLocalName()) || Wsdl.soapVersion(e).isEmpty()) {
                continue;
            }
            Optional<PartReader.Message> message = parts.message(e);
            String name = e.getAttribute("part").strip();
            if (message.isPresent() && message.get().name().equals(own)) {
                away.add(name);
            }
            message.flatMap(m -> parts.part(m, e, "part"))
                    .ifPresent(p -> headers.add(new HeaderDef(
                            p, e.getAttribute("namespace").strip(), encoded(e), headerFaults(e), Xml.placeOf(e))));
        }
        return List.copyOf(headers);
    }

    private List<MessagePart> headerFaults(Element header) {
        return Xml.children(header).stream()
                .filter(e -> "headerfault".equals(e.getLocalName()))
                .flatMap(e -> parts.message(e).flatMap(m -> parts.part(m, e, "part")).stream())
                .toList();
    }

    private String action(Element half, String kind) {
        Optional<String> given = Wsdl.action(half);
        // without one of its own, the SOAPAction is the action too (WS-Addressing Metadata §4.4.1)
        Optional<String> action = given.or(
                () -> INPUT.equals(kind) ? soapOperation.flatMap(e -> Wsdl.attribute(e, "soapAction")) : given);
        if (action.filter(a -> !a.isEmpty()).isPresent()) {
            return action.get();
        }
        Element operation = declared.orElse(bound);
        Element portType = (Element) operation.getParentNode();
        String ns = Wsdl.targetNamespace(operation);
        String separator = ns.startsWith("urn:") ? ":" : "/";
        boolean alone = half(INPUT).isEmpty() || half(OUTPUT).isEmpty();
        String name = half.getAttribute("name");
        if ("fault".equals(kind)) {
            name = operation.getAttribute("name") + separator + "Fault" + separator + name;
        } else if (name.isEmpty()) {
            String suffix = alone ? "" : INPUT.equals(kind) ? "Request" : "Response";
            name = operation.getAttribute("name") + suffix;
        }
        String base = ns.endsWith(separator) ? ns.substring(0, ns.length() - 1) : ns;
        return base + separator + portType.getAttribute("name") + separator + name;
    }

    private List<FaultDef> faults() {
        List<FaultDef> found = new ArrayList<>();
        for (Element fault :
                declared.map(d -> Xml.children(d, Wsdl.V11, "fault")).orElse(List.of())) {
            String name = fault.getAttribute("name");
            Optional<Element> soapFault = Xml.children(bound, Wsdl.V11, "fault").stream()
                    .filter(f -> f.getAttribute("name").equals(name))
                    .flatMap(f -> Wsdl.soap(f, "fault").stream())
                    .findFirst();
            Optional<MessagePart> part =
                    parts.message(fault).flatMap(m -> m.parts().stream().findFirst());
            Place place = Xml.placeOf(fault);
            found.add(new FaultDef(
                    name, part, soapFault.flatMap(Wsdl11Operation::encoding), action(fault, "fault"), place));
        }
        return List.copyOf(found);
    }
}
