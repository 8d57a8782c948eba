package dev.mockbell.profile;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Rules about messages and port types. */
final class MessageRules {
    private MessageRules() {}

    static void globalElement(Description d, Report report) {
        for (Element message : d.all("message")) {
            for (Element part : Xml.children(message, Description.WSDL, "part")) {
                Description.name(part, "element")
                        .filter(n -> d.compiled().element(n).isEmpty())
                        .ifPresent(n -> report.at(part, "There is no global element " + n));
            }
        }
    }

    static void typeOrElement(Description d, Report report) {
        for (Element message : d.all("message")) {
            for (Element part : Xml.children(message, Description.WSDL, "part")) {
                if (part.hasAttribute("element") && part.hasAttribute("type")) {
                    report.at(part, "Part " + part.getAttribute("name") + " has both an element and a type");
                }
            }
        }
    }

    static void inputFirst(Description d, Report report) {
        for (Element portType : d.all("portType")) {
            for (Element operation : Xml.children(portType, Description.WSDL, "operation")) {
                Optional<Element> first = Xml.children(operation).stream()
                        .filter(Description::isWsdl)
                        .filter(e -> "input".equals(e.getLocalName()) || "output".equals(e.getLocalName()))
                        .findFirst();
                if (first.filter(e -> "output".equals(e.getLocalName())).isPresent()) {
                    report.at(
                            operation,
                            "Operation " + operation.getAttribute("name")
                                    + " begins with its output: the service would have to call the client");
                }
            }
        }
    }

    static void distinctNames(Description d, Report report) {
        for (Element portType : d.all("portType")) {
            Set<String> seen = new HashSet<>();
            for (Element operation : Xml.children(portType, Description.WSDL, "operation")) {
                if (!seen.add(operation.getAttribute("name"))) {
                    report.at(operation, "Operation " + operation.getAttribute("name") + " is overloaded");
                }
            }
        }
    }

    static void parameterOrder(Description d, Report report) {
        Map<QName, Element> messages = d.named("message");
        for (Element portType : d.all("portType")) {
            for (Element operation : Xml.children(portType, Description.WSDL, "operation")) {
                if (!operation.hasAttribute("parameterOrder")) {
                    continue;
                }
                List<String> listed = Arrays.asList(
                        operation.getAttribute("parameterOrder").strip().split("\\s+"));
                List<String> omitted = new ArrayList<>();
                Xml.children(operation, Description.WSDL, "output").stream()
                        .flatMap(o -> Description.name(o, "message").stream())
                        .flatMap(n -> Optional.ofNullable(messages.get(n)).stream())
                        .flatMap(m -> Xml.children(m, Description.WSDL, "part").stream())
                        .map(p -> p.getAttribute("name"))
                        .filter(p -> !listed.contains(p))
                        .forEach(omitted::add);
                if (omitted.size() > 1) {
                    report.at(operation, "parameterOrder leaves out " + String.join(" and ", omitted));
                }
            }
        }
    }
}
