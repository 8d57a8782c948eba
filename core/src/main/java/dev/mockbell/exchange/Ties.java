package dev.mockbell.exchange;

/**
 * Whom an exchange has to do with.
 *
 * @param caller the address that asked, for what was answered or passed through; empty for what we called
 * @param of what it belongs to: {@code case ID}, {@code suite NAME MILLIS STEP}, {@code load NAME}; empty for nothing
 */
public record Ties(String caller, String of) {
    public static final Ties NONE = new Ties("", "");

    /** Of what was asked by somebody at that address. */
    public static Ties from(String caller) {
        return new Ties(caller, "");
    }
}
