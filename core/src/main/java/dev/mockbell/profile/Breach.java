package dev.mockbell.profile;

import dev.mockbell.xml.Place;

/**
 * A breach of the profile.
 *
 * @param rule the requirement's number, such as {@code R2303}
 * @param must whether the profile says MUST; SHOULD otherwise
 * @param text what was found, a sentence without full stop
 * @param advice what to do about it, a sentence
 */
public record Breach(String rule, boolean must, String text, String advice, Place place) {}
