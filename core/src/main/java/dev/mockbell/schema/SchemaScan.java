package dev.mockbell.schema;

import dev.mockbell.pattern.XsPattern;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * One walk over a schema document before it is compiled: which namespaces it refers to and imports, and which of its
 * elements must be played to the library differently, because it would choke on them as they stand.
 */
final class SchemaScan {
    /** Most repeats of an element that are compiled as they stand; more are taken as endless. */
    static final int MOST_ELEMENTS = 10_000;

    private static final int MOST_GROUPS = 400;
    private static final Map<String, List<String>> NAMES = Map.of(
            "element", List.of("type", "ref", "substitutionGroup"),
            "attribute", List.of("type", "ref"),
            "restriction", List.of("base"),
            "extension", List.of("base"),
            "list", List.of("itemType"),
            "union", List.of("memberTypes"),
            "group", List.of("ref"),
            "attributeGroup", List.of("ref"),
            "keyref", List.of("refer"));

    private final SchemaSource source;
    private final Map<String, String> swapped;
    private final Map<String, Place> imports = new LinkedHashMap<>();
    private final Map<String, Place> references = new LinkedHashMap<>();
    private final Map<Element, Element> shown = new IdentityHashMap<>();
    private final Map<String, SchemaFlaw> flaws = new LinkedHashMap<>();
    private final Map<Element, SchemaFlaw> cut = new IdentityHashMap<>();

    /** @param swapped patterns that are not compiled, by the marker that stands for them; filled here */
    SchemaScan(SchemaSource source, Map<String, String> swapped) {
        this.source = source;
        this.swapped = swapped;
        Map<String, String> prefixes = new HashMap<>();
        for (Node n = source.root().getParentNode(); n instanceof Element e; n = n.getParentNode()) {
            SchemaReplay.namespaces(e).forEach(prefixes::putIfAbsent);
        }
        walk(source.root(), prefixes, 1);
    }

    /** The namespaces that it imports, with the first place of each; the empty text for none. */
    Map<String, Place> imports() {
        return imports;
    }

    /** The namespaces that it refers to, with the first place of each; its own and XML Schema's left out. */
    Map<String, Place> references() {
        return references;
    }

    /** What to play in place of an element, its children apart; the element itself where nothing changes, null to drop it. */
    Element shown(Element element) {
        return shown.containsKey(element) ? shown.get(element) : element;
    }

    /** Has another element played in place of one; null drops it. */
    void show(Element element, Element instead) {
        shown.put(element, instead);
    }

    /** The namespace that its components belong to. */
    String namespace() {
        return source.namespace();
    }

    List<SchemaFlaw> flaws() {
        return List.copyOf(flaws.values());
    }

    private void walk(Element e, Map<String, String> inherited, long times) {
        Map<String, String> prefixes = inherited;
        Map<String, String> own = SchemaReplay.namespaces(e);
        if (!own.isEmpty()) {
            prefixes = new HashMap<>(inherited);
            prefixes.putAll(own);
        }
        long inside = times;
        if (SchemaReplay.XSD.equals(e.getNamespaceURI())) {
            inside = look(e, prefixes, times);
        }
        for (Node n = e.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child && !"annotation".equals(child.getLocalName())) {
                walk(child, prefixes, inside);
            }
        }
    }

    private long look(Element e, Map<String, String> prefixes, long times) {
        for (String attribute : NAMES.getOrDefault(e.getLocalName(), List.of())) {
            String value = e.getAttribute(attribute);
            if (value.indexOf(' ') < 0) {
                refer(e, attribute, value.strip(), prefixes);
            } else {
                for (String name : value.strip().split("\\s+")) {
                    refer(e, attribute, name, prefixes);
                }
            }
        }
        switch (e.getLocalName()) {
            case "import" -> {
                imports.putIfAbsent(e.getAttribute("namespace"), Xml.placeOf(e));
                return times;
            }
            case "pattern" -> {
                pattern(e);
                return times;
            }
            case "complexType" -> {
                return 1;
            }
            case "sequence", "choice", "all", "group" -> {
                return bounded(e, times, MOST_GROUPS);
            }
            case "any" -> {
                if (SchemaReplay.XSD.equals(e.getAttribute("namespace").strip())) {
                    shown.put(e, anySchemaElement(e));
                }
                bounded(e, times, MOST_ELEMENTS);
                return 1;
            }
            case "element" -> {
                bounded(e, times, MOST_ELEMENTS);
                return 1;
            }
            default -> {
                return times;
            }
        }
    }

    private void refer(Element e, String attribute, String name, Map<String, String> prefixes) {
        if (name.isEmpty()) {
            return;
        }
        int colon = name.indexOf(':');
        String prefix = colon < 0 ? "" : name.substring(0, colon);
        String ns = "xml".equals(prefix) ? "http://www.w3.org/XML/1998/namespace" : prefixes.get(prefix);
        if (ns == null) {
            ns = "";
        }
        if (SchemaReplay.XSD.equals(ns)) {
            if ("ref".equals(attribute) && "element".equals(e.getLocalName())) {
                shown.put(e, anySchemaElement(e));
            }
        } else if (!ns.equals(source.namespace()) && !(ns.isEmpty() && takesNamespace())) {
            references.putIfAbsent(ns, Xml.placeOf(e));
        }
    }

    /** Whether names without namespace are those of the document that includes this one (XML Schema part 1 §4.2.1). */
    private boolean takesNamespace() {
        return source.root().getAttribute("targetNamespace").isEmpty();
    }

    /** The library has no declarations for the elements of XML Schema itself, which data sets carry in line. */
    private static Element anySchemaElement(Element e) {
        String prefix = e.getPrefix() == null ? "" : e.getPrefix() + ":";
        Element any = e.getOwnerDocument().createElementNS(SchemaReplay.XSD, prefix + "any");
        for (String kept : List.of("minOccurs", "maxOccurs")) {
            if (e.hasAttribute(kept)) {
                any.setAttribute(kept, e.getAttribute(kept));
            }
        }
        any.setAttribute("namespace", SchemaReplay.XSD);
        any.setAttribute("processContents", "skip");
        return any;
    }

    private void pattern(Element e) {
        String value = e.getAttribute("value");
        if (!value.matches("(?s).*[*+{(].*")) {
            return;
        }
        boolean unwieldy = XsPattern.isTooLarge(value);
        if (unwieldy || XsPattern.parse(value).map(XsPattern::isRisky).orElse(false)) {
            String marker = "[\\s\\S]*|mb" + String.format(java.util.Locale.ROOT, "%06d", swapped.size());
            swapped.put(marker, value);
            Element copy = (Element) e.cloneNode(false);
            copy.setAttribute("value", marker);
            shown.put(e, copy);
            flaw(
                    SchemaFlaw.Weight.WARNING,
                    "dear-pattern",
                    "The pattern " + shortened(value)
                            + (unwieldy ? " is too large to be compiled" : " can take a matcher exponential time"),
                    e);
        }
    }

    private static String shortened(String text) {
        return text.length() > 80 ? text.substring(0, 79) + "…" : text;
    }

    /** Eases counts that the library would copy out; gives how often what is inside stands at most. */
    private long bounded(Element e, long times, int most) {
        long min = number(e.getAttribute("minOccurs"));
        long max = number(e.getAttribute("maxOccurs"));
        long room = Math.max(1, most / Math.max(1, times));
        boolean endless = "unbounded".equals(e.getAttribute("maxOccurs").strip());
        if (min <= room && (endless || max <= room)) {
            return times * Math.max(1, Math.max(min, endless ? 1 : max));
        }
        Element copy = shown.containsKey(e) ? shown.get(e) : (Element) e.cloneNode(false);
        if (min > room) {
            copy.setAttribute("minOccurs", Long.toString(room));
        }
        copy.setAttribute("maxOccurs", "unbounded");
        shown.put(e, copy);
        SchemaFlaw flaw = flaw(
                min > room ? SchemaFlaw.Weight.CUT : SchemaFlaw.Weight.WARNING,
                "large-count",
                "The " + e.getLocalName()
                        + (min > room
                                ? " must stand at least " + e.getAttribute("minOccurs") + " times; samples hold " + room
                                : " may stand up to " + e.getAttribute("maxOccurs")
                                        + " times; whether there are more is not looked at"),
                e);
        if (min > room) {
            cut.put(e, flaw);
        }
        return times * Math.max(1, Math.min(min, room));
    }

    private static long number(String text) {
        if (text.isBlank()) {
            return 1;
        }
        try {
            return Math.min(Long.MAX_VALUE - 1, Long.parseLong(text.strip()));
        } catch (NumberFormatException unboundedOrWrong) {
            return "unbounded".equals(text.strip()) || text.strip().matches("\\d+") ? Long.MAX_VALUE : 1;
        }
    }

    /** The particles of which fewer are asked for than the contract demands. */
    Map<Element, SchemaFlaw> cut() {
        return cut;
    }

    private SchemaFlaw flaw(SchemaFlaw.Weight weight, String rule, String text, Element at) {
        SchemaFlaw flaw = new SchemaFlaw(weight, rule, text, Xml.placeOf(at));
        flaws.putIfAbsent(flaw.toString(), flaw);
        return flaw;
    }
}
