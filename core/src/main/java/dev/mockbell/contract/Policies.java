package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.w3c.dom.Element;

/**
 * Reads what WS-Policy demands (WS-Policy 1.2 and 1.5, attached in line, by reference or by attribute) down to short
 * tags. What one alternative of several does without, and what is optional, is not demanded.
 */
final class Policies {
    private static final Set<String> NAMESPACES = Set.of(
            "http://www.w3.org/ns/ws-policy",
            "http://www.w3.org/2006/07/ws-policy",
            "http://schemas.xmlsoap.org/ws/2004/09/policy",
            "http://schemas.xmlsoap.org/ws/2002/12/policy");
    private static final String UTILITY =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd";
    private static final String XML = "http://www.w3.org/XML/1998/namespace";
    private static final List<String> ORDER = List.of(
            "UsernameToken",
            "password digest",
            "Timestamp",
            "signature",
            "encryption",
            "MTOM",
            "addressing",
            "TLS",
            "client certificate",
            "Basic login",
            "Digest login",
            "X.509 token",
            "SAML token",
            "Kerberos token",
            "issued token",
            "secure conversation",
            "reliable messaging");
    private static final Map<String, String> TAGS = Map.ofEntries(
            Map.entry("UsernameToken", "UsernameToken"),
            Map.entry("HashPassword", "password digest"),
            Map.entry("IncludeTimestamp", "Timestamp"),
            Map.entry("SignedParts", "signature"),
            Map.entry("SignedElements", "signature"),
            Map.entry("AsymmetricBinding", "signature"),
            Map.entry("SymmetricBinding", "signature"),
            Map.entry("Integrity", "signature"),
            Map.entry("EncryptedParts", "encryption"),
            Map.entry("EncryptedElements", "encryption"),
            Map.entry("ContentEncryptedElements", "encryption"),
            Map.entry("Confidentiality", "encryption"),
            Map.entry("OptimizedMimeSerialization", "MTOM"),
            Map.entry("MTOM", "MTOM"),
            Map.entry("Addressing", "addressing"),
            Map.entry("UsingAddressing", "addressing"),
            Map.entry("TransportBinding", "TLS"),
            Map.entry("HttpsToken", "TLS"),
            Map.entry("RequireClientCertificate", "client certificate"),
            Map.entry("HttpBasicAuthentication", "Basic login"),
            Map.entry("BasicAuthentication", "Basic login"),
            Map.entry("HttpDigestAuthentication", "Digest login"),
            Map.entry("DigestAuthentication", "Digest login"),
            Map.entry("X509Token", "X.509 token"),
            Map.entry("SamlToken", "SAML token"),
            Map.entry("KerberosToken", "Kerberos token"),
            Map.entry("IssuedToken", "issued token"),
            Map.entry("SecureConversationToken", "secure conversation"),
            Map.entry("RMAssertion", "reliable messaging"));

    private final Findings findings;
    private final Map<String, Element> byId = new HashMap<>();
    private final Set<Element> open = new HashSet<>();
    private boolean any;

    Policies(List<Element> roots, Findings findings) {
        this.findings = findings;
        roots.forEach(this::index);
    }

    private void index(Element element) {
        any |= isPolicy(element, "Policy")
                || isPolicy(element, "PolicyReference")
                || "UsingAddressing".equals(element.getLocalName())
                || NAMESPACES.stream().anyMatch(n -> element.hasAttributeNS(n, "PolicyURIs"));
        if (isPolicy(element, "Policy")) {
            String document = Xml.placeOf(element).document();
            for (String id : List.of(
                    element.getAttributeNS(UTILITY, "Id"),
                    element.getAttributeNS(XML, "id"),
                    element.getAttribute("Id"))) {
                if (!id.isEmpty()) {
                    byId.putIfAbsent(document + "#" + id, element);
                    byId.putIfAbsent("#" + id, element);
                }
            }
            String name = element.getAttribute("Name");
            if (!name.isEmpty()) {
                byId.putIfAbsent(name, element);
            }
        }
        for (Element child : Xml.children(element)) {
            if (!"types".equals(child.getLocalName())) {
                index(child);
            }
        }
    }

    private static boolean isPolicy(Element element, String name) {
        return name.equals(element.getLocalName()) && NAMESPACES.contains(String.valueOf(element.getNamespaceURI()));
    }

    /** What the policies attached to these elements demand, in a fixed order. */
    List<String> needs(Element... subjects) {
        if (!any) {
            return List.of();
        }
        Set<String> found = new HashSet<>();
        for (Element subject : subjects) {
            for (Element child : Xml.children(subject)) {
                if (isPolicy(child, "Policy") || isPolicy(child, "PolicyReference")) {
                    found.addAll(demands(child));
                } else if ("UsingAddressing".equals(child.getLocalName())
                        && "true".equals(child.getAttributeNS(Wsdl.V11, "required"))) {
                    found.add("addressing");
                }
            }
            for (String namespace : NAMESPACES) {
                for (String uri :
                        subject.getAttributeNS(namespace, "PolicyURIs").strip().split("\\s+")) {
                    if (!uri.isEmpty()) {
                        found.addAll(referred(uri, subject));
                    }
                }
            }
        }
        return ordered(List.of(), found);
    }

    /** Both lists as one, each tag once, in a fixed order. */
    static List<String> ordered(java.util.Collection<String> some, java.util.Collection<String> more) {
        Set<String> all = new LinkedHashSet<>(some);
        all.addAll(more);
        List<String> sorted = new ArrayList<>(all);
        sorted.sort((a, b) -> Integer.compare(ORDER.indexOf(a), ORDER.indexOf(b)));
        return List.copyOf(sorted);
    }

    private Set<String> referred(String uri, Element from) {
        Optional<Element> policy = Optional.ofNullable(
                        byId.get(Xml.placeOf(from).document() + uri))
                .or(() -> Optional.ofNullable(byId.get(uri)))
                .or(() -> uri.indexOf('#') > 0
                        ? Optional.ofNullable(byId.get(uri.substring(uri.indexOf('#'))))
                        : Optional.empty());
        if (policy.isEmpty()) {
            findings.add(
                    Severity.WARNING,
                    "unresolved-policy",
                    "There is no policy " + uri + " in the documents of the contract",
                    "What it demands is not known here; look it up before calling.",
                    Xml.placeOf(from));
            return Set.of();
        }
        if (!open.add(policy.get())) {
            return Set.of();
        }
        Set<String> found = demands(policy.get());
        open.remove(policy.get());
        return found;
    }

    private Set<String> demands(Element element) {
        if (isPolicy(element, "PolicyReference")) {
            return referred(element.getAttribute("URI").strip(), element);
        }
        if (isPolicy(element, "Policy") || isPolicy(element, "All")) {
            return every(Xml.children(element));
        }
        if (isPolicy(element, "ExactlyOne")) {
            Set<String> common = null;
            for (Element alternative : Xml.children(element)) {
                Set<String> one = demands(alternative);
                if (common == null) {
                    common = new HashSet<>(one);
                } else {
                    common.retainAll(one);
                }
            }
            return common == null ? Set.of() : common;
        }
        return assertion(element);
    }

    private Set<String> every(List<Element> parts) {
        Set<String> found = new HashSet<>();
        parts.forEach(p -> found.addAll(demands(p)));
        return found;
    }

    private Set<String> assertion(Element element) {
        for (String namespace : NAMESPACES) {
            String optional = element.getAttributeNS(namespace, "Optional").strip();
            if ("true".equals(optional) || "1".equals(optional)) {
                return Set.of();
            }
        }
        Set<String> found = new HashSet<>();
        String tag = TAGS.get(element.getLocalName());
        if (tag != null) {
            found.add(tag);
        }
        if ("true".equals(element.getAttribute("RequireClientCertificate"))) {
            found.add("client certificate");
        }
        boolean types = "TokenType".equals(element.getLocalName());
        if (types && element.getTextContent().contains("UsernameToken")) {
            found.add("UsernameToken");
        }
        for (Element child : Xml.children(element)) {
            boolean nested = isPolicy(child, "Policy") || isPolicy(child, "All") || isPolicy(child, "ExactlyOne");
            if (nested
                    || "SecurityToken".equals(element.getLocalName())
                    || "SecurityToken".equals(child.getLocalName())) {
                found.addAll(demands(child));
            }
        }
        return found;
    }
}
