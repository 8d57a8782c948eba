package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Turns WSDL 1.1 definitions into services, ports, bindings and operations. */
final class Wsdl11Reader {
    private final List<Element> definitions;
    private final Schemas schemas;
    private final List<Finding> findings;
    private final Map<QName, Element> messages = new LinkedHashMap<>();
    private final Map<QName, Element> portTypes = new LinkedHashMap<>();
    private final Map<QName, Element> bindings = new LinkedHashMap<>();
    private final Map<QName, Binding> read = new LinkedHashMap<>();
    private final List<Service> services = new ArrayList<>();
    private final List<QName> used = new ArrayList<>();

    Wsdl11Reader(List<Element> definitions, Schemas schemas, List<Finding> findings) {
        this.definitions = definitions;
        this.schemas = schemas;
        this.findings = findings;
    }

    List<Service> services() {
        return List.copyOf(services);
    }

    List<Binding> unusedBindings() {
        return read.values().stream().filter(b -> !used.contains(b.name())).toList();
    }

    void read() {
        for (Element root : definitions) {
            index(root, "message", messages);
            index(root, "portType", portTypes);
            index(root, "binding", bindings);
        }
        bindings.forEach((name, element) -> read.put(name, binding(name, element)));
        for (Element root : definitions) {
            for (Element service : Xml.children(root, Wsdl.V11, "service")) {
                services.add(service(root, service));
            }
        }
    }

    private void index(Element root, String kind, Map<QName, Element> into) {
        for (Element e : Xml.children(root, Wsdl.V11, kind)) {
            QName name = new QName(root.getAttribute("targetNamespace"), e.getAttribute("name"));
            if (into.putIfAbsent(name, e) != null) {
                warn("duplicate-" + kind, "There is more than one " + kind + " " + name + "; the first is used", e);
            }
        }
    }

    private Service service(Element root, Element service) {
        List<Port> ports = new ArrayList<>();
        for (Element port : Xml.children(service, Wsdl.V11, "port")) {
            Optional<QName> name = Wsdl.qname(port, "binding");
            Binding binding = name.map(read::get).orElse(null);
            if (binding == null) {
                error(
                        "unresolved-binding",
                        "Port " + port.getAttribute("name") + " refers to a binding that does not exist: "
                                + port.getAttribute("binding"),
                        port);
                continue;
            }
            used.add(binding.name());
            Optional<String> address = Xml.children(port).stream()
                    .filter(e -> "address".equals(e.getLocalName()))
                    .map(e -> e.getAttribute("location").strip())
                    .filter(a -> !a.isEmpty())
                    .findFirst();
            if (address.isEmpty() && binding.protocol().callable()) {
                warn("no-address", "Port " + port.getAttribute("name") + " has no address", port);
            }
            ports.add(new Port(port.getAttribute("name"), binding, address, Xml.placeOf(port)));
        }
        QName name = new QName(root.getAttribute("targetNamespace"), service.getAttribute("name"));
        return new Service(name, List.copyOf(ports), Wsdl.documentation(service), Xml.placeOf(service));
    }

    private Binding binding(QName name, Element binding) {
        Optional<Element> soap = Wsdl.soap(binding, "binding");
        Protocol protocol = protocol(binding, soap);
        Optional<QName> typeName = Wsdl.qname(binding, "type");
        Element portType = typeName.map(portTypes::get).orElse(null);
        if (portType == null) {
            error(
                    "unresolved-port-type",
                    "Binding " + name.getLocalPart() + " refers to a port type that does not exist: "
                            + binding.getAttribute("type"),
                    binding);
        }
        List<Operation> operations = new ArrayList<>();
        Map<String, Integer> seen = new HashMap<>();
        for (Element operation : Xml.children(binding, Wsdl.V11, "operation")) {
            String own = operation.getAttribute("name");
            Optional<Element> declared = portType == null ? Optional.empty() : declared(portType, operation);
            if (declared.isEmpty()) {
                if (portType != null) {
                    error(
                            "unresolved-operation",
                            "The port type of binding " + name.getLocalPart() + " has no operation " + own,
                            operation);
                }
                continue;
            }
            int count = seen.merge(own, 1, Integer::sum);
            String key = count == 1 ? own : own + "#" + count;
            operations.add(new OperationReader(soap, operation, declared.get()).read(key));
        }
        return new Binding(
                name, typeName.orElse(new QName("")), protocol, List.copyOf(operations), Xml.placeOf(binding));
    }

    private static Protocol protocol(Element binding, Optional<Element> soap) {
        if (soap.isPresent()) {
            String transport = soap.get().getAttribute("transport");
            if (transport.startsWith(Wsdl.JMS_TRANSPORT)
                    || transport.toLowerCase(java.util.Locale.ROOT).contains("jms")) {
                return Protocol.JMS;
            }
            return Wsdl.SOAP12.equals(soap.get().getNamespaceURI()) ? Protocol.SOAP12 : Protocol.SOAP11;
        }
        boolean http = Xml.children(binding).stream().anyMatch(e -> Wsdl.HTTP.equals(e.getNamespaceURI()));
        return http ? Protocol.HTTP : Protocol.OTHER;
    }

    /** The port type's operation that a binding operation means; overloads are told apart by input and output names. */
    private static Optional<Element> declared(Element portType, Element operation) {
        List<Element> named = Xml.children(portType, Wsdl.V11, "operation").stream()
                .filter(o -> o.getAttribute("name").equals(operation.getAttribute("name")))
                .toList();
        if (named.size() < 2) {
            return named.stream().findFirst();
        }
        return named.stream()
                .filter(o -> sameName(o, operation, "input") && sameName(o, operation, "output"))
                .findFirst()
                .or(() -> named.stream().findFirst());
    }

    private static boolean sameName(Element a, Element b, String kind) {
        return nameOf(a, kind).equals(nameOf(b, kind)) || nameOf(b, kind).isEmpty();
    }

    private static String nameOf(Element operation, String kind) {
        return Xml.children(operation, Wsdl.V11, kind).stream()
                .map(e -> e.getAttribute("name"))
                .findFirst()
                .orElse("");
    }

    private void error(String rule, String text, Element at) {
        findings.add(new Finding(Severity.ERROR, rule, text, "Mend the reference.", Xml.placeOf(at)));
    }

    private void warn(String rule, String text, Element at) {
        findings.add(new Finding(Severity.WARNING, rule, text, "", Xml.placeOf(at)));
    }

    /** Reads one operation from its two halves, the binding's and the port type's. */
    private final class OperationReader {
        private final Optional<Element> soapBinding;
        private final Element bound;
        private final Element declared;
        private final Optional<Element> soapOperation;

        OperationReader(Optional<Element> soapBinding, Element bound, Element declared) {
            this.soapBinding = soapBinding;
            this.bound = bound;
            this.declared = declared;
            this.soapOperation = Wsdl.soap(bound, "operation");
        }

        Operation read(String key) {
            Optional<Element> in = first(declared, "input");
            Optional<Element> out = first(declared, "output");
            boolean soap = soapBinding.isPresent();
            Optional<Operation.Style> style = soap ? Optional.of(style()) : Optional.empty();
            Operation.Pattern pattern = pattern(in, out);
            Optional<MessageDef> input = in.map(e -> message(e, "input", style));
            Optional<MessageDef> output = out.map(e -> message(e, "output", style));
            Optional<String> action = soapOperation.flatMap(e -> Wsdl.attribute(e, "soapAction"));
            Place place = Xml.placeOf(bound);
            String words = Wsdl.documentation(declared);
            return new Operation(
                    bound.getAttribute("name"),
                    key,
                    style,
                    soap ? Optional.of(use()) : Optional.empty(),
                    action,
                    pattern,
                    List.of(),
                    input,
                    output,
                    faults(),
                    words.isEmpty() ? Wsdl.documentation(bound) : words,
                    place);
        }

        private Operation.Pattern pattern(Optional<Element> in, Optional<Element> out) {
            if (in.isPresent() && out.isPresent()) {
                boolean outFirst =
                        (in.get().compareDocumentPosition(out.get()) & org.w3c.dom.Node.DOCUMENT_POSITION_PRECEDING)
                                != 0;
                return outFirst ? Operation.Pattern.SOLICIT_RESPONSE : Operation.Pattern.REQUEST_RESPONSE;
            }
            return in.isPresent() ? Operation.Pattern.ONE_WAY : Operation.Pattern.NOTIFICATION;
        }

        private Operation.Style style() {
            String own = soapOperation.map(e -> e.getAttribute("style")).orElse("");
            String given = own.isEmpty()
                    ? soapBinding.map(e -> e.getAttribute("style")).orElse("")
                    : own;
            return "rpc".equals(given) ? Operation.Style.RPC : Operation.Style.DOCUMENT;
        }

        private Operation.Use use() {
            for (String half : List.of("input", "output")) {
                Optional<Element> body = first(bound, half).flatMap(Wsdl11Reader::body);
                if (body.isPresent() && "encoded".equals(body.get().getAttribute("use"))) {
                    return Operation.Use.ENCODED;
                }
            }
            return Operation.Use.LITERAL;
        }

        private MessageDef message(Element half, String kind, Optional<Operation.Style> style) {
            Optional<QName> name = Wsdl.qname(half, "message");
            List<MessagePart> parts = parts(name, half);
            Optional<Element> boundHalf = first(bound, kind);
            Optional<Element> body = boundHalf.flatMap(Wsdl11Reader::body);
            List<MessagePart> headers = boundHalf.map(this::headers).orElse(List.of());
            List<MessagePart> inBody = new ArrayList<>(parts);
            if (body.isPresent() && body.get().hasAttribute("parts")) {
                List<String> chosen =
                        Arrays.asList(body.get().getAttribute("parts").strip().split("\\s+"));
                inBody.removeIf(p -> !chosen.contains(p.name()));
            } else {
                headers.forEach(h -> {
                    if (h.element().isPresent()) {
                        inBody.removeIf(p -> p.equals(h));
                    }
                });
            }
            Optional<QName> wrapper = style.filter(s -> s == Operation.Style.RPC)
                    .map(s -> new QName(
                            body.map(b -> b.getAttribute("namespace")).orElse(""),
                            bound.getAttribute("name") + ("output".equals(kind) ? "Response" : "")));
            return new MessageDef(
                    name.map(QName::getLocalPart).orElse(""),
                    wrapper,
                    List.copyOf(inBody),
                    headers,
                    action(half, kind));
        }

        private String action(Element half, String kind) {
            for (String ns : List.of(Wsdl.ADDRESSING, Wsdl.ADDRESSING_OLD)) {
                if (half.hasAttributeNS(ns, "Action")) {
                    return half.getAttributeNS(ns, "Action");
                }
            }
            Element portType = (Element) declared.getParentNode();
            String ns = ((Element) portType.getParentNode()).getAttribute("targetNamespace");
            String separator = ns.startsWith("urn:") ? ":" : "/";
            String operation = declared.getAttribute("name");
            String suffix =
                    "input".equals(kind) ? (first(declared, "output").isPresent() ? "Request" : "") : "Response";
            String name = half.getAttribute("name").isEmpty() ? operation + suffix : half.getAttribute("name");
            String base = ns.endsWith(separator) ? ns.substring(0, ns.length() - 1) : ns;
            return base + separator + portType.getAttribute("name") + separator + name;
        }

        private List<MessagePart> headers(Element boundHalf) {
            List<MessagePart> found = new ArrayList<>();
            for (Element header : Xml.children(boundHalf)) {
                boolean soap =
                        Wsdl.SOAP11.equals(header.getNamespaceURI()) || Wsdl.SOAP12.equals(header.getNamespaceURI());
                if (soap && "header".equals(header.getLocalName())) {
                    parts(Wsdl.qname(header, "message"), header).stream()
                            .filter(p -> p.name().equals(header.getAttribute("part")))
                            .forEach(found::add);
                }
            }
            return List.copyOf(found);
        }

        private List<MessagePart> parts(Optional<QName> name, Element from) {
            Element message = name.map(messages::get).orElse(null);
            if (message == null) {
                error("unresolved-message", "There is no message " + from.getAttribute("message"), from);
                return List.of();
            }
            List<MessagePart> found = new ArrayList<>();
            for (Element part : Xml.children(message, Wsdl.V11, "part")) {
                Optional<QName> element = Wsdl.qname(part, "element");
                Optional<QName> type = Wsdl.qname(part, "type");
                if (element.isPresent() && schemas.element(element.get()).isEmpty()) {
                    missing("element", element.get(), part);
                }
                if (type.isPresent()
                        && schemas.type(type.get()).isEmpty()
                        && !Wsdl.XSD.equals(type.get().getNamespaceURI())) {
                    missing("type", type.get(), part);
                }
                found.add(new MessagePart(part.getAttribute("name"), element, type));
            }
            return found;
        }

        private void missing(String kind, QName name, Element part) {
            Finding finding = new Finding(
                    Severity.ERROR,
                    "unresolved-" + kind,
                    "Part " + part.getAttribute("name") + " refers to the " + kind + " " + name
                            + ", which no schema has",
                    "Import the schema that has it.",
                    Xml.placeOf(part));
            if (!findings.contains(finding)) {
                findings.add(finding);
            }
        }

        private List<FaultDef> faults() {
            List<FaultDef> found = new ArrayList<>();
            for (Element fault : Xml.children(declared, Wsdl.V11, "fault")) {
                Optional<QName> element = parts(Wsdl.qname(fault, "message"), fault).stream()
                        .findFirst()
                        .flatMap(MessagePart::element);
                found.add(new FaultDef(fault.getAttribute("name"), element));
            }
            return List.copyOf(found);
        }

        private Optional<Element> first(Element parent, String name) {
            return Xml.children(parent, Wsdl.V11, name).stream().findFirst();
        }
    }

    /** The soap:body of a binding's input or output, also inside the first part of a MIME multipart. */
    private static Optional<Element> body(Element half) {
        Optional<Element> direct = Wsdl.soap(half, "body");
        if (direct.isPresent()) {
            return direct;
        }
        return Xml.children(half).stream()
                .filter(e -> "multipartRelated".equals(e.getLocalName()))
                .flatMap(e -> Xml.children(e).stream())
                .flatMap(e -> Wsdl.soap(e, "body").stream())
                .findFirst();
    }
}
