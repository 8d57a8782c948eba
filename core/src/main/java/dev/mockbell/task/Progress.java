package dev.mockbell.task;

/**
 * Hears how far long work has come. Called from the thread that works, so it must return at once; an exception from it
 * ends the work.
 */
@FunctionalInterface
public interface Progress {
    /** Nobody listens. */
    Progress NONE = text -> {};

    /** What is being done now, in a few words: "reading stay-types.xsd". */
    void at(String text);
}
