package dev.mockbell.change;

import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Particle.OfAny;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;

/**
 * Which elements may follow each other in a type, as a regular expression over their names that is taken apart by its
 * derivatives: what may come after a name has come. Counted repeats stay counted, so 500 times is one node.
 */
sealed interface ContentModel {
    /** Whether nothing more need come. */
    boolean endsHere();

    /** What may come after that name; empty when the name cannot come. */
    Optional<ContentModel> after(QName name);

    /** The names that are said. */
    void names(Set<QName> into);

    /** Nothing more. */
    ContentModel END = new Sequence(List.of());

    /** That of a content model; names go by another where {@code known} says so. */
    static ContentModel of(Optional<Particle> particle, UnaryOperator<QName> known) {
        return particle.map(p -> of(p, known)).orElse(END);
    }

    private static ContentModel of(Particle particle, UnaryOperator<QName> known) {
        ContentModel one = once(particle, known);
        return repeat(one, particle.occurs().min(), particle.occurs().max());
    }

    private static ContentModel once(Particle particle, UnaryOperator<QName> known) {
        if (particle instanceof Particle.OfElement e) {
            return element(e.element(), known);
        }
        if (particle instanceof OfAny any) {
            return new Wildcard(any);
        }
        Particle.OfGroup group = (Particle.OfGroup) particle;
        List<ContentModel> parts = group.parts().stream().map(p -> of(p, known)).toList();
        return switch (group.compositor()) {
            case SEQUENCE -> sequence(parts);
            case CHOICE -> choice(parts);
            case ALL -> new All(parts);
        };
    }

    private static ContentModel element(ElementDecl element, UnaryOperator<QName> known) {
        Set<QName> names = new LinkedHashSet<>();
        if (!element.isAbstract()) {
            names.add(known.apply(element.name()));
        }
        element.substitutes().forEach(s -> names.add(known.apply(s.name())));
        if (names.isEmpty()) {
            names.add(known.apply(element.name()));
        }
        return new Names(names);
    }

    private static ContentModel sequence(List<ContentModel> parts) {
        List<ContentModel> flat = new ArrayList<>();
        for (ContentModel part : parts) {
            if (part instanceof Sequence s) {
                flat.addAll(s.parts);
            } else {
                flat.add(part);
            }
        }
        return flat.size() == 1 ? flat.get(0) : new Sequence(flat);
    }

    private static ContentModel choice(List<ContentModel> parts) {
        Set<ContentModel> distinct = new LinkedHashSet<>();
        for (ContentModel part : parts) {
            if (part instanceof Choice c) {
                distinct.addAll(c.parts);
            } else {
                distinct.add(part);
            }
        }
        return distinct.size() == 1 ? distinct.iterator().next() : new Choice(distinct);
    }

    private static ContentModel repeat(ContentModel of, int min, int max) {
        if (max == 0 || of.equals(END)) {
            return END;
        }
        // what may be nothing may be so any number of times
        int least = of.endsHere() ? 0 : min;
        return min == 1 && max == 1 ? of : new Repeat(of, least, max);
    }

    /** An element, or one that stands for it. */
    record Names(Set<QName> names) implements ContentModel {
        @Override
        public boolean endsHere() {
            return false;
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            return names.contains(name) ? Optional.of(END) : Optional.empty();
        }

        @Override
        public void names(Set<QName> into) {
            into.addAll(names);
        }

        @Override
        public String toString() {
            return names.iterator().next().getLocalPart();
        }
    }

    /** Any element of some namespaces. */
    record Wildcard(OfAny any) implements ContentModel {
        @Override
        public boolean endsHere() {
            return false;
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            return any.allows(name.getNamespaceURI()) ? Optional.of(END) : Optional.empty();
        }

        @Override
        public void names(Set<QName> into) {
            // a name of each namespace that it says, and of none of them, stands for all others
            any.names().forEach(n -> into.add(new QName(n, "\u0000any")));
        }

        @Override
        public String toString() {
            return "any of " + any.namespaces();
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Wildcard w
                    && w.any.except() == any.except()
                    && Set.copyOf(w.any.names()).equals(Set.copyOf(any.names()));
        }

        @Override
        public int hashCode() {
            return Objects.hash(any.except(), Set.copyOf(any.names()));
        }
    }

    /** One after the other. */
    record Sequence(List<ContentModel> parts) implements ContentModel {
        @Override
        public boolean endsHere() {
            return parts.stream().allMatch(ContentModel::endsHere);
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            List<ContentModel> ways = new ArrayList<>();
            for (int i = 0; i < parts.size(); i++) {
                List<ContentModel> rest = parts.subList(i + 1, parts.size());
                parts.get(i).after(name).ifPresent(now -> {
                    List<ContentModel> left = new ArrayList<>();
                    left.add(now);
                    left.addAll(rest);
                    ways.add(sequence(left));
                });
                if (!parts.get(i).endsHere()) {
                    break;
                }
            }
            return ways.isEmpty() ? Optional.empty() : Optional.of(choice(ways));
        }

        @Override
        public void names(Set<QName> into) {
            parts.forEach(p -> p.names(into));
        }

        @Override
        public String toString() {
            return parts.isEmpty()
                    ? "nothing"
                    : parts.stream().map(Object::toString).collect(Collectors.joining(", "));
        }
    }

    /** One of several. */
    record Choice(Set<ContentModel> parts) implements ContentModel {
        @Override
        public boolean endsHere() {
            return parts.stream().anyMatch(ContentModel::endsHere);
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            List<ContentModel> ways =
                    parts.stream().flatMap(p -> p.after(name).stream()).toList();
            return ways.isEmpty() ? Optional.empty() : Optional.of(choice(ways));
        }

        @Override
        public void names(Set<QName> into) {
            parts.forEach(p -> p.names(into));
        }

        @Override
        public String toString() {
            return parts.stream().map(Object::toString).collect(Collectors.joining(" or ", "(", ")"));
        }
    }

    /** Each in whatever order (XML Schema part 1 §3.8.1, all). */
    record All(List<ContentModel> parts) implements ContentModel {
        @Override
        public boolean endsHere() {
            return parts.stream().allMatch(ContentModel::endsHere);
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            for (int i = 0; i < parts.size(); i++) {
                if (parts.get(i).after(name).isPresent()) {
                    List<ContentModel> left = new ArrayList<>(parts);
                    // a part of an all group stands once at most
                    left.remove(i);
                    return Optional.of(left.isEmpty() ? END : new All(left));
                }
            }
            return Optional.empty();
        }

        @Override
        public void names(Set<QName> into) {
            parts.forEach(p -> p.names(into));
        }

        @Override
        public String toString() {
            return parts.stream().map(Object::toString).collect(Collectors.joining(", ", "in any order ", ""));
        }
    }

    /** Several times. */
    record Repeat(ContentModel of, int min, int max) implements ContentModel {
        @Override
        public boolean endsHere() {
            return min == 0;
        }

        @Override
        public Optional<ContentModel> after(QName name) {
            int less = max == Occurs.UNBOUNDED ? max : max - 1;
            return of.after(name).map(now -> {
                ContentModel more = repeat(of, Math.max(0, min - 1), less);
                return more.equals(END) ? now : sequence(List.of(now, more));
            });
        }

        @Override
        public void names(Set<QName> into) {
            of.names(into);
        }

        @Override
        public String toString() {
            String one = of instanceof Sequence ? "(" + of + ")" : of.toString();
            return one + " " + new Occurs(min, max);
        }
    }
}
