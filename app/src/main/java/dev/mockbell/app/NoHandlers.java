package dev.mockbell.app;

/**
 * Settings of {@code java.util.logging} that have no handlers: made by its manager, if a library ever uses it, in place of
 * reading the usual ones, which write to the terminal.
 *
 * @see java.util.logging.LogManager#readConfiguration()
 */
public final class NoHandlers {
    /** Called by name. Sets nothing. */
    public NoHandlers() {}
}
