package dev.mockbell.suite;

/**
 * A step of a suite: a case that is called.
 *
 * @param caseReference the case's full name, as of {@link Case#reference()}
 */
public record Step(String name, String caseReference) {}
