package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * Has complex types that the library refused shown to it so that it can take them, as near as may be to what they declare: a
 * type that is refused has no particles and no attributes, while most of what it says is plain. What is wrong with it stays
 * a flaw.
 */
final class Easing {
    /** Rules that a complex type as a whole is refused by; others cost no more than the part that breaks them. */
    private static final List<String> REFUSING = List.of(
            "cos-all-limited",
            "cos-ct-extends",
            "ct-props-correct",
            "derivation-ok-restriction",
            "src-ct.1",
            "src-ct.2",
            "src-ct.4");

    private static final Set<String> DERIVATIONS = Set.of("extension", "restriction");
    private static final Set<String> GROUPS = Set.of("all", "sequence", "choice", "group");

    // a document without a namespace that several include is scanned once for each
    private final Map<Element, List<SchemaScan>> scans = new IdentityHashMap<>();
    private final Map<Place, List<Element>> elements = new HashMap<>();
    private final Map<String, Map<QName, Element>> globals = new HashMap<>();
    private final Set<Element> eased = Collections.newSetFromMap(new IdentityHashMap<>());

    Easing(List<SchemaSource> sources, List<SchemaScan> scans) {
        for (int i = 0; i < scans.size(); i++) {
            SchemaSource source = sources.get(i);
            this.scans.computeIfAbsent(source.root(), k -> new ArrayList<>()).add(scans.get(i));
            for (Element e : Xml.children(source.root())) {
                globals.computeIfAbsent(String.valueOf(e.getLocalName()), k -> new HashMap<>())
                        .putIfAbsent(new QName(source.namespace(), e.getAttribute("name")), e);
            }
            note(source.root());
        }
    }

    private void note(Element root) {
        List<Element> level = List.of(root);
        while (!level.isEmpty()) {
            List<Element> below = new ArrayList<>();
            for (Element e : level) {
                elements.computeIfAbsent(Xml.placeOf(e), k -> new ArrayList<>()).add(e);
                below.addAll(Xml.children(e));
            }
            level = below;
        }
    }

    /** The complex types that these flaws had refused. */
    Set<Element> refused(Collection<SchemaFlaw> flaws) {
        Set<Element> found = Collections.newSetFromMap(new IdentityHashMap<>());
        flaws.forEach(f -> found.addAll(refused(f)));
        return found;
    }

    private List<Element> refused(SchemaFlaw flaw) {
        return elements.getOrDefault(flaw.place(), List.of()).stream()
                .filter(e ->
                        REFUSING.stream().anyMatch(flaw.rule()::startsWith) || baseIsMissing(e) || isWithinOrder(e))
                .flatMap(e -> upTo(e, "complexType").stream())
                .toList();
    }

    /** Whether the type that a flaw had refused was eased. */
    boolean isEased(SchemaFlaw flaw) {
        List<Element> types = refused(flaw);
        return !types.isEmpty() && eased.containsAll(types);
    }

    /** The innermost element or type with a name that a flaw lies in. */
    Optional<Element> within(SchemaFlaw flaw) {
        return elements.getOrDefault(flaw.place(), List.of()).stream()
                .flatMap(e -> declarationOf(e).stream())
                .findFirst();
    }

    /** The innermost element or type with a name that a schema's element stands in, itself included. */
    static Optional<Element> declarationOf(Element e) {
        return Stream.iterate(e, n -> n.getParentNode() instanceof Element, n -> (Element) n.getParentNode())
                .filter(n -> Set.of("element", "complexType", "simpleType").contains(n.getLocalName()))
                .filter(n -> n.hasAttribute("name"))
                .findFirst();
    }

    /**
     * Changes how the refused types are shown.
     *
     * @param further whether what was tried before did not do, so that the derivation is given up
     * @return whether anything is shown in another way now
     */
    boolean ease(Collection<SchemaFlaw> flaws, boolean further) {
        boolean changed = false;
        for (SchemaFlaw flaw : flaws) {
            for (Element type : refused(flaw)) {
                boolean done = further ? freed(type) : ease(flaw, type);
                changed |= done;
                if (done) {
                    eased.add(type);
                }
            }
        }
        return changed;
    }

    private boolean ease(SchemaFlaw flaw, Element type) {
        String rule = flaw.rule();
        if (rule.startsWith("cos-all-limited") || rule.startsWith("s4s-elt-must-match")) {
            return ordered(type, new HashSet<>());
        }
        if (rule.startsWith("cos-ct-extends.1.4.3.2.2.1")) {
            return mixedAsItsBase(type);
        }
        if (rule.startsWith("cos-ct-extends.1.1") || rule.equals("derivation-ok-restriction.1")) {
            return base(type).map(b -> without(b, "final")).orElse(false);
        }
        if (rule.startsWith("ct-props-correct") || rule.startsWith("derivation-ok-restriction")) {
            return fewerAttributes(type, rule.startsWith("ct-props-correct"));
        }
        return freed(type);
    }

    /** Each {@code all} of it and of what it extends as a sequence, where it need not stand alone (§3.8.6). */
    private boolean ordered(Element type, Set<Element> seen) {
        if (!seen.add(type)) {
            return false;
        }
        boolean changed = false;
        List<Element> level = Xml.children(type);
        while (!level.isEmpty()) {
            List<Element> below = new ArrayList<>();
            for (Element e : level) {
                if ("all".equals(e.getLocalName())) {
                    show(e, renamed(e, "sequence"));
                    changed = true;
                } else if ("group".equals(e.getLocalName())) {
                    changed |= global("group", e, e.getAttribute("ref"))
                            .map(g -> ordered(g, seen))
                            .orElse(false);
                }
                if (GROUPS.contains(e.getLocalName())
                        || DERIVATIONS.contains(e.getLocalName())
                        || "complexContent".equals(e.getLocalName())) {
                    below.addAll(Xml.children(e));
                }
            }
            level = below;
        }
        boolean extended = derivation(type)
                .filter(d -> "extension".equals(d.getLocalName()))
                .flatMap(d -> base(type))
                .map(b -> ordered(b, seen))
                .orElse(false);
        return changed || extended;
    }

    private boolean mixedAsItsBase(Element type) {
        Optional<Element> base = base(type);
        if (base.isEmpty()) {
            return false;
        }
        Element copy = copyOf(type);
        copy.setAttribute("mixed", String.valueOf(isMixed(base.get())));
        show(type, copy);
        Xml.children(type).stream()
                .filter(c -> "complexContent".equals(c.getLocalName()) && c.hasAttribute("mixed"))
                .forEach(c -> without(c, "mixed"));
        return true;
    }

    private static boolean isMixed(Element type) {
        String content = Xml.children(type).stream()
                .filter(c -> "complexContent".equals(c.getLocalName()))
                .map(c -> c.getAttribute("mixed").strip())
                .findFirst()
                .orElse("");
        return Set.of("true", "1")
                .contains(content.isEmpty() ? type.getAttribute("mixed").strip() : content);
    }

    /** Without the attributes that stand twice, or without any of its own beside those of its base. */
    private boolean fewerAttributes(Element type, boolean twice) {
        Set<QName> known = new LinkedHashSet<>();
        boolean identified = false;
        if (twice) {
            Set<Element> seen = new HashSet<>(Set.of(type));
            for (Optional<Element> b = base(type); b.isPresent() && seen.add(b.get()); b = base(b.get())) {
                attributes(b.get()).forEach(a -> known.add(nameOf(a)));
            }
        }
        boolean changed = false;
        for (Element attribute : attributes(type)) {
            String typeName = attribute.getAttribute("type");
            boolean identifier = "ID".equals(typeName.substring(typeName.indexOf(':') + 1));
            if (!twice || !known.add(nameOf(attribute)) || identifier && identified) {
                show(attribute, null);
                changed = true;
            }
            identified |= identifier;
        }
        return changed;
    }

    private static QName nameOf(Element attribute) {
        String ref = attribute.getAttribute("ref");
        return ref.isEmpty()
                ? new QName(attribute.getAttribute("name"))
                : new QName("ref", ref.replaceFirst("^.*:", ""));
    }

    /** The attributes that a type or its derivation declares, those of groups left out. */
    private static List<Element> attributes(Element type) {
        Element holder = derivation(type).orElse(type);
        return Xml.children(holder).stream()
                .filter(c -> "attribute".equals(c.getLocalName()))
                .toList();
    }

    /** As derived from nothing: its own particles and attributes alone. */
    private boolean freed(Element type) {
        Optional<Element> derivation = derivation(type);
        if (derivation.isEmpty()) {
            return false;
        }
        Element given = derivation.get();
        boolean text = "simpleContent".equals(given.getParentNode().getLocalName());
        String root = text ? "anySimpleType" : "anyType";
        Element copy = text ? renamed(given, "extension") : renamed(given, "restriction");
        String prefix = given.getPrefix() == null ? "" : given.getPrefix() + ":";
        if (copy.getAttribute("base").equals(prefix + root)) {
            return false;
        }
        copy.setAttribute("base", prefix + root);
        show(given, copy);
        if (text) {
            // facets belong to restrictions
            Xml.children(given).stream()
                    .filter(c -> !c.getLocalName().contains("ttribute"))
                    .forEach(c -> show(c, null));
        }
        return true;
    }

    private static Optional<Element> derivation(Element type) {
        return Xml.children(type).stream()
                .filter(c -> "complexContent".equals(c.getLocalName()) || "simpleContent".equals(c.getLocalName()))
                .flatMap(c -> Xml.children(c).stream())
                .filter(d -> DERIVATIONS.contains(d.getLocalName()))
                .findFirst();
    }

    private boolean baseIsMissing(Element e) {
        boolean derives = DERIVATIONS.contains(e.getLocalName())
                && e.getParentNode() instanceof Element content
                && Set.of("complexContent", "simpleContent").contains(content.getLocalName());
        String name = e.getAttribute("base").strip();
        return derives
                && !SchemaReplay.XSD.equals(named(e, name).getNamespaceURI())
                && typeOf(e, name).isEmpty();
    }

    /** Whether it is an {@code all} where only a sequence or a choice may stand, or holds one. */
    private static boolean isWithinOrder(Element e) {
        boolean orders = "sequence".equals(e.getLocalName()) || "choice".equals(e.getLocalName());
        boolean all = "all".equals(e.getLocalName());
        return all && e.getParentNode() instanceof Element p && !"group".equals(p.getLocalName()) && isWithinOrder(p)
                || orders && Xml.children(e).stream().anyMatch(c -> "all".equals(c.getLocalName()));
    }

    private Optional<Element> base(Element type) {
        return derivation(type).flatMap(d -> global("complexType", d, d.getAttribute("base")));
    }

    private Optional<Element> typeOf(Element at, String name) {
        return global("complexType", at, name).or(() -> global("simpleType", at, name));
    }

    private Optional<Element> global(String kind, Element at, String name) {
        QName wanted = named(at, name.strip());
        return Optional.ofNullable(globals.getOrDefault(kind, Map.of()).get(wanted));
    }

    private QName named(Element at, String name) {
        int colon = name.indexOf(':');
        String ns = at.lookupNamespaceURI(colon < 0 ? null : name.substring(0, colon));
        String local = name.substring(colon + 1);
        if (ns == null && colon < 0) {
            // without a namespace, the includer's is meant where the document has none (§4.2.1)
            Element schema = upTo(at, "schema").orElse(at);
            ns = scans.containsKey(schema) ? scans.get(schema).get(0).namespace() : "";
        }
        return new QName(ns == null ? "" : ns, local);
    }

    private static Optional<Element> upTo(Element from, String local) {
        for (Node n = from; n instanceof Element e; n = n.getParentNode()) {
            if (local.equals(e.getLocalName())) {
                return Optional.of(e);
            }
        }
        return Optional.empty();
    }

    private boolean without(Element e, String attribute) {
        if (!e.hasAttribute(attribute)) {
            return false;
        }
        Element copy = copyOf(e);
        copy.removeAttribute(attribute);
        show(e, copy);
        return true;
    }

    private Element copyOf(Element e) {
        return (Element) shown(e).cloneNode(false);
    }

    private Element renamed(Element e, String local) {
        Element from = shown(e);
        String prefix = e.getPrefix() == null ? "" : e.getPrefix() + ":";
        Element made = e.getOwnerDocument().createElementNS(SchemaReplay.XSD, prefix + local);
        for (Attr a : Xml.attributes(from)) {
            if (a.getNamespaceURI() == null) {
                made.setAttribute(a.getNodeName(), a.getNodeValue());
            } else {
                made.setAttributeNS(a.getNamespaceURI(), a.getNodeName(), a.getNodeValue());
            }
        }
        return made;
    }

    private Element shown(Element e) {
        Element shown = scansOf(e).get(0).shown(e);
        return shown == null ? e : shown;
    }

    private void show(Element e, Element instead) {
        scansOf(e).forEach(s -> s.show(e, instead));
    }

    private List<SchemaScan> scansOf(Element e) {
        return scans.get(upTo(e, "schema").orElseThrow());
    }
}
