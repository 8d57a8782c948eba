package dev.mockbell.profile;

import dev.mockbell.xml.Location;
import dev.mockbell.xml.Xml;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.w3c.dom.Element;

/** Rules about what documents bring in and refer to. */
final class ImportRules {
    private static final Map<String, List<String>> REFERENCES = Map.of(
            "port", List.of("binding"),
            "binding", List.of("type"),
            "input", List.of("message"),
            "output", List.of("message"),
            "fault", List.of("message"));

    private ImportRules() {}

    private static Map<String, Element> roots(Description d) {
        Map<String, Element> found = new HashMap<>();
        d.wsdls().forEach(r -> found.put(Xml.placeOf(r).document(), r));
        d.schemas().forEach(s -> found.putIfAbsent(s.uri(), s.root()));
        return found;
    }

    private static String target(Element from, String location) {
        return Location.resolve(Xml.placeOf(from).document(), location)
                .map(Object::toString)
                .orElse("");
    }

    static void onlyWsdl(Description d, Report report) {
        Map<String, Element> roots = roots(d);
        for (Element e : d.all("import")) {
            Element root = roots.get(target(e, e.getAttribute("location")));
            if (root != null && Description.XSD.equals(root.getNamespaceURI())) {
                report.at(e, "wsdl:import brings an XML Schema, which R2002 leaves to xsd:import");
            }
        }
    }

    static void schemaImportInSchema(Description d, Report report) {
        for (Element types : d.all("types")) {
            Xml.children(types, Description.XSD, "import")
                    .forEach(e -> report.at(e, "xsd:import stands outside of a schema"));
        }
    }

    static void schemaImportOfSchema(Description d, Report report) {
        Map<String, Element> roots = roots(d);
        for (var source : d.schemas()) {
            for (Element e : Xml.children(source.root(), Description.XSD, "import")) {
                Element root = roots.get(target(e, e.getAttribute("schemaLocation")));
                if (root != null && e.hasAttribute("schemaLocation") && Description.isWsdl(root)) {
                    report.at(e, "The schemaLocation leads to a WSDL, not to an XML Schema");
                }
            }
        }
    }

    static void sameNamespace(Description d, Report report) {
        Map<String, Element> roots = roots(d);
        for (Element e : d.all("import")) {
            Element root = roots.get(target(e, e.getAttribute("location")));
            if (root != null
                    && Description.isWsdl(root)
                    && !root.getAttribute("targetNamespace").equals(e.getAttribute("namespace"))) {
                report.at(
                        e,
                        "The import names the namespace " + e.getAttribute("namespace") + ", but the WSDL has "
                                + root.getAttribute("targetNamespace"));
            }
        }
    }

    static void location(Description d, Report report) {
        for (Element e : d.all("import")) {
            if (e.getAttribute("location").isBlank()) {
                report.at(e, "wsdl:import has no location");
            }
        }
    }

    static void importedReferences(Description d, Report report) {
        for (Element root : d.wsdls()) {
            Set<String> known = new HashSet<>();
            known.add(root.getAttribute("targetNamespace"));
            Xml.children(root, Description.WSDL, "import").forEach(e -> known.add(e.getAttribute("namespace")));
            references(root, known, report);
        }
    }

    private static void references(Element at, Set<String> known, Report report) {
        for (Element e : Xml.children(at)) {
            if (!Description.isWsdl(e) || "types".equals(e.getLocalName())) {
                continue;
            }
            for (String attribute : REFERENCES.getOrDefault(e.getLocalName(), List.of())) {
                Description.name(e, attribute)
                        .filter(n -> !known.contains(n.getNamespaceURI()))
                        .ifPresent(n -> report.at(
                                e,
                                "“" + e.getAttribute(attribute)
                                        + "” is of a namespace that this document neither defines nor imports"));
            }
            references(e, known, report);
        }
    }
}
