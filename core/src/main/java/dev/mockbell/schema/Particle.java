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
     * Any element of certain namespaces (XML Schema part 1 §3.10).
     *
     * @param except whether the namespaces are those that are not allowed
     * @param names the namespaces, the empty text for none; with {@code except} and no name, any will do
     * @param processing whether the element must be declared
     */
    record OfAny(boolean except, List<String> names, Processing processing, Occurs occurs) implements Particle {
        /** Whether an element of that namespace may stand. */
        public boolean allows(String namespace) {
            return names.contains(namespace) != except;
        }

        /** In words: "any", "any but urn:x", "urn:x, urn:y". */
        public String namespaces() {
            String joined = String.join(
                    ", ", names.stream().map(n -> n.isEmpty() ? "none" : n).toList());
            return except ? names.isEmpty() ? "any" : "any but " + joined : joined;
        }
    }

    /** How an element that stands for a wildcard is validated. */
    enum Processing {
        /** It must be declared and valid. */
        STRICT,
        /** It must be valid when it is declared. */
        LAX,
        /** It may be anything. */
        SKIP
    }

    /** How a group is read. */
    enum Compositor {
        SEQUENCE,
        CHOICE,
        ALL
    }
}
