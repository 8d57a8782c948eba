package dev.mockbell.mock;

/**
 * A value that a running mock remembers, for people.
 *
 * @param caller whose it is; empty for all
 * @param key what it is kept under; empty for the single value of its name
 * @param text of it
 */
public record RememberedValue(String name, String caller, String key, String text) {}
