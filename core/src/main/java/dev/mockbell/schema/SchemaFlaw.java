package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.Optional;
import java.util.regex.Pattern;
import org.w3c.dom.Element;

/**
 * Something in the schemas that breaks a rule of XML Schema 1.0 or that is dealt with differently here; what does not
 * depend on it still works.
 *
 * @param rule the constraint's name in the recommendation, such as {@code src-resolve}, or a short name of ours
 * @param text what is wrong, in a sentence
 * @param place the line in the original document
 */
public record SchemaFlaw(Weight weight, String rule, String text, Place place) {
    /** The same with the name of the declaration that it is in, unless the text has it. */
    SchemaFlaw in(Optional<Element> declaration) {
        String name = declaration.map(d -> d.getAttribute("name")).orElse("");
        if (name.isEmpty() || text.matches("(?s).*\\b" + Pattern.quote(name) + "\\b.*")) {
            return this;
        }
        String kind = "element".equals(declaration.get().getLocalName()) ? "element" : "type";
        return new SchemaFlaw(weight, rule, text + ", in the " + kind + " " + name, place);
    }

    SchemaFlaw as(Weight other) {
        return new SchemaFlaw(other, rule, text, place);
    }

    /** How much it matters. */
    public enum Weight {
        /** What depends on it is a guess. */
        ERROR,
        /** A type that breaks a rule and is taken by the particles that it declares. */
        EASED,
        /** Nothing is wrong, and yet samples have less than the contract asks for. */
        CUT,
        /** All can be used here; another program may refuse it. */
        WARNING,
        /** Nothing is wrong; it is said for who wonders. */
        NOTE
    }
}
