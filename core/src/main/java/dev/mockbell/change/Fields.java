package dev.mockbell.change;

import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Particle.Compositor;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;

/** The elements that may stand in a type, each with how often it may at least and at most, by name, in the order of the schema. */
final class Fields {
    /** An element with how often it may stand. */
    record Field(ElementDecl element, Occurs occurs) {}

    private Fields() {}

    static Map<QName, Field> of(Optional<Particle> particle) {
        return particle.map(Fields::of).orElseGet(Map::of);
    }

    private static Map<QName, Field> of(Particle particle) {
        Map<QName, Field> found = new LinkedHashMap<>();
        if (particle instanceof Particle.OfElement e) {
            found.put(e.element().name(), new Field(e.element(), Occurs.ONCE));
        } else if (particle instanceof Particle.OfGroup group) {
            boolean choice = group.compositor() == Compositor.CHOICE;
            boolean first = true;
            for (Particle part : group.parts()) {
                Map<QName, Field> inner = of(part);
                if (choice) {
                    either(found, inner, first);
                } else {
                    inner.forEach((name, field) -> found.merge(name, field, Fields::both));
                }
                first = false;
            }
        }
        Occurs times = particle.occurs();
        found.replaceAll((name, f) -> new Field(f.element, times(f.occurs, times)));
        return found;
    }

    private static void either(Map<QName, Field> found, Map<QName, Field> other, boolean first) {
        if (!first) {
            found.replaceAll((name, f) -> other.containsKey(name) ? f : mayBeLeftOut(f));
        }
        other.forEach((name, f) -> found.merge(name, first ? f : mayBeLeftOut(f), (was, now) -> {
            int min = Math.min(was.occurs.min(), f.occurs.min());
            return new Field(was.element, new Occurs(min, most(was.occurs.max(), f.occurs.max())));
        }));
    }

    private static Field mayBeLeftOut(Field field) {
        return new Field(field.element, new Occurs(0, field.occurs.max()));
    }

    private static Field both(Field one, Field other) {
        boolean open = one.occurs.max() == Occurs.UNBOUNDED || other.occurs.max() == Occurs.UNBOUNDED;
        int max = open ? Occurs.UNBOUNDED : one.occurs.max() + other.occurs.max();
        return new Field(one.element, new Occurs(one.occurs.min() + other.occurs.min(), max));
    }

    private static int most(int one, int other) {
        return one == Occurs.UNBOUNDED || other == Occurs.UNBOUNDED ? Occurs.UNBOUNDED : Math.max(one, other);
    }

    private static Occurs times(Occurs each, Occurs group) {
        boolean open = each.max() == Occurs.UNBOUNDED || group.max() == Occurs.UNBOUNDED;
        boolean none = each.max() == 0 || group.max() == 0;
        long max = none ? 0 : open ? Occurs.UNBOUNDED : (long) each.max() * group.max();
        return new Occurs((int) Math.min(Integer.MAX_VALUE, (long) each.min() * group.min()), (int)
                Math.min(Integer.MAX_VALUE, max));
    }
}
