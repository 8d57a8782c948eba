package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Finds wildcards that must be filled by a declared element while nothing is declared that may stand there. Types that were
 * walked through once are not walked through again, so that a whole contract costs one walk.
 */
public final class UnfilledWildcards {
    private final Schemas schemas;
    private final Set<TypeDef> seen = Collections.newSetFromMap(new IdentityHashMap<>());

    public UnfilledWildcards(Schemas schemas) {
        this.schemas = schemas;
    }

    /**
     * A wildcard without a declared element for it.
     *
     * @param within the element that requires it
     * @param namespaces in words
     */
    public record Unfilled(String within, String namespaces, Optional<Place> place) {}

    /** Those that an instance of the element cannot do without, beyond what was found before. */
    public List<Unfilled> in(ElementDecl root) {
        List<Unfilled> found = new ArrayList<>();
        Deque<ElementDecl> open = new ArrayDeque<>(List.of(root));
        while (!open.isEmpty()) {
            ElementDecl element = open.pop();
            if (element.isAbstract()) {
                element.substitutes().forEach(open::push);
            } else if (seen.add(element.type())) {
                element.type().particle().ifPresent(p -> walk(p, element, open, found));
            }
        }
        return found;
    }

    private void walk(Particle particle, ElementDecl within, Deque<ElementDecl> open, List<Unfilled> found) {
        if (particle.occurs().optional()) {
            return;
        }
        if (particle instanceof Particle.OfElement e) {
            open.push(e.element());
        } else if (particle instanceof Particle.OfAny any) {
            boolean strict = any.processing() == Particle.Processing.STRICT;
            if (strict && schemas.elementsFor(any).isEmpty()) {
                Optional<Place> place = within.place().or(() -> within.type().place());
                found.add(new Unfilled(within.name().toString(), any.namespaces(), place));
            }
        } else if (particle instanceof Particle.OfGroup g
                && (g.compositor() != Particle.Compositor.CHOICE || g.parts().size() == 1)) {
            g.parts().forEach(p -> walk(p, within, open, found));
        }
    }
}
