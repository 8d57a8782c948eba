package dev.mockbell.mock;

/**
 * A value within a message that is replaced.
 *
 * @param path an XPath that leads to elements or attributes of the payload; all that it leads to get the value
 * @param value what they hold then, with expressions in braces
 */
public record ValueChange(String path, String value) {}
