package dev.mockbell.listing;

import dev.mockbell.xml.Location;
import dev.mockbell.xml.Xml;
import java.net.URI;
import java.util.Optional;
import org.w3c.dom.Element;

/**
 * What documents lead to that are made to be read by programs: WS-Inspection 1.0, and the discovery documents that some servers
 * give beside it.
 */
final class InspectionLeads {
    static final String INSPECTION = "http://schemas.xmlsoap.org/ws/2001/10/inspection/";
    static final String DISCOVERY = "http://schemas.xmlsoap.org/disco/";
    private static final String DISCOVERY_WSDL = "http://schemas.xmlsoap.org/disco/scl/";
    private static final String WSDL = "http://schemas.xmlsoap.org/wsdl/";

    private InspectionLeads() {}

    static boolean isInspection(Element root) {
        return INSPECTION.equals(root.getNamespaceURI()) || DISCOVERY.equals(root.getNamespaceURI());
    }

    static Leads of(URI document, Element root) {
        Leads leads = new Leads();
        for (Element child : Xml.children(root)) {
            if (DISCOVERY_WSDL.equals(child.getNamespaceURI()) && "contractRef".equals(child.getLocalName())) {
                resolve(document, child.getAttribute("ref")).ifPresent(u -> leads.contract("", u, false));
            } else if (DISCOVERY.equals(child.getNamespaceURI()) && "discoveryRef".equals(child.getLocalName())) {
                resolve(document, child.getAttribute("ref")).ifPresent(leads::listing);
            } else if ("service".equals(child.getLocalName())) {
                service(document, child, leads);
            } else if ("link".equals(child.getLocalName())
                    && INSPECTION.equals(child.getAttribute("referencedNamespace"))) {
                resolve(document, child.getAttribute("location")).ifPresent(leads::listing);
            }
        }
        return leads;
    }

    private static void service(URI document, Element service, Leads leads) {
        String name = Xml.children(service, INSPECTION, "name").stream()
                .findFirst()
                .or(() -> Xml.children(service, INSPECTION, "abstract").stream().findFirst())
                .map(Element::getTextContent)
                .map(t -> t.strip().length() > 60 ? "" : t)
                .orElse("");
        for (Element description : Xml.children(service, INSPECTION, "description")) {
            if (description.getAttribute("referencedNamespace").startsWith(WSDL)) {
                resolve(document, description.getAttribute("location")).ifPresent(u -> leads.contract(name, u, false));
            }
        }
    }

    private static Optional<URI> resolve(URI document, String location) {
        return location.isBlank()
                ? Optional.empty()
                : Location.resolve(document.toString(), location)
                        .filter(u -> u.getScheme() != null)
                        .filter(u ->
                                u.getScheme().matches("https?") || u.getScheme().equals(document.getScheme()));
    }
}
