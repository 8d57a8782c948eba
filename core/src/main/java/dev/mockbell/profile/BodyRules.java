package dev.mockbell.profile;

import dev.mockbell.profile.SoapBinding.Half;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.BiConsumer;
import org.w3c.dom.Element;

/** Rules about soap:body, soap:header, soap:headerfault and soap:fault. */
final class BodyRules {
    private static final List<String> BESIDE = List.of("header", "headerfault", "fault");

    private BodyRules() {}

    private static void halves(Description d, BiConsumer<SoapBinding, Half> each) {
        for (SoapBinding binding : d.bindings()) {
            binding.halves().forEach(h -> each.accept(binding, h));
        }
    }

    private static void bodies(Description d, BiConsumer<Half, Element> each) {
        halves(d, (b, h) -> h.extensions("body").forEach(body -> each.accept(h, body)));
    }

    private static boolean isLiteral(Element extension) {
        return !"encoded".equals(extension.getAttribute("use").strip());
    }

    private static String operation(Half half) {
        return "Operation " + half.operation().getAttribute("name");
    }

    static void onePartListed(Description d, Report report) {
        bodies(d, (h, body) -> {
            String parts = body.getAttribute("parts").strip();
            if (!h.rpc() && isLiteral(body) && parts.contains(" ")) {
                report.at(body, operation(h) + " puts several parts into a document-literal body: " + parts);
            }
        });
    }

    static void onePartDefined(Description d, Report report) {
        bodies(d, (h, body) -> {
            if (!h.rpc()
                    && isLiteral(body)
                    && !body.hasAttribute("parts")
                    && h.bodyParts(body).size() > 1) {
                report.at(
                        body,
                        operation(h) + " has a document-literal body with "
                                + h.bodyParts(body).size() + " parts");
            }
        });
    }

    static void rpcPartsHaveTypes(Description d, Report report) {
        bodies(
                d,
                (h, body) -> h.bodyParts(body).stream()
                        .filter(p -> h.rpc() && isLiteral(body) && p.hasAttribute("element"))
                        .forEach(p -> report.at(
                                p,
                                operation(h) + " is of rpc style, but part " + p.getAttribute("name")
                                        + " has an element")));
    }

    static void documentPartsHaveElements(Description d, Report report) {
        bodies(
                d,
                (h, body) -> h.bodyParts(body).stream()
                        .filter(p -> !h.rpc() && isLiteral(body) && !p.hasAttribute("element"))
                        .forEach(p -> report.at(
                                p,
                                operation(h) + " is of document style, but part " + p.getAttribute("name")
                                        + " has a type")));
    }

    static void otherPartsHaveElements(Description d, Report report) {
        halves(d, (b, h) -> {
            for (String kind : List.of("header", "headerfault")) {
                for (Element e : h.extensions(kind)) {
                    b.part(e)
                            .filter(p -> !p.hasAttribute("element"))
                            .ifPresent(p ->
                                    report.at(p, "Part " + p.getAttribute("name") + " of a " + kind + " has a type"));
                }
            }
            if ("fault".equals(h.bound().getLocalName())) {
                h.parts().stream()
                        .filter(p -> !p.hasAttribute("element"))
                        .forEach(p -> report.at(p, "Part " + p.getAttribute("name") + " of a fault has a type"));
            }
        });
    }

    static void everyPartBound(Description d, Report report) {
        halves(d, (b, h) -> {
            if ("fault".equals(h.bound().getLocalName()) || h.extensions("body").isEmpty()) {
                return;
            }
            Set<String> bound = new HashSet<>();
            h.extensions("body").forEach(body -> h.bodyParts(body).forEach(p -> bound.add(p.getAttribute("name"))));
            h.extensions("header").forEach(e -> bound.add(e.getAttribute("part")));
            mimeParts(h.bound(), bound);
            for (Element part : h.parts()) {
                if (!bound.contains(part.getAttribute("name"))) {
                    report.at(h.bound(), operation(h) + " does not bind part " + part.getAttribute("name"));
                }
            }
        });
    }

    private static void mimeParts(Element at, Set<String> bound) {
        for (Element e : dev.mockbell.xml.Xml.children(at)) {
            if ("content".equals(e.getLocalName())) {
                bound.add(e.getAttribute("part"));
            }
            mimeParts(e, bound);
        }
    }

    static void literal(Description d, Report report) {
        halves(d, (b, h) -> {
            for (String kind : List.of("body", "header", "headerfault", "fault")) {
                for (Element e : h.extensions(kind)) {
                    if (!isLiteral(e)) {
                        report.at(e, operation(h) + " uses SOAP's encoding");
                    }
                }
            }
        });
    }

    static void literalFault(Description d, Report report) {
        halves(
                d,
                (b, h) -> h.extensions("fault").stream()
                        .filter(e -> !isLiteral(e))
                        .forEach(e -> report.at(e, "A fault of " + operation(h) + " uses SOAP's encoding")));
    }

    static void noNamespaceInDocument(Description d, Report report) {
        halves(d, (b, h) -> {
            List<String> kinds = new ArrayList<>(BESIDE);
            kinds.add("body");
            for (String kind : kinds) {
                for (Element e : h.extensions(kind)) {
                    if (!h.rpc() && isLiteral(e) && e.hasAttribute("namespace")) {
                        report.at(e, operation(h) + " is document-literal, but its " + kind + " has a namespace");
                    }
                }
            }
        });
    }

    static void namespaceInRpc(Description d, Report report) {
        bodies(d, (h, body) -> {
            String namespace = body.getAttribute("namespace").strip();
            if (h.rpc() && isLiteral(body) && !namespace.matches("[A-Za-z][A-Za-z0-9+.-]*:.+")) {
                report.at(
                        body,
                        operation(h) + " is rpc-literal, but its body "
                                + (namespace.isEmpty()
                                        ? "has no namespace"
                                        : "has the namespace “" + namespace + "”, which is no absolute URI"));
            }
        });
    }

    static void noNamespaceBesideRpcBody(Description d, Report report) {
        halves(d, (b, h) -> {
            for (String kind : BESIDE) {
                for (Element e : h.extensions(kind)) {
                    if (h.rpc() && isLiteral(e) && e.hasAttribute("namespace")) {
                        report.at(e, operation(h) + " is rpc-literal, but a " + kind + " has a namespace");
                    }
                }
            }
        });
    }

    static void partOfHeader(Description d, Report report) {
        halves(d, (b, h) -> {
            for (String kind : List.of("header", "headerfault")) {
                for (Element e : h.extensions(kind)) {
                    String part = e.getAttribute("part").strip();
                    if (part.isEmpty() || part.matches(".*\\s.*")) {
                        report.at(e, "A " + kind + " of " + operation(h) + " does not name one part");
                    }
                }
            }
        });
    }

    static void nameOfFault(Description d, Report report) {
        halves(
                d,
                (b, h) -> h.extensions("fault").stream()
                        .filter(e -> e.getAttribute("name").isBlank())
                        .forEach(e -> report.at(e, "A soap:fault of " + operation(h) + " has no name")));
    }

    static void sameNameOfFault(Description d, Report report) {
        halves(
                d,
                (b, h) -> h.extensions("fault").stream()
                        .filter(e -> !e.getAttribute("name").isBlank()
                                && !e.getAttribute("name").equals(h.bound().getAttribute("name")))
                        .forEach(e -> report.at(
                                e,
                                "The soap:fault is named " + e.getAttribute("name") + ", its fault "
                                        + h.bound().getAttribute("name"))));
    }
}
