package dev.mockbell.profile;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.w3c.dom.Element;

/** Rules about documents as such: encodings, versions, order, required attributes. */
final class DocumentRules {
    private static final Map<String, Set<String>> WSDL_ATTRIBUTES = Map.ofEntries(
            Map.entry("import", Set.of("namespace", "location")),
            Map.entry("message", Set.of("name")),
            Map.entry("part", Set.of("name")),
            Map.entry("portType", Set.of("name")),
            Map.entry("operation", Set.of("name")),
            Map.entry("fault", Set.of("name")),
            Map.entry("binding", Set.of("name", "type")),
            Map.entry("service", Set.of("name")),
            Map.entry("port", Set.of("name", "binding")));
    private static final Set<String> WSDL_NAMES = Set.of(
            "definitions",
            "documentation",
            "import",
            "types",
            "message",
            "part",
            "portType",
            "operation",
            "input",
            "output",
            "fault",
            "binding",
            "service",
            "port");
    private static final Map<String, Set<String>> SOAP_ATTRIBUTES = Map.of(
            "address",
            Set.of("location"),
            "header",
            Set.of("message", "part"),
            "headerfault",
            Set.of("message", "part"));

    private DocumentRules() {}

    static void encoding(Description d, Report report) {
        Set<String> wsdls =
                d.wsdls().stream().map(r -> Xml.placeOf(r).document()).collect(Collectors.toSet());
        d.sources().stream().filter(s -> wsdls.contains(s.uri())).forEach(s -> encoding(s, "The WSDL", report));
    }

    static void schemaEncoding(Description d, Report report) {
        Set<String> wsdls =
                d.wsdls().stream().map(r -> Xml.placeOf(r).document()).collect(Collectors.toSet());
        d.sources().stream().filter(s -> !wsdls.contains(s.uri())).forEach(s -> encoding(s, "The schema", report));
    }

    private static void encoding(Description.Source source, String what, Report report) {
        String name =
                TextEncoding.of(source.bytes(), source.contentType()).charset().name();
        if (!name.startsWith("UTF-8") && !name.startsWith("UTF-16")) {
            report.at(new Place(source.uri(), 1, 1), what + " is in " + name + ", neither UTF-8 nor UTF-16");
        }
    }

    static void xmlVersion(Description d, Report report) {
        for (Description.Source source : d.sources()) {
            byte[] bytes = source.bytes();
            String head =
                    new String(bytes, 0, Math.min(bytes.length, 200), StandardCharsets.ISO_8859_1).replace("\0", "");
            if (head.matches("(?s)[^<]*<\\?xml\\s+version\\s*=\\s*[\"']1\\.[1-9].*")) {
                report.at(new Place(source.uri(), 1, 1), "The document is written in another version of XML than 1.0");
            }
        }
    }

    static void importsFirst(Description d, Report report) {
        for (Element root : wsdl11(d)) {
            boolean other = false;
            for (Element e : Xml.children(root)) {
                boolean ours = Description.isWsdl(e);
                if (ours && "import".equals(e.getLocalName()) && other) {
                    report.at(e, "wsdl:import stands behind other elements of WSDL");
                }
                other |= ours && !Set.of("import", "documentation").contains(e.getLocalName());
            }
        }
    }

    static void typesEarly(Description d, Report report) {
        for (Element root : wsdl11(d)) {
            boolean other = false;
            for (Element e : Xml.children(root)) {
                boolean ours = Description.isWsdl(e);
                if (ours && "types".equals(e.getLocalName()) && other) {
                    report.at(e, "wsdl:types stands behind other elements of WSDL than documentation and import");
                }
                other |= ours && !Set.of("import", "documentation", "types").contains(e.getLocalName());
            }
        }
    }

    static void wsdlIsValid(Description d, Report report) {
        wsdl11(d).forEach(root -> wsdlIsValid(root, report));
    }

    private static List<Element> wsdl11(Description d) {
        return d.wsdls().stream().filter(Description::isWsdl).toList();
    }

    private static void wsdlIsValid(Element at, Report report) {
        for (Element e : Xml.children(at)) {
            if (!Description.isWsdl(e)) {
                continue;
            }
            if (!WSDL_NAMES.contains(e.getLocalName())) {
                report.at(e, "WSDL 1.1 knows no element <" + e.getTagName() + ">");
            }
            boolean inBinding = "fault".equals(e.getLocalName()) || !"fault".equals(at.getLocalName());
            for (String attribute : WSDL_ATTRIBUTES.getOrDefault(e.getLocalName(), Set.of())) {
                if (inBinding && !e.hasAttribute(attribute)) {
                    report.at(e, "<" + e.getTagName() + "> lacks the attribute " + attribute);
                }
            }
            if (!"documentation".equals(e.getLocalName()) && !"types".equals(e.getLocalName())) {
                wsdlIsValid(e, report);
            }
        }
    }

    static void soapIsValid(Description d, Report report) {
        d.wsdls().forEach(root -> soapIsValid(root, report));
    }

    private static void soapIsValid(Element at, Report report) {
        for (Element e : Xml.children(at)) {
            if (Description.isSoap(e)) {
                for (String attribute : SOAP_ATTRIBUTES.getOrDefault(e.getLocalName(), Set.of())) {
                    if (!e.hasAttribute(attribute)) {
                        report.at(e, "<" + e.getTagName() + "> lacks the attribute " + attribute);
                    }
                }
                String use = e.getAttribute("use").strip();
                if (!Set.of("", "literal", "encoded").contains(use)) {
                    report.at(e, "“" + use + "” is no value of use");
                }
                String style = e.getAttribute("style").strip();
                if (!Set.of("", "document", "rpc").contains(style)) {
                    report.at(e, "“" + style + "” is no value of style");
                }
            }
            if (!"types".equals(e.getLocalName())) {
                soapIsValid(e, report);
            }
        }
    }
}
