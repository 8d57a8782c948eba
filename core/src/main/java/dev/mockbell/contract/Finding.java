package dev.mockbell.contract;

import dev.mockbell.xml.Place;

/**
 * Something about a contract that its users should know. A finding never stops the rest from being used.
 *
 * @param rule a short stable name, or the number in a profile
 * @param text what was found, a sentence
 * @param advice what to do about it, a sentence; may be empty
 */
public record Finding(Severity severity, String rule, String text, String advice, Place place) {
    /** How much it matters. */
    public enum Severity {
        /** A part of the contract cannot be used. */
        ERROR,
        /** It works here but may not elsewhere. */
        WARNING,
        /** Good to know. */
        NOTE
    }
}
