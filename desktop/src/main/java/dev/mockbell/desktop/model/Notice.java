package dev.mockbell.desktop.model;

import java.util.Optional;

/**
 * Something to tell the user, with what can be done about it.
 *
 * @param bad whether something failed
 * @param action the words on the button and what it does
 */
public record Notice(String text, boolean bad, Optional<Action> action) {
    /** A way out. */
    public record Action(String words, Runnable run) {}

    public static Notice plain(String text) {
        return new Notice(text, false, Optional.empty());
    }

    public static Notice good(String text) {
        return new Notice(text, false, Optional.empty());
    }

    public static Notice bad(String text) {
        return new Notice(text, true, Optional.empty());
    }

    public static Notice bad(String text, String words, Runnable run) {
        return new Notice(text, true, Optional.of(new Action(words, run)));
    }
}
