package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Turns schemas of the drafts of 1999 and 2000 into ones of the standard, in place, as far as the two agree: names of
 * types and facets, derivation written as attributes, content without a compositor.
 */
public final class DraftSchemas {
    /** The namespaces of the drafts. */
    public static final Set<String> NAMESPACES = Set.of(
            "http://www.w3.org/1999/XMLSchema",
            "http://www.w3.org/2000/08/XMLSchema",
            "http://www.w3.org/2000/10/XMLSchema");

    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final Map<String, String> TYPES = Map.ofEntries(
            Map.entry("timeInstant", "dateTime"),
            Map.entry("timeDuration", "duration"),
            Map.entry("recurringDate", "gMonthDay"),
            Map.entry("recurringDay", "gDay"),
            Map.entry("month", "gYearMonth"),
            Map.entry("year", "gYear"),
            Map.entry("century", "gYear"),
            Map.entry("recurringDuration", "string"),
            Map.entry("timePeriod", "string"),
            Map.entry("binary", "base64Binary"),
            Map.entry("uriReference", "anyURI"),
            Map.entry("uri-reference", "anyURI"),
            Map.entry("uri", "anyURI"),
            Map.entry("CDATA", "normalizedString"),
            Map.entry("ur-type", "anyType"),
            Map.entry("urType", "anyType"),
            Map.entry("non-negative-integer", "nonNegativeInteger"),
            Map.entry("non-positive-integer", "nonPositiveInteger"),
            Map.entry("positive-integer", "positiveInteger"),
            Map.entry("negative-integer", "negativeInteger"));
    private static final Map<String, String> ELEMENTS =
            Map.of("precision", "totalDigits", "scale", "fractionDigits", "info", "documentation");
    private static final Set<String> GONE = Set.of("encoding", "period", "duration");
    private static final Set<String> PARTICLES = Set.of("element", "any", "group");
    private static final Set<String> FACETS = Set.of(
            "enumeration",
            "pattern",
            "length",
            "minLength",
            "maxLength",
            "minInclusive",
            "maxInclusive",
            "minExclusive",
            "maxExclusive",
            "totalDigits",
            "fractionDigits",
            "whiteSpace");

    private final Document document;

    private DraftSchemas(Document document) {
        this.document = document;
    }

    /** Changes the document; gives the places of the schema elements that were of a draft. */
    public static List<Place> modernize(Document document) {
        List<Element> all = new ArrayList<>();
        collect(document.getDocumentElement(), all);
        boolean drafts = all.stream().anyMatch(DraftSchemas::mentions);
        return drafts ? new DraftSchemas(document).change(all) : List.of();
    }

    private static void collect(Element element, List<Element> into) {
        into.add(element);
        Xml.children(element).forEach(c -> collect(c, into));
    }

    private static boolean mentions(Element element) {
        return Xml.attributes(element).stream().anyMatch(a -> NAMESPACES.contains(a.getValue()));
    }

    private List<Place> change(List<Element> all) {
        List<Place> changed = new ArrayList<>();
        for (Element e : all) {
            for (Attr a : Xml.attributes(e)) {
                if (XMLNS.equals(a.getNamespaceURI()) && NAMESPACES.contains(a.getValue())) {
                    a.setValue(SchemaReplay.XSD);
                }
            }
        }
        for (Element e : all) {
            boolean draft = NAMESPACES.contains(String.valueOf(e.getNamespaceURI()));
            String local = e.getLocalName();
            if (draft && "schema".equals(local)) {
                changed.add(Xml.placeOf(e));
            }
            if (draft) {
                String prefix = e.getPrefix() == null ? "" : e.getPrefix() + ":";
                document.renameNode(e, SchemaReplay.XSD, prefix + ELEMENTS.getOrDefault(local, local));
            }
        }
        for (Element e : all) {
            names(e);
            if (SchemaReplay.XSD.equals(e.getNamespaceURI())) {
                shape(e);
            }
        }
        return changed;
    }

    private static void names(Element e) {
        for (String name : List.of("type", "base", "itemType", "source")) {
            String value = e.getAttribute(name);
            int colon = value.indexOf(':');
            String modern = TYPES.get(value.substring(colon + 1));
            String namespace =
                    value.isEmpty() ? null : e.lookupNamespaceURI(colon < 0 ? null : value.substring(0, colon));
            if (modern != null && SchemaReplay.XSD.equals(namespace)) {
                e.setAttribute(name, value.substring(0, colon + 1) + modern);
            }
        }
    }

    private void shape(Element e) {
        if ("*".equals(e.getAttribute("maxOccurs"))) {
            e.setAttribute("maxOccurs", "unbounded");
        }
        rename(e, "nullable", "nillable");
        rename(e, "equivClass", "substitutionGroup");
        switch (e.getLocalName()) {
            case "attribute" -> attribute(e);
            case "complexType" -> complexType(e);
            case "simpleType" -> simpleType(e);
            default -> {
                if (GONE.contains(e.getLocalName())) {
                    e.getParentNode().removeChild(e);
                }
            }
        }
    }

    private static void rename(Element e, String old, String modern) {
        if (e.hasAttribute(old)) {
            e.setAttribute(modern, e.getAttribute(old));
            e.removeAttribute(old);
        }
    }

    private static void attribute(Element e) {
        String use = e.getAttribute("use");
        if ("fixed".equals(use) || "default".equals(use)) {
            e.removeAttribute("use");
            rename(e, "value", use);
        }
        if ("1".equals(e.getAttribute("minOccurs"))) {
            e.setAttribute("use", "required");
        }
        e.removeAttribute("minOccurs");
        e.removeAttribute("maxOccurs");
    }

    private void complexType(Element e) {
        String content = e.getAttribute("content");
        e.removeAttribute("content");
        if ("mixed".equals(content)) {
            e.setAttribute("mixed", "true");
        }
        Element holder = e;
        if (e.hasAttribute("base")) {
            String derivation = "restriction".equals(e.getAttribute("derivedBy")) ? "restriction" : "extension";
            Element derived = make(e, derivation);
            derived.setAttribute("base", e.getAttribute("base"));
            e.removeAttribute("base");
            e.removeAttribute("derivedBy");
            move(e, derived, child -> true);
            Element around = make(e, "textOnly".equals(content) ? "simpleContent" : "complexContent");
            around.appendChild(derived);
            e.appendChild(around);
            holder = derived;
        }
        if (Xml.children(holder).stream().anyMatch(c -> PARTICLES.contains(c.getLocalName()))) {
            Element sequence = make(e, "sequence");
            move(
                    holder,
                    sequence,
                    child -> !Set.of("attribute", "attributeGroup", "anyAttribute", "annotation")
                            .contains(child.getLocalName()));
            List<Element> left = Xml.children(holder);
            Element before = left.stream()
                    .filter(c -> !"annotation".equals(c.getLocalName()))
                    .findFirst()
                    .orElse(null);
            holder.insertBefore(sequence, before);
        }
    }

    private void simpleType(Element e) {
        String base = e.hasAttribute("base") ? e.getAttribute("base") : e.getAttribute("source");
        if (base.isEmpty()) {
            return;
        }
        boolean list = "list".equals(e.getAttribute("derivedBy"));
        Element derived = make(e, list ? "list" : "restriction");
        derived.setAttribute(list ? "itemType" : "base", base);
        List.of("base", "source", "derivedBy").forEach(e::removeAttribute);
        if (!list) {
            move(e, derived, child -> FACETS.contains(child.getLocalName()));
        }
        e.appendChild(derived);
    }

    private Element make(Element like, String local) {
        String prefix = like.getPrefix() == null ? "" : like.getPrefix() + ":";
        Element made = document.createElementNS(SchemaReplay.XSD, prefix + local);
        Xml.place(made, like);
        return made;
    }

    private static void move(Element from, Element to, java.util.function.Predicate<Element> which) {
        for (Element child : Xml.children(from)) {
            if (which.test(child)) {
                to.appendChild(child);
            }
        }
    }
}
