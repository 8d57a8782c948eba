package dev.mockbell.wire;

/**
 * How a request is put on its connection.
 *
 * @param chunked whether the body goes in chunks (RFC 9112 §7.1) in place of with its length
 * @param expectsContinue whether the head goes first, and the body once the server wants it (RFC 9110 §10.1.1)
 */
public record Framing(boolean chunked, boolean expectsContinue) {
    /** With its length, all at once. */
    public static final Framing USUAL = new Framing(false, false);
}
