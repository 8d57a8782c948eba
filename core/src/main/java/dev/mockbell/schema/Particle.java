package dev.mockbell.schema;

import java.util.List;

/** A piece of a content model (XML Schema part 1 §3.9). */
public sealed interface Particle {
    Occurs occurs();

    /** An element. */
    record OfElement(ElementDecl element, Occurs occurs) implements Particle {}

    /** Several particles in order, or one of them, or all in any order. */
    record OfGroup(Compositor compositor, List<Particle> parts, Occurs occurs) implements Particle {}

    /**
     * Any element of certain namespaces.
     *
     * @param namespaces in words: "any", "any but urn:x", "urn:x, urn:y"
     * @param strict whether the element must be declared
     */
    record OfAny(String namespaces, boolean strict, Occurs occurs) implements Particle {}

    /** How a group is read. */
    enum Compositor {
        SEQUENCE,
        CHOICE,
        ALL
    }
}
