package dev.mockbell.contract;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.apache.xerces.util.XMLChar;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;

/**
 * What becomes another in a contract that is written out.
 *
 * @param address gives a port's address, by the one that it has
 * @param namespaces which namespaces become which, wherever they are declared, imported or targeted
 * @param service the name of the service; empty to leave it
 */
public record Rewriting(UnaryOperator<String> address, Map<String, String> namespaces, Optional<String> service) {
    /** Nothing but the addresses. */
    public static Rewriting of(UnaryOperator<String> address) {
        return new Rewriting(address, Map.of(), Optional.empty());
    }

    /**
     * The one that a person means.
     *
     * @param namespace what the namespace of the WSDL becomes, and that of messages where it is the same; or {@code OLD=NEW}
     *     for another; blank to leave it
     * @param service blank to leave it
     * @throws Problem when there is no such namespace, or no one service to give the name to
     */
    public static Rewriting of(
            Contract contract, UnaryOperator<String> address, List<String> namespace, String service) {
        Map<String, String> namespaces = new java.util.LinkedHashMap<>();
        for (String one : namespace) {
            if (!one.isBlank()) {
                int equals = one.indexOf('=');
                String from =
                        equals < 0 ? target(contract) : one.substring(0, equals).strip();
                String to = one.substring(equals + 1).strip();
                if (to.isEmpty() || to.matches(".*\\s.*")) {
                    throw Problem.input(
                            "“" + to + "” is no namespace", null, "Give a URI, such as urn:northfell:huts.");
                }
                namespaces.put(from, to);
            }
        }
        String name = service.strip();
        if (!name.isEmpty() && !XMLChar.isValidNCName(name)) {
            throw Problem.input(
                    "“" + name + "” cannot be the name of a service", null, "Use letters and digits alone.");
        }
        if (!name.isEmpty() && contract.services().size() != 1) {
            throw Problem.input(
                    "The contract has " + contract.services().size() + " services, so none can be given the name",
                    name,
                    "Leave the name of the service out.");
        }
        return new Rewriting(address, namespaces, Optional.of(name).filter(n -> !n.isEmpty()));
    }

    private static String target(Contract contract) {
        return contract.services().stream()
                .map(s -> s.name().getNamespaceURI())
                .findFirst()
                .or(() -> contract.unusedBindings().stream()
                        .map(b -> b.name().getNamespaceURI())
                        .findFirst())
                .orElseThrow(() -> Problem.input(
                        "The contract has neither a service nor a binding", contract.source(), "Write OLD=NEW."));
    }

    /** Whether anything at all becomes another. */
    boolean changesNames() {
        return !namespaces.isEmpty() || service.isPresent();
    }

    /** Gives a document the names that were chosen. */
    void rename(Element root) {
        service.ifPresent(name -> {
            for (Element one : Xml.children(root, root.getNamespaceURI(), "service")) {
                one.setAttribute("name", name);
            }
        });
        if (!namespaces.isEmpty()) {
            renamed(root);
        }
    }

    private void renamed(Element element) {
        for (Attr attribute : Xml.attributes(element)) {
            String name = attribute.getName();
            boolean names = "xmlns".equals(name) || name.startsWith("xmlns:") || "targetNamespace".equals(name);
            if (names) {
                attribute.setValue(namespaces.getOrDefault(attribute.getValue(), attribute.getValue()));
            } else if ("namespace".equals(name)) {
                // a wildcard names several
                attribute.setValue(Arrays.stream(attribute.getValue().split(" "))
                        .map(n -> namespaces.getOrDefault(n, n))
                        .collect(Collectors.joining(" ")));
            }
        }
        Xml.children(element).forEach(this::renamed);
    }
}
