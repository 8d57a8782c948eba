package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Finds the extension elements of a WSDL that this program gives no meaning to. */
final class Extensions {
    private static final Set<String> UNDERSTOOD = Set.of(
            Wsdl.SOAP11, Wsdl.SOAP12, Wsdl.HTTP, Wsdl.MIME, Wsdl.XSD, "http://www.w3.org/2006/05/addressing/wsdl");

    private Extensions() {}

    static List<Extension> in(List<Element> roots, Findings findings) {
        List<Extension> found = new ArrayList<>();
        roots.forEach(root -> walk(root, root.getNamespaceURI(), found));
        for (Extension extension : found) {
            if (extension.required()) {
                findings.add(
                        Severity.WARNING,
                        "R2026",
                        "The " + extension.on() + " requires the extension " + extension.name()
                                + ", which is not understood here",
                        "Calls may be refused; ask the service's makers what it demands.",
                        extension.place());
            }
        }
        return List.copyOf(found);
    }

    private static void walk(Element element, String wsdl, List<Extension> found) {
        for (Element child : Xml.children(element)) {
            String ns = String.valueOf(child.getNamespaceURI());
            if (ns.equals(wsdl)) {
                if (!"documentation".equals(child.getLocalName()) && !"types".equals(child.getLocalName())) {
                    walk(child, wsdl, found);
                }
            } else if (!UNDERSTOOD.contains(ns)
                    && !UNDERSTOOD.contains(ns + "/")
                    && !ns.startsWith(wsdl + "/")
                    && !ns.contains("/policy")
                    && !ns.endsWith("/ws-policy")
                    && found.size() < 10_000) {
                String required = child.getAttributeNS(wsdl, "required").strip();
                found.add(new Extension(
                        new QName(child.getNamespaceURI(), child.getLocalName()),
                        element.getLocalName(),
                        "true".equals(required) || "1".equals(required),
                        Xml.placeOf(child)));
            }
        }
    }
}
