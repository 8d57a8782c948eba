package dev.mockbell.check;

/**
 * A value of the answer that later steps use.
 *
 * @param name the variable's name, without the dollar sign
 * @param path an XPath over the payload
 */
public record Capture(String name, String path) {}
