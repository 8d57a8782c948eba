package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.xml.Xml;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** The named components of all WSDL documents of a contract, and the references between them. */
final class Definitions {
    private final List<Element> roots;
    private final Findings findings;
    private final Map<String, Map<QName, Element>> byKind = new LinkedHashMap<>();

    /** @param kinds the local names of the components to index */
    Definitions(List<Element> roots, Findings findings, String... kinds) {
        this.roots = roots;
        this.findings = findings;
        for (String kind : kinds) {
            byKind.put(kind, new LinkedHashMap<>());
            roots.forEach(root -> index(root, kind));
        }
    }

    private void index(Element root, String kind) {
        for (Element e : Xml.children(root, root.getNamespaceURI(), kind)) {
            QName name = nameOf(e);
            if (byKind.get(kind).putIfAbsent(name, e) != null) {
                finding(
                        Severity.WARNING,
                        "duplicate-" + kind,
                        "There is more than one " + kind + " " + name + "; the first is used",
                        "Give each a name of its own.",
                        e);
            }
        }
    }

    List<Element> roots() {
        return roots;
    }

    static QName nameOf(Element component) {
        return new QName(Wsdl.targetNamespace(component), component.getAttribute("name"));
    }

    /** The components of a kind in the order of the documents. */
    Map<QName, Element> all(String kind) {
        return byKind.get(kind);
    }

    /**
     * The component that an attribute refers to. A name without prefix where no default namespace is declared is looked
     * for in the target namespace too, as careless authors mean it.
     */
    Optional<Element> find(String kind, Element from, String attribute) {
        Optional<QName> name = Wsdl.qname(from, attribute);
        Optional<Element> exact = name.map(byKind.get(kind)::get);
        String text = from.getAttribute(attribute).strip();
        if (exact.isPresent() || text.isEmpty()) {
            return exact;
        }
        boolean loose = text.indexOf(':') < 0 || name.isEmpty();
        Optional<Element> near = !loose
                ? Optional.empty()
                : Optional.ofNullable(byKind.get(kind)
                        .get(new QName(Wsdl.targetNamespace(from), text.substring(text.indexOf(':') + 1))));
        near.ifPresent(e -> finding(
                Severity.WARNING,
                "loose-reference",
                "“" + text + "” has no " + (text.indexOf(':') < 0 ? "prefix" : "declared prefix") + "; it is taken as "
                        + nameOf(e),
                "Write it with the prefix of its namespace.",
                from));
        return near;
    }

    /**
     * Notes that a reference leads nowhere: because it is not written, because nobody declares its prefix, or because there
     * is nothing of that name.
     *
     * @param what it should lead to, for people
     */
    void unresolved(String rule, String what, Element from, String attribute) {
        String text = from.getAttribute(attribute).strip();
        String prefix = text.indexOf(':') < 0 ? "" : text.substring(0, text.indexOf(':'));
        if (text.isEmpty()) {
            String state = from.hasAttribute(attribute) ? "empty" : "missing";
            error(rule, subject(from) + " names no " + what + ": " + attribute + " is " + state, from);
        } else if (!prefix.isEmpty() && Wsdl.qname(from, attribute).isEmpty()) {
            error(
                    rule,
                    subject(from) + " refers to the " + what + " " + text + ", whose prefix " + prefix
                            + " is not declared",
                    from);
        } else {
            error(rule, subject(from) + " refers to the " + what + " " + text + ", which is not there", from);
        }
    }

    /** {@code Binding B}, {@code This input}. */
    private static String subject(Element e) {
        String kind = e.getLocalName();
        String name = e.getAttribute("name").strip();
        return name.isEmpty() ? "This " + kind : Character.toUpperCase(kind.charAt(0)) + kind.substring(1) + " " + name;
    }

    void error(String rule, String text, Element at) {
        finding(Severity.ERROR, rule, text, "Mend the reference.", at);
    }

    void warn(String rule, String text, String advice, Element at) {
        finding(Severity.WARNING, rule, text, advice, at);
    }

    void finding(Severity severity, String rule, String text, String advice, Element at) {
        findings.add(severity, rule, text, advice, Xml.placeOf(at));
    }
}
