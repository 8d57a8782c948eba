package dev.mockbell.profile;

import dev.mockbell.schema.SchemaSource;
import dev.mockbell.schema.SoapEncoding;
import dev.mockbell.xml.Xml;
import java.util.Set;
import org.w3c.dom.Element;

/** Rules about the schemas. */
final class SchemaRules {
    private SchemaRules() {}

    static void targetNamespace(Description d, Report report) {
        for (SchemaSource source : d.schemas()) {
            Element root = source.root();
            boolean inside = root.getParentNode() instanceof Element;
            boolean more = Xml.children(root).stream()
                    .anyMatch(e -> !Set.of("import", "annotation").contains(e.getLocalName()));
            if (inside && more && root.getAttribute("targetNamespace").isBlank()) {
                report.at(root, "A schema inside wsdl:types has no targetNamespace");
            }
        }
    }

    static void noEncodedArray(Description d, Report report) {
        for (SchemaSource source : d.schemas()) {
            for (Element type : Xml.children(source.root(), Description.XSD, "complexType")) {
                derivations(type, report);
            }
        }
    }

    private static void derivations(Element at, Report report) {
        for (Element e : Xml.children(at)) {
            boolean derivation = "restriction".equals(e.getLocalName()) || "extension".equals(e.getLocalName());
            if (derivation) {
                Description.name(e, "base")
                        .filter(n -> SoapEncoding.isNamespace(n.getNamespaceURI()) && "Array".equals(n.getLocalPart()))
                        .ifPresent(n -> report.at(e, "A type is derived from the array of SOAP's encoding"));
            } else {
                derivations(e, report);
            }
        }
    }

    static void noArrayType(Description d, Report report) {
        d.schemas().forEach(s -> arrayTypes(s.root(), report));
    }

    private static void arrayTypes(Element at, Report report) {
        for (Element e : Xml.children(at)) {
            if (e.hasAttributeNS(Description.WSDL, "arrayType")) {
                report.at(e, "A declaration uses wsdl:arrayType");
            }
            arrayTypes(e, report);
        }
    }

    static void noArrayName(Description d, Report report) {
        for (SchemaSource source : d.schemas()) {
            for (Element e : Xml.children(source.root())) {
                if (e.getAttribute("name").matches("ArrayOf.+") && "element".equals(e.getLocalName())) {
                    report.at(e, "“" + e.getAttribute("name") + "” is named as if it were an encoded array");
                }
            }
        }
    }
}
