package dev.mockbell.contract;

import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Turns WSDL 1.1 definitions into services, ports, bindings and operations. */
final class Wsdl11Reader {
    private static final String MESSAGE = "message";
    private static final String PORT_TYPE = "portType";
    private static final String BINDING = "binding";

    private final Definitions definitions;
    private final Policies policies;
    private final PartReader parts;
    private final Map<QName, Binding> bindings = new LinkedHashMap<>();
    private final Set<Binding> used = Collections.newSetFromMap(new IdentityHashMap<>());

    Wsdl11Reader(List<Element> roots, Schemas schemas, Policies policies, Findings findings) {
        this.definitions = new Definitions(roots, findings, MESSAGE, PORT_TYPE, BINDING);
        this.policies = policies;
        this.parts = new PartReader(definitions, schemas);
    }

    ReadServices read() {
        parts.all(definitions.all(MESSAGE).values());
        definitions.all(BINDING).forEach((name, element) -> bindings.put(name, binding(name, element)));
        List<Service> services = new ArrayList<>();
        for (Element root : definitions.roots()) {
            for (Element service : Xml.children(root, Wsdl.V11, "service")) {
                services.add(service(service));
            }
        }
        List<Binding> unused =
                bindings.values().stream().filter(b -> !used.contains(b)).toList();
        return new ReadServices(List.copyOf(services), unused);
    }

    private Service service(Element service) {
        List<Port> ports = new ArrayList<>();
        for (Element port : Xml.children(service, Wsdl.V11, "port")) {
            Binding binding = definitions
                    .find(BINDING, port, BINDING)
                    .map(e -> bindings.get(Definitions.nameOf(e)))
                    .orElse(null);
            if (binding == null) {
                definitions.unresolved("unresolved-binding", BINDING, port, BINDING);
                continue;
            }
            used.add(binding);
            ports.add(port(service, port, binding));
        }
        return new Service(
                Definitions.nameOf(service), List.copyOf(ports), Wsdl.documentation(service), Xml.placeOf(service));
    }

    private Port port(Element service, Element port, Binding binding) {
        Optional<String> address = Xml.children(port).stream()
                .filter(e -> "address".equals(e.getLocalName()) && !Wsdl.V11.equals(e.getNamespaceURI()))
                .map(e -> e.getAttribute("location").strip())
                .filter(a -> !a.isEmpty())
                .findFirst();
        if (binding.transport().byQueue()) {
            Element bound = definitions.find(BINDING, port, BINDING).orElseThrow();
            address = QueueAddress.of(address, bound, service, port);
        }
        if (address.isEmpty()
                && binding.protocol().soap()
                && binding.transport().byHttp()) {
            definitions.warn(
                    "no-address",
                    "Port " + port.getAttribute("name") + " has no address",
                    "Set the endpoint of this port before calling it.",
                    port);
        }
        List<String> needs = policies.needs(service, port);
        return new Port(port.getAttribute("name"), binding.needing(needs), address, Xml.placeOf(port));
    }

    private Binding binding(QName name, Element binding) {
        Optional<Element> soap = Wsdl.soap(binding, BINDING);
        Transport transport = Transport.of(soap.flatMap(e -> Wsdl.attribute(e, "transport")));
        Protocol protocol = protocol(binding, soap);
        Element portType = definitions.find(PORT_TYPE, binding, "type").orElse(null);
        if (portType == null) {
            definitions.unresolved("unresolved-port-type", "port type", binding, "type");
        }
        List<Element> declared = portType == null ? List.of() : Xml.children(portType, Wsdl.V11, "operation");
        OverloadedNames overloads = new OverloadedNames(declared);
        List<Operation> operations = new ArrayList<>();
        for (Element bound : Xml.children(binding, Wsdl.V11, "operation")) {
            Optional<Element> half = overloads.match(bound);
            if (half.isEmpty() && portType != null) {
                String named = bound.getAttribute("name").strip();
                definitions.error(
                        "unresolved-operation",
                        named.isEmpty()
                                ? "Binding " + name.getLocalPart() + " binds an operation without a name"
                                : "The port type of binding " + name.getLocalPart() + " has no operation " + named,
                        bound);
            }
            operations.add(new Wsdl11Operation(protocol, soap, bound, half, parts, policies)
                    .read(overloads.key(bound), policies.needs(binding)));
        }
        return new Binding(
                name,
                portType == null ? new QName("") : Definitions.nameOf(portType),
                protocol,
                transport,
                List.copyOf(operations),
                Xml.placeOf(binding));
    }

    private static Protocol protocol(Element binding, Optional<Element> soap) {
        if (soap.isPresent()) {
            return Wsdl.soapVersion(soap.get()).orElseThrow();
        }
        boolean http = Xml.children(binding).stream().anyMatch(e -> Wsdl.HTTP.equals(e.getNamespaceURI()));
        return http ? Protocol.HTTP : Protocol.OTHER;
    }
}
