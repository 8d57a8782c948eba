package dev.mockbell.schema;

import dev.mockbell.xml.Place;

/**
 * Something in the schemas that breaks a rule of XML Schema 1.0; what does not depend on it still works.
 *
 * @param rule the constraint's name in the recommendation, such as {@code src-resolve}
 * @param text what is wrong, in a sentence
 * @param place the line in the original document
 */
public record SchemaFlaw(String rule, String text, Place place) {}
