package dev.mockbell.project;

/**
 * A part of a project that became another.
 *
 * @param part as it is now; as it was, when it is gone
 * @param gone whether it is not there any more
 */
public record ChangedPart(Part part, boolean gone) {}
