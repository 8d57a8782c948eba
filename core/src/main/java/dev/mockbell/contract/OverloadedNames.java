package dev.mockbell.contract;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Element;

/**
 * Finds the port type's operation that a binding's operation means. Overloaded ones are told apart by the names of input
 * and output (WSDL 1.1 §2.5), and by their order where these do not tell.
 */
final class OverloadedNames {
    private final Map<String, List<Element>> declared = new HashMap<>();
    private final List<Element> taken = new ArrayList<>();
    private final Map<String, Integer> seen = new HashMap<>();

    OverloadedNames(List<Element> declared) {
        declared.forEach(o -> this.declared
                .computeIfAbsent(o.getAttribute("name"), n -> new ArrayList<>())
                .add(o));
    }

    Optional<Element> match(Element bound) {
        List<Element> named = declared.getOrDefault(bound.getAttribute("name"), List.of());
        if (named.size() < 2) {
            return named.stream().findFirst();
        }
        Optional<Element> found = named.stream()
                .filter(o -> !taken.contains(o) && same(o, bound, "input") && same(o, bound, "output"))
                .findFirst()
                .or(() -> named.stream().filter(o -> !taken.contains(o)).findFirst())
                .or(() -> named.stream().findFirst());
        found.ifPresent(taken::add);
        return found;
    }

    /** A name that is its own within the binding: {@code Find}, {@code Find#2}. */
    String key(Element bound) {
        String name = bound.getAttribute("name");
        int count = seen.merge(name, 1, Integer::sum);
        return count == 1 ? name : name + "#" + count;
    }

    private static boolean same(Element declared, Element bound, String half) {
        String wanted = nameOf(bound, half, false);
        return wanted.isEmpty() || wanted.equals(nameOf(declared, half, true));
    }

    /** The name of an input or output; where none is given, the default of WSDL 1.1 §2.4.5. */
    private static String nameOf(Element operation, String half, boolean byDefault) {
        Optional<Element> found =
                Xml.children(operation, Wsdl.V11, half).stream().findFirst();
        String given = found.map(e -> e.getAttribute("name")).orElse("");
        if (!given.isEmpty() || !byDefault || found.isEmpty()) {
            return given;
        }
        boolean both = Xml.children(operation, Wsdl.V11, "input").size()
                        + Xml.children(operation, Wsdl.V11, "output").size()
                > 1;
        String suffix = "input".equals(half) ? "Request" : "Response";
        return operation.getAttribute("name") + (both ? suffix : "");
    }
}
