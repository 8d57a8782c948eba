package dev.mockbell.contract;

import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/**
 * Turns WSDL 2.0 descriptions into services, endpoints, bindings and operations (WSDL 2.0 part 1 §2). Interfaces inherit
 * the operations of those they extend; a binding that names no operation binds them all.
 */
final class Wsdl20Reader {
    private static final String INTERFACE = "interface";
    private static final String BINDING = "binding";
    private static final String OPERATION = "operation";

    private final Definitions definitions;
    private final Policies policies;
    private final Schemas schemas;
    private final Map<String, Binding> made = new HashMap<>();
    private final Set<Element> used = Collections.newSetFromMap(new IdentityHashMap<>());

    Wsdl20Reader(List<Element> roots, Schemas schemas, Policies policies, Findings findings) {
        this.definitions = new Definitions(roots, findings, INTERFACE, BINDING);
        this.policies = policies;
        this.schemas = schemas;
    }

    ReadServices read() {
        List<Service> services = new ArrayList<>();
        for (Element root : definitions.roots()) {
            for (Element service : Xml.children(root, root.getNamespaceURI(), "service")) {
                services.add(service(service));
            }
        }
        List<Binding> unused = definitions.all(BINDING).values().stream()
                .filter(b -> !used.contains(b))
                .map(b -> binding(b, null))
                .toList();
        return new ReadServices(List.copyOf(services), unused);
    }

    private Service service(Element service) {
        Element face = definitions.find(INTERFACE, service, INTERFACE).orElse(null);
        if (face == null) {
            definitions.unresolved("unresolved-interface", INTERFACE, service, INTERFACE);
        }
        List<Port> ports = new ArrayList<>();
        for (Element endpoint : Xml.children(service, service.getNamespaceURI(), "endpoint")) {
            Optional<Element> binding = definitions.find(BINDING, endpoint, BINDING);
            if (binding.isEmpty()) {
                definitions.unresolved("unresolved-binding", BINDING, endpoint, BINDING);
                continue;
            }
            used.add(binding.get());
            Optional<String> address = Wsdl.attribute(endpoint, "address").map(String::strip);
            ports.add(new Port(
                    endpoint.getAttribute("name"),
                    binding(binding.get(), face).needing(policies.needs(service, endpoint)),
                    address.filter(a -> !a.isEmpty()),
                    Xml.placeOf(endpoint)));
        }
        return new Service(
                Definitions.nameOf(service), List.copyOf(ports), Wsdl.documentation(service), Xml.placeOf(service));
    }

    /** @param ofService the interface of the service, for a binding that has none of its own */
    private Binding binding(Element binding, Element ofService) {
        Element face = definitions.find(INTERFACE, binding, INTERFACE).orElse(ofService);
        String key = Definitions.nameOf(binding) + " " + (face == null ? "" : Definitions.nameOf(face));
        return made.computeIfAbsent(key, k -> make(binding, face));
    }

    private Binding make(Element binding, Element face) {
        Protocol protocol = protocol(binding);
        List<Operation> operations = new ArrayList<>();
        if (binding.hasAttribute(INTERFACE)
                && definitions.find(INTERFACE, binding, INTERFACE).isEmpty()) {
            definitions.unresolved("unresolved-interface", INTERFACE, binding, INTERFACE);
        }
        if (face != null) {
            Map<QName, Element> bound = new LinkedHashMap<>();
            for (Element o : Xml.children(binding, binding.getNamespaceURI(), OPERATION)) {
                Wsdl.qname(o, "ref").ifPresent(ref -> bound.putIfAbsent(ref, o));
            }
            Map<QName, Element> declared = new LinkedHashMap<>();
            Map<QName, Element> faults = new LinkedHashMap<>();
            inherit(face, declared, faults, new HashSet<>());
            bound.forEach((ref, o) -> {
                if (!declared.containsKey(ref)) {
                    definitions.error(
                            "unresolved-operation",
                            "The interface of binding " + binding.getAttribute("name") + " has no operation " + ref,
                            o);
                }
            });
            List<String> needs = policies.needs(binding, face);
            Map<String, Integer> seen = new HashMap<>();
            declared.forEach((name, o) -> {
                int count = seen.merge(name.getLocalPart(), 1, Integer::sum);
                String key = name.getLocalPart() + (count == 1 ? "" : "#" + count);
                operations.add(new Wsdl20Operation(
                                definitions, schemas, policies, protocol, o, Optional.ofNullable(bound.get(name)))
                        .read(key, faults, needs));
            });
        }
        return new Binding(
                Definitions.nameOf(binding),
                face == null ? new QName("") : Definitions.nameOf(face),
                protocol,
                Transport.of(extension(binding, "protocol")),
                List.copyOf(operations),
                Xml.placeOf(binding));
    }

    private void inherit(Element face, Map<QName, Element> operations, Map<QName, Element> faults, Set<Element> seen) {
        if (!seen.add(face)) {
            return;
        }
        String target = Wsdl.targetNamespace(face);
        for (Element o : Xml.children(face, face.getNamespaceURI(), OPERATION)) {
            operations.putIfAbsent(new QName(target, o.getAttribute("name")), o);
        }
        for (Element f : Xml.children(face, face.getNamespaceURI(), "fault")) {
            faults.putIfAbsent(new QName(target, f.getAttribute("name")), f);
        }
        for (String name : face.getAttribute("extends").strip().split("\\s+")) {
            if (name.isEmpty()) {
                continue;
            }
            Optional<Element> base = Wsdl.name(face, name).map(definitions.all(INTERFACE)::get);
            if (base.isEmpty()) {
                definitions.error(
                        "unresolved-interface",
                        "Interface " + face.getAttribute("name") + " extends the interface " + name
                                + ", which is not there",
                        face);
            }
            base.ifPresent(b -> inherit(b, operations, faults, seen));
        }
    }

    /** An attribute of the SOAP extension (WSDL 2.0 part 2 §5), whichever draft of it. */
    static Optional<String> extension(Element element, String local) {
        for (String family : Wsdl.V20_FAMILY) {
            if (element.hasAttributeNS(family + "/soap", local)) {
                return Optional.of(
                        element.getAttributeNS(family + "/soap", local).strip());
            }
        }
        return Optional.empty();
    }

    private static Protocol protocol(Element binding) {
        String type = binding.getAttribute("type").strip();
        if (type.endsWith("/soap")) {
            return "1.1".equals(extension(binding, "version").orElse("1.2")) ? Protocol.SOAP11 : Protocol.SOAP12;
        }
        return type.endsWith("/http") ? Protocol.HTTP : Protocol.OTHER;
    }
}
