package dev.mockbell.profile;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** A SOAP binding of WSDL 1.1 with its operations' halves, as the rules about bindings need it. */
final class SoapBinding {
    private final Element element;
    private final Element soap;
    private final Optional<Element> portType;
    private final Map<QName, Element> messages;
    private final Map<String, Element> declaredOperations = new HashMap<>();
    private List<Half> halves;

    private SoapBinding(Element element, Element soap, Optional<Element> portType, Map<QName, Element> messages) {
        this.element = element;
        this.soap = soap;
        this.portType = portType;
        this.messages = messages;
        portType.ifPresent(t -> Xml.children(t, Description.WSDL, "operation")
                .forEach(o -> declaredOperations.putIfAbsent(o.getAttribute("name"), o)));
    }

    /**
     * A half of an operation of a binding.
     *
     * @param declared the same half in the port type
     * @param message the message it means
     */
    record Half(Element operation, Element bound, boolean rpc, Optional<Element> declared, Optional<Element> message) {
        List<Element> extensions(String local) {
            List<Element> found = new ArrayList<>();
            collect(bound, local, found);
            return found;
        }

        private static void collect(Element at, String local, List<Element> found) {
            for (Element e : Xml.children(at)) {
                if (Description.isSoap(e) && local.equals(e.getLocalName())) {
                    found.add(e);
                }
                collect(e, local, found);
            }
        }

        List<Element> parts() {
            return message.map(m -> Xml.children(m, Description.WSDL, "part")).orElse(List.of());
        }

        /** The parts that a soap:body binds. */
        List<Element> bodyParts(Element body) {
            if (!body.hasAttribute("parts")) {
                List<String> elsewhere = extensions("header").stream()
                        .map(h -> h.getAttribute("part"))
                        .toList();
                return parts().stream()
                        .filter(p -> !elsewhere.contains(p.getAttribute("name")))
                        .toList();
            }
            List<String> names =
                    Arrays.asList(body.getAttribute("parts").strip().split("\\s+"));
            return parts().stream()
                    .filter(p -> names.contains(p.getAttribute("name")))
                    .toList();
        }
    }

    static List<SoapBinding> all(Description description) {
        Map<QName, Element> portTypes = description.named("portType");
        Map<QName, Element> messages = description.named("message");
        List<SoapBinding> found = new ArrayList<>();
        for (Element e : description.all("binding")) {
            Description.soap(e, "binding")
                    .ifPresent(soap -> found.add(
                            new SoapBinding(e, soap, Description.name(e, "type").map(portTypes::get), messages)));
        }
        return found;
    }

    Element element() {
        return element;
    }

    Element soap() {
        return soap;
    }

    Optional<Element> portType() {
        return portType;
    }

    List<Element> operations() {
        return Xml.children(element, Description.WSDL, "operation");
    }

    boolean isRpc(Element operation) {
        String own = Description.soap(operation, "operation")
                .map(o -> o.getAttribute("style"))
                .orElse("");
        return "rpc".equals(own.isEmpty() ? soap.getAttribute("style") : own);
    }

    /** Both halves and the faults of every operation. */
    List<Half> halves() {
        if (halves == null) {
            halves = findHalves();
        }
        return halves;
    }

    private List<Half> findHalves() {
        List<Half> found = new ArrayList<>();
        for (Element operation : operations()) {
            Optional<Element> declared = Optional.ofNullable(declaredOperations.get(operation.getAttribute("name")));
            for (String kind : List.of("input", "output", "fault")) {
                for (Element bound : Xml.children(operation, Description.WSDL, kind)) {
                    Optional<Element> half = declared.flatMap(d -> Xml.children(d, Description.WSDL, kind).stream()
                            .filter(h -> !"fault".equals(kind)
                                    || h.getAttribute("name").equals(bound.getAttribute("name")))
                            .findFirst());
                    Optional<Element> message =
                            half.flatMap(h -> Description.name(h, "message")).map(messages::get);
                    found.add(new Half(operation, bound, isRpc(operation), half, message));
                }
            }
        }
        return found;
    }

    /** The part that a header, headerfault or fault extension means. */
    Optional<Element> part(Element extension) {
        return Description.name(extension, "message")
                .map(messages::get)
                .flatMap(m -> Xml.children(m, Description.WSDL, "part").stream()
                        .filter(p -> p.getAttribute("name").equals(extension.getAttribute("part")))
                        .findFirst());
    }
}
