package dev.mockbell.xml;

/**
 * Something outside of a document that it refers to and that is not read (XML 1.0 §4.4.3 lets a reader that does not validate
 * leave it out).
 *
 * @param name of the entity; {@code [dtd]} for an external document type
 * @param place where it is referred to
 */
public record Skipped(String name, Place place) {}
