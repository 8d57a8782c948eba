package dev.mockbell.message;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlText;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Builds a message that the schema accepts, the same one every time. Recursion ends at the smallest finite instance.
 * One builder makes one document.
 */
public final class SampleBuilder {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final int DEEPEST = 60;
    private static final int MOST_REPEATS = 1_000;
    private static final int NEVER = 1_000_000;

    /** How much to put in. */
    public enum Detail {
        /** Only what must be there. */
        REQUIRED,
        /** Everything that may be there, once. */
        FULL
    }

    private final Detail detail;
    private final Document document = Xml.newDocument();
    private final Map<String, String> prefixes = new LinkedHashMap<>();
    private final Deque<TypeDef> open = new ArrayDeque<>();
    private final Map<TypeDef, Integer> heights = new HashMap<>();
    private final SampleValues values = new SampleValues();

    public SampleBuilder(Detail detail) {
        this.detail = detail;
    }

    /** The sample as text laid out for reading; empty text for an empty body. */
    public static String text(MessageOutline outline, Detail detail) {
        return outline.root()
                .map(root -> XmlText.laidOut(new SampleBuilder(detail).build(root)))
                .orElse("");
    }

    /** Builds the element with its namespace declarations, as the root of a document of its own. */
    public Element build(ElementDecl root) {
        Element element = element(root, 0);
        prefixes.forEach((ns, prefix) -> element.setAttributeNS(XMLNS, "xmlns:" + prefix, ns));
        document.appendChild(element);
        return element;
    }

    private Element element(ElementDecl given, int depth) {
        ElementDecl declared = given;
        if (given.isAbstract()) {
            declared = given.substitutes().stream()
                    .min(Comparator.comparingInt(e -> height(e.type(), new HashSet<>())))
                    .orElse(given);
        }
        Element element = create(declared.name());
        TypeDef type = declared.type();
        if (type.isAbstract()) {
            Optional<TypeDef> concrete = type.derived().stream()
                    .filter(t -> t.name().isPresent())
                    .min(Comparator.comparingInt(t -> height(t, new HashSet<>())));
            if (concrete.isPresent()) {
                type = concrete.get();
                QName name = type.name().orElseThrow();
                String prefix = name.getNamespaceURI().isEmpty() ? "" : prefix(name.getNamespaceURI()) + ":";
                element.setAttributeNS(XSI, prefix(XSI) + ":type", prefix + name.getLocalPart());
            }
        }
        fill(element, declared, type, depth);
        return element;
    }

    private void fill(Element element, ElementDecl declared, TypeDef type, int depth) {
        open.push(type);
        for (AttributeDecl attribute : type.attributes()) {
            if (attribute.required() || detail == Detail.FULL) {
                attribute(element, attribute);
            }
        }
        if (type.content() == TypeDef.Content.TEXT) {
            String value = declared.fixed()
                    .or(declared::byDefault)
                    .orElseGet(() -> type.simple()
                            .map(t -> values.of(t, declared.name().getLocalPart()))
                            .orElse(""));
            if (!value.isEmpty()) {
                element.appendChild(document.createTextNode(value));
            }
        } else if (declared.fixed().isPresent()) {
            element.appendChild(document.createTextNode(declared.fixed().get()));
        } else if (!type.isAny()) {
            type.particle().ifPresent(p -> particle(element, p, depth));
        }
        open.pop();
    }

    private void attribute(Element element, AttributeDecl attribute) {
        String value = attribute
                .fixed()
                .or(attribute::byDefault)
                .orElseGet(() -> attribute
                        .type()
                        .simple()
                        .map(t -> values.of(t, attribute.name().getLocalPart()))
                        .orElse(""));
        String ns = attribute.name().getNamespaceURI();
        if (ns.isEmpty()) {
            element.setAttribute(attribute.name().getLocalPart(), value);
        } else if ("http://www.w3.org/XML/1998/namespace".equals(ns)) {
            element.setAttributeNS(ns, "xml:" + attribute.name().getLocalPart(), value);
        } else {
            element.setAttributeNS(ns, prefix(ns) + ":" + attribute.name().getLocalPart(), value);
        }
    }

    private void particle(Element parent, Particle particle, int depth) {
        int times = times(particle, depth);
        for (int i = 0; i < times; i++) {
            if (particle instanceof Particle.OfElement e) {
                parent.appendChild(element(e.element(), depth + 1));
            } else if (particle instanceof Particle.OfGroup group) {
                if (group.compositor() == Particle.Compositor.CHOICE) {
                    branch(group).ifPresent(b -> particle(parent, b, depth));
                } else {
                    group.parts().forEach(p -> particle(parent, p, depth));
                }
            }
        }
    }

    private int times(Particle particle, int depth) {
        Occurs occurs = particle.occurs();
        if (occurs.max() == 0) {
            return 0;
        }
        int wanted = Math.min(occurs.min(), MOST_REPEATS);
        if (wanted > 0 || detail == Detail.REQUIRED) {
            return depth > DEEPEST ? 0 : wanted;
        }
        boolean endless = depth > 12 || height(particle, new HashSet<>()) >= NEVER;
        boolean again = particle instanceof Particle.OfElement e
                && open.contains(e.element().type());
        boolean nested = particle instanceof Particle.OfGroup g && leadsBack(g);
        return endless || again || nested || particle instanceof Particle.OfAny ? 0 : 1;
    }

    private boolean leadsBack(Particle.OfGroup group) {
        return group.parts().stream()
                .filter(p -> !p.occurs().optional())
                .anyMatch(p -> p instanceof Particle.OfElement e
                        && open.contains(e.element().type()));
    }

    /** The branch of a choice that is taken: the first in the contract's order that does not lead deeper than needed. */
    private Optional<Particle> branch(Particle.OfGroup choice) {
        int least = choice.parts().stream()
                .mapToInt(p -> height(p, new HashSet<>()))
                .min()
                .orElse(0);
        return choice.parts().stream()
                .filter(p -> p.occurs().max() != 0)
                .filter(p -> {
                    int h = height(p, new HashSet<>());
                    boolean back = p instanceof Particle.OfElement e
                            && open.contains(e.element().type());
                    return h == least || (h < NEVER && !back && open.size() < 8);
                })
                .findFirst()
                .map(p -> p.occurs().optional() ? once(p) : p);
    }

    private static Particle once(Particle p) {
        Occurs once = new Occurs(1, p.occurs().max());
        if (p instanceof Particle.OfElement e) {
            return new Particle.OfElement(e.element(), once);
        }
        return p instanceof Particle.OfGroup g ? new Particle.OfGroup(g.compositor(), g.parts(), once) : p;
    }

    /** The least depth of a finite instance; {@link #NEVER} when there is none without coming back to an open type. */
    private int height(TypeDef type, Set<TypeDef> visiting) {
        Integer known = heights.get(type);
        if (known != null) {
            return known;
        }
        if (!visiting.add(type)) {
            return NEVER;
        }
        int height = type.particle().map(p -> height(p, visiting)).orElse(0) + 1;
        visiting.remove(type);
        if (height < NEVER || visiting.isEmpty()) {
            heights.put(type, Math.min(height, NEVER));
        }
        return Math.min(height, NEVER);
    }

    private int height(Particle particle, Set<TypeDef> visiting) {
        if (particle.occurs().optional()) {
            return 0;
        }
        if (particle instanceof Particle.OfElement e) {
            if (e.element().isAbstract()) {
                return e.element().substitutes().stream()
                        .mapToInt(s -> height(s.type(), visiting))
                        .min()
                        .orElse(0);
            }
            return height(e.element().type(), visiting);
        }
        if (particle instanceof Particle.OfGroup g && !g.parts().isEmpty()) {
            var heightsOfParts = g.parts().stream().mapToInt(p -> height(p, visiting));
            return g.compositor() == Particle.Compositor.CHOICE
                    ? heightsOfParts.min().orElse(0)
                    : heightsOfParts.max().orElse(0);
        }
        return 0;
    }

    private Element create(QName name) {
        String ns = name.getNamespaceURI();
        if (ns.isEmpty()) {
            return document.createElementNS(null, name.getLocalPart());
        }
        return document.createElementNS(ns, prefix(ns) + ":" + name.getLocalPart());
    }

    private String prefix(String namespace) {
        return prefixes.computeIfAbsent(namespace, ns -> {
            String wanted = XSI.equals(ns) ? "xsi" : Prefixes.suggest(ns);
            String free = wanted;
            for (int i = 2; prefixes.containsValue(free); i++) {
                free = wanted + i;
            }
            return free;
        });
    }

    /** Builds just one element for insertion under {@code parent}, with the prefixes that are in scope there. */
    public Element buildFor(ElementDecl declared, Element parent) {
        for (org.w3c.dom.Node n = parent; n instanceof Element e; n = n.getParentNode()) {
            var attributes = e.getAttributes();
            for (int i = 0; i < attributes.getLength(); i++) {
                org.w3c.dom.Node a = attributes.item(i);
                if (XMLNS.equals(a.getNamespaceURI()) && a.getNodeName().startsWith("xmlns:")) {
                    prefixes.putIfAbsent(a.getNodeValue(), a.getLocalName());
                }
            }
        }
        Map<String, String> known = Map.copyOf(prefixes);
        Element element = element(declared, 1);
        prefixes.forEach((ns, prefix) -> {
            if (!known.containsKey(ns)) {
                element.setAttributeNS(XMLNS, "xmlns:" + prefix, ns);
            }
        });
        return (Element) parent.getOwnerDocument().importNode(element, true);
    }
}
