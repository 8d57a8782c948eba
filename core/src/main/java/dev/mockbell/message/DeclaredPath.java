package dev.mockbell.message;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.TypeDef;
import java.util.ArrayDeque;
import java.util.Collections;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.Optional;
import java.util.Set;

/** Finds where the contract has a name, when only the name is given. */
public final class DeclaredPath {
    private record Found(ElementDecl element, String path) {}

    private final Set<TypeDef> seen = Collections.newSetFromMap(new IdentityHashMap<>());
    private final Deque<Found> open = new ArrayDeque<>();

    private DeclaredPath() {}

    /**
     * The shortest path from the root to an element or attribute of that name, the first in the contract's order.
     *
     * @param name a local name; an attribute's starts with {@code @}
     * @return such as {@code /ReserveBunks/party/guest}
     */
    public static Optional<String> to(ElementDecl root, String name) {
        DeclaredPath search = new DeclaredPath();
        search.open.add(new Found(root, "/" + root.name().getLocalPart()));
        return search.run(name);
    }

    private Optional<String> run(String name) {
        while (!open.isEmpty()) {
            Found at = open.poll();
            if (at.element().name().getLocalPart().equals(name)) {
                return Optional.of(at.path());
            }
            TypeDef type = at.element().type();
            for (AttributeDecl attribute : type.attributes()) {
                if (name.equals("@" + attribute.name().getLocalPart())) {
                    return Optional.of(at.path() + "/" + name);
                }
            }
            if (seen.add(type)) {
                type.particle().ifPresent(p -> walk(p, at.path()));
            }
        }
        return Optional.empty();
    }

    private void walk(Particle particle, String path) {
        if (particle instanceof Particle.OfElement e) {
            add(e.element(), path);
            e.element().substitutes().forEach(s -> add(s, path));
        } else if (particle instanceof Particle.OfGroup g) {
            g.parts().forEach(p -> walk(p, path));
        }
    }

    private void add(ElementDecl element, String path) {
        open.add(new Found(element, path + "/" + element.name().getLocalPart()));
    }
}
