package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/** Finds out why an element or a type has no valid instance that is finite and that a message may hold. */
final class NoInstance {
    private final SmallestSizes sizes;
    private final Deque<TypeDef> open = new ArrayDeque<>();

    NoInstance(SmallestSizes sizes) {
        this.sizes = sizes;
    }

    /**
     * Why there is none.
     *
     * @param recursive whether it requires itself
     * @param text a clause without a full stop
     */
    record Cause(boolean recursive, String text, Optional<Place> place) {}

    Optional<Cause> of(ElementDecl element) {
        List<ElementDecl> standing = element.isAbstract() ? element.substitutes() : List.of(element);
        if (standing.isEmpty()) {
            return cause("element " + element.name() + " is abstract and nothing may stand for it", element.place());
        }
        ElementDecl one = standing.get(0);
        TypeDef type = one.type();
        if (type.isAbstract()) {
            List<TypeDef> concrete = one.alternatives();
            return concrete.isEmpty()
                    ? cause(
                            "the type of element " + one.name() + " is abstract and none is derived from it",
                            one.place())
                    : of(concrete.get(0), one.name().toString());
        }
        return of(type, one.name().toString());
    }

    /** @param of whose type it is */
    Optional<Cause> of(TypeDef type, String of) {
        if (type.isAbstract() && type.derived().isEmpty()) {
            return cause("type " + of + " is abstract and none is derived from it", type.place());
        }
        if (open.contains(type)) {
            return Optional.of(new Cause(true, of + " requires itself", type.place()));
        }
        for (AttributeDecl attribute : type.attributes()) {
            if (attribute.required() && !SmallestSizes.hasValue(attribute)) {
                return cause(valueless("attribute " + attribute.name(), attribute.type()), attribute.place());
            }
        }
        if (type.content() == TypeDef.Content.TEXT) {
            return type.simple().isPresent() && !type.simple().get().hasValue()
                    ? cause(valueless(of, type), type.place())
                    : Optional.empty();
        }
        open.push(type);
        Optional<Cause> found = type.particle().flatMap(p -> of(p, of));
        open.pop();
        return found;
    }

    private Optional<Cause> of(Particle particle, String of) {
        if (particle.occurs().optional() || sizes.of(particle) < SmallestSizes.ENDLESS) {
            return Optional.empty();
        }
        if (particle instanceof Particle.OfElement e) {
            return of(e.element());
        }
        if (particle instanceof Particle.OfAny any) {
            return cause(
                    of + " requires an element that a schema declares, of the namespace " + any.namespaces()
                            + ", and every such element leads back to it",
                    Optional.empty());
        }
        return ((Particle.OfGroup) particle)
                .parts().stream().flatMap(p -> of(p, of).stream()).findFirst();
    }

    private static String valueless(String of, TypeDef type) {
        String name = type.simple().map(SimpleType::builtIn).orElse("");
        return "NOTATION".equals(name)
                ? of + " is of the type NOTATION, which has no values but those that a type derived from it lists"
                : of + " names an unparsed entity (" + name
                        + "), which only a document type declaration can declare, and SOAP allows none";
    }

    private static Optional<Cause> cause(String text, Optional<Place> place) {
        return Optional.of(new Cause(false, text, place));
    }
}
