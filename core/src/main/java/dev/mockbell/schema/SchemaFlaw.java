package dev.mockbell.schema;

import dev.mockbell.xml.Place;

/**
 * Something in the schemas that breaks a rule of XML Schema 1.0 or that is dealt with differently here; what does not
 * depend on it still works.
 *
 * @param rule the constraint's name in the recommendation, such as {@code src-resolve}, or a short name of ours
 * @param text what is wrong, in a sentence
 * @param place the line in the original document
 */
public record SchemaFlaw(Weight weight, String rule, String text, Place place) {
    SchemaFlaw as(Weight other) {
        return new SchemaFlaw(other, rule, text, place);
    }

    /** How much it matters. */
    public enum Weight {
        /** What depends on it is a guess. */
        ERROR,
        /** A type that breaks a rule and is taken by the particles that it declares. */
        EASED,
        /** All can be used here; another program may refuse it. */
        WARNING
    }
}
