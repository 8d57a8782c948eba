package dev.mockbell.profile;

import dev.mockbell.profile.SoapBinding.Half;
import dev.mockbell.xml.Xml;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.w3c.dom.Element;

/** Rules about bindings and ports. */
final class BindingRules {
    private static final Set<String> HTTP_TRANSPORTS =
            Set.of("http://schemas.xmlsoap.org/soap/http", "http://www.w3.org/2003/05/soap/bindings/HTTP/");

    private BindingRules() {}

    static void soapOnly(Description d, Report report) {
        for (Element binding : d.all("binding")) {
            if (Description.soap(binding, "binding").isEmpty()) {
                report.at(binding, "Binding " + binding.getAttribute("name") + " is not a SOAP binding");
            }
        }
    }

    static void transport(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            if (!binding.soap().hasAttribute("transport")) {
                report.at(binding.soap(), "Binding " + binding.element().getAttribute("name") + " names no transport");
            }
        }
    }

    static void httpTransport(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            String transport = binding.soap().getAttribute("transport");
            if (!transport.isEmpty() && !HTTP_TRANSPORTS.contains(transport)) {
                report.at(binding.soap(), "The transport is " + transport + ", not SOAP's over HTTP");
            }
        }
    }

    static void oneStyle(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            Set<Boolean> styles =
                    binding.operations().stream().map(binding::isRpc).collect(Collectors.toSet());
            if (styles.size() > 1) {
                report.at(
                        binding.element(),
                        "Binding " + binding.element().getAttribute("name")
                                + " has operations of document style and of rpc style");
            }
        }
    }

    static void signatures(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            Map<String, String> seen = new HashMap<>();
            for (Half half : binding.halves()) {
                if (!"input".equals(half.bound().getLocalName())) {
                    continue;
                }
                String name = half.operation().getAttribute("name");
                Optional<Element> body = half.extensions("body").stream().findFirst();
                String signature = half.rpc()
                        ? body.map(b -> b.getAttribute("namespace")).orElse("") + " " + name
                        : body.stream()
                                .flatMap(b -> half.bodyParts(b).stream())
                                .map(p -> Description.name(p, "element")
                                        .map(Object::toString)
                                        .orElse(""))
                                .collect(Collectors.joining(" "));
                String other = seen.putIfAbsent(signature, name);
                if (other != null) {
                    report.at(half.operation(), "Requests of " + name + " and " + other + " look the same on the wire");
                }
            }
        }
    }

    static void distinctAddresses(Description d, Report report) {
        Map<String, String> seen = new HashMap<>();
        for (Element service : d.all("service")) {
            for (Element port : Xml.children(service, Description.WSDL, "port")) {
                Description.soap(port, "address").ifPresent(a -> {
                    String other = seen.putIfAbsent(a.getAttribute("location"), port.getAttribute("name"));
                    if (other != null) {
                        report.at(a, "Port " + port.getAttribute("name") + " has the address of port " + other);
                    }
                });
            }
        }
    }

    static void sameOperations(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            if (binding.portType().isEmpty()) {
                continue;
            }
            Set<String> declared = names(Xml.children(binding.portType().get(), Description.WSDL, "operation"));
            Set<String> bound = names(binding.operations());
            Set<String> missing = new HashSet<>(declared);
            missing.removeAll(bound);
            missing.stream()
                    .sorted()
                    .forEach(name -> report.at(
                            binding.element(),
                            "Binding " + binding.element().getAttribute("name") + " does not bind operation " + name));
            for (Element operation : binding.operations()) {
                if (!declared.contains(operation.getAttribute("name"))) {
                    String name = operation.getAttribute("name").strip();
                    report.at(
                            operation,
                            name.isEmpty()
                                    ? "An operation without a name is bound"
                                    : "The port type has no operation " + name + " to be bound");
                }
            }
        }
    }

    private static Set<String> names(List<Element> operations) {
        return operations.stream().map(o -> o.getAttribute("name")).collect(Collectors.toSet());
    }

    static void faultsBound(Description d, Report report) {
        for (SoapBinding binding : d.bindings()) {
            if (binding.portType().isEmpty()) {
                continue;
            }
            Map<String, Element> bound = new HashMap<>();
            binding.operations().forEach(o -> bound.putIfAbsent(o.getAttribute("name"), o));
            for (Element operation : Xml.children(binding.portType().get(), Description.WSDL, "operation")) {
                Element half = bound.get(operation.getAttribute("name"));
                if (half == null) {
                    continue;
                }
                Set<String> faults = names(Xml.children(half, Description.WSDL, "fault"));
                for (Element fault : Xml.children(operation, Description.WSDL, "fault")) {
                    if (!faults.contains(fault.getAttribute("name"))) {
                        report.at(
                                half,
                                "Operation " + operation.getAttribute("name") + " does not bind its fault "
                                        + fault.getAttribute("name"));
                    }
                }
            }
        }
    }
}
