package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Questions about a piece of a content model. */
final class SheetShape {
    private SheetShape() {}

    /** Whether an instance of the particle can begin with that element. */
    static boolean starts(Particle particle, Element element) {
        if (particle instanceof Particle.OfElement e) {
            return ElementMatch.matches(e.element(), element);
        }
        if (particle instanceof Particle.OfGroup g) {
            for (Particle part : g.parts()) {
                if (starts(part, element)) {
                    return true;
                }
                boolean mustStandFirst = g.compositor() == Particle.Compositor.SEQUENCE && !canBeEmpty(part);
                if (mustStandFirst) {
                    return false;
                }
            }
            return false;
        }
        return ((Particle.OfAny) particle).allows(element.getNamespaceURI() == null ? "" : element.getNamespaceURI());
    }

    /** Whether the particle has a place for that element, be it only behind others. */
    static boolean has(Particle particle, Element element) {
        return particle instanceof Particle.OfGroup g
                ? g.occurs().max() != 0 && g.parts().stream().anyMatch(p -> has(p, element))
                : starts(particle, element);
    }

    static boolean canBeEmpty(Particle particle) {
        if (particle.occurs().optional()) {
            return true;
        }
        if (particle instanceof Particle.OfGroup g) {
            return g.compositor() == Particle.Compositor.CHOICE
                    ? g.parts().stream().anyMatch(SheetShape::canBeEmpty)
                    : g.parts().stream().allMatch(SheetShape::canBeEmpty);
        }
        return false;
    }

    /**
     * What a content model has places for.
     *
     * @param names the elements that it names
     * @param wildcards what it leaves open
     */
    record Places(Set<QName> names, List<Particle.OfAny> wildcards) {
        boolean has(Element element) {
            String ns = element.getNamespaceURI() == null ? "" : element.getNamespaceURI();
            return names.contains(new QName(ns, element.getLocalName()))
                    || wildcards.stream().anyMatch(w -> w.allows(ns));
        }
    }

    static Places places(Particle particle) {
        Places found = new Places(new HashSet<>(), new ArrayList<>());
        collect(particle, found);
        return found;
    }

    private static void collect(Particle particle, Places into) {
        if (particle instanceof Particle.OfElement e) {
            into.names.add(e.element().name());
            e.element().substitutes().forEach(s -> into.names.add(s.name()));
        } else if (particle instanceof Particle.OfGroup g) {
            g.parts().forEach(p -> collect(p, into));
        } else if (particle instanceof Particle.OfAny any) {
            into.wildcards.add(any);
        }
    }

    /** In a few words: the names in it. */
    static String title(Particle particle) {
        if (particle instanceof Particle.OfElement e) {
            return e.element().name().getLocalPart();
        }
        if (particle instanceof Particle.OfGroup g) {
            String joint = g.compositor() == Particle.Compositor.CHOICE ? " or " : " + ";
            return String.join(joint, g.parts().stream().map(SheetShape::title).toList());
        }
        return "any element";
    }

    /** The elements that a freshly taken branch starts with. */
    static List<ElementDecl> firstInstance(Particle branch) {
        if (branch instanceof Particle.OfElement e) {
            return List.of(e.element());
        }
        if (branch instanceof Particle.OfGroup g) {
            List<ElementDecl> found = new ArrayList<>();
            for (Particle part : g.parts()) {
                if (!part.occurs().optional()) {
                    found.addAll(firstInstance(part));
                    if (g.compositor() == Particle.Compositor.CHOICE) {
                        break;
                    }
                }
            }
            if (found.isEmpty() && !g.parts().isEmpty()) {
                return firstInstance(g.parts().get(0));
            }
            return found;
        }
        return List.of();
    }
}
