package dev.mockbell.schema;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/**
 * How many elements the smallest instance of a type has: the least fixed point over all types that it needs, so that
 * recursion costs no more than a walk over them. Safe for many threads.
 */
final class SmallestSizes {
    static final long ENDLESS = Long.MAX_VALUE / 4;

    /** What a nil costs, so that it is chosen only where the content would have no end. */
    static final long NIL = 1_000;

    private final Function<Particle.OfAny, List<ElementDecl>> declared;
    private final Map<TypeDef, Long> known = new IdentityHashMap<>();
    private final Map<TypeDef, Boolean> valueless = new IdentityHashMap<>();

    /** @param declared the elements that are declared and may stand for a wildcard */
    SmallestSizes(Function<Particle.OfAny, List<ElementDecl>> declared) {
        this.declared = declared;
    }

    synchronized long of(TypeDef type) {
        if (type instanceof ImpliedType implied) {
            return implied.particle().map(this::of).orElse(0L);
        }
        Long found = known.get(type);
        return found == null ? explore(type) : found;
    }

    synchronized long of(ElementDecl element) {
        return size(element);
    }

    synchronized long of(Particle particle) {
        return size(particle);
    }

    private long explore(TypeDef root) {
        List<TypeDef> reached = new ArrayList<>();
        Set<TypeDef> seen = Collections.newSetFromMap(new IdentityHashMap<>());
        Deque<TypeDef> open = new ArrayDeque<>(List.of(root));
        while (!open.isEmpty()) {
            TypeDef type = open.pop();
            if (!known.containsKey(type) && seen.add(type)) {
                reached.add(type);
                if (type.isAbstract()) {
                    open.addAll(type.derived());
                } else {
                    type.particle().ifPresent(p -> collect(p, open));
                }
            }
        }
        reached.forEach(t -> known.put(t, ENDLESS));
        Collections.reverse(reached);
        boolean changed = true;
        while (changed) {
            changed = false;
            for (TypeDef type : reached) {
                long size = size(type);
                if (size != known.get(type)) {
                    known.put(type, size);
                    changed = true;
                }
            }
        }
        return known.get(root);
    }

    private void collect(Particle particle, Deque<TypeDef> into) {
        if (particle.occurs().optional()) {
            return;
        }
        if (particle instanceof Particle.OfElement e) {
            collect(e.element(), into);
        } else if (particle instanceof Particle.OfGroup g) {
            for (Particle part : g.parts()) {
                collect(part, into);
            }
        } else if (particle instanceof Particle.OfAny any) {
            declaredFor(any).forEach(e -> collect(e, into));
        }
    }

    private void collect(ElementDecl element, Deque<TypeDef> into) {
        if (element.isAbstract()) {
            element.substitutes().forEach(s -> collect(s.type(), into));
        } else {
            collect(element.type(), into);
        }
    }

    private void collect(TypeDef type, Deque<TypeDef> into) {
        if (type instanceof ImpliedType implied) {
            implied.particle().ifPresent(p -> collect(p, into));
        } else {
            into.push(type);
        }
    }

    private long size(TypeDef type) {
        if (type instanceof ImpliedType implied) {
            return implied.particle().map(this::size).orElse(0L);
        }
        if (type.isAbstract()) {
            return type.derived().stream().mapToLong(this::of).min().orElse(ENDLESS);
        }
        if (isValueless(type) || lacksAttribute(type)) {
            return ENDLESS;
        }
        return type.particle().map(this::size).orElse(0L);
    }

    /** Whether its text can have no value that a message may hold. */
    private boolean isValueless(TypeDef type) {
        return type.content() == TypeDef.Content.TEXT
                && valueless.computeIfAbsent(
                        type, t -> t.simple().isPresent() && !t.simple().get().hasValue());
    }

    /** Whether it requires an attribute that can have no value; a nil needs its attributes too. */
    private static boolean lacksAttribute(TypeDef type) {
        for (AttributeDecl attribute : type.attributes()) {
            if (attribute.required() && !hasValue(attribute)) {
                return true;
            }
        }
        return false;
    }

    /** Whether an attribute can have a value in a message. */
    static boolean hasValue(AttributeDecl attribute) {
        return attribute.type().simple().map(SimpleType::hasValue).orElse(true);
    }

    private long size(ElementDecl element) {
        if (element.isAbstract()) {
            return element.substitutes().stream()
                    .mapToLong(this::sizeOfOne)
                    .min()
                    .orElse(ENDLESS);
        }
        return sizeOfOne(element);
    }

    private long sizeOfOne(ElementDecl element) {
        TypeDef type = element.type();
        long inside = type.isAbstract() ? ENDLESS : of(type);
        if (type.isAbstract()) {
            inside = element.alternatives().stream().mapToLong(this::of).min().orElse(ENDLESS);
        }
        boolean nil = element.nillable() && !lacksAttribute(type);
        return 1 + (nil ? Math.min(inside, NIL) : Math.min(inside, ENDLESS - 1));
    }

    private long size(Particle particle) {
        if (particle.occurs().optional()) {
            return 0;
        }
        long one = 1;
        if (particle instanceof Particle.OfElement e) {
            one = size(e.element());
        } else if (particle instanceof Particle.OfGroup g) {
            one = group(g);
        } else if (particle instanceof Particle.OfAny any) {
            one = wildcard(any);
        }
        return one >= ENDLESS / particle.occurs().min()
                ? ENDLESS
                : one * particle.occurs().min();
    }

    /** Where nothing is declared, an element that names its own type will do (XML Schema part 1 §3.10.4). */
    private long wildcard(Particle.OfAny any) {
        long least = ENDLESS;
        List<ElementDecl> candidates = declaredFor(any);
        for (ElementDecl candidate : candidates) {
            least = Math.min(least, size(candidate));
        }
        return candidates.isEmpty() ? 1 : least;
    }

    /** What a wildcard must be filled by; empty where it may be filled by anything. */
    private List<ElementDecl> declaredFor(Particle.OfAny any) {
        return any.processing() == Particle.Processing.STRICT ? declared.apply(any) : List.of();
    }

    /** With loops, as streams would need many more frames of the stack for each level of nesting. */
    private long group(Particle.OfGroup group) {
        boolean choice = group.compositor() == Particle.Compositor.CHOICE;
        long total = choice && !group.parts().isEmpty() ? ENDLESS : 0;
        for (Particle part : group.parts()) {
            long size = size(part);
            total = choice ? Math.min(total, size) : Math.min(ENDLESS, total + size);
        }
        return total;
    }
}
