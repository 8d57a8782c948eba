package dev.mockbell.exchange;

/**
 * Where the time of an exchange went, in nanoseconds. A part that did not happen, or that the recorder cannot see, is 0; on a
 * connection that was kept from a call before, the first three are.
 *
 * @param name until the address of the server's name was known
 * @param connect from then until the connection stood, the way through a proxy included; TLS as well where it is not told apart
 * @param tls from then until TLS was agreed on
 * @param send until the last byte of the request was out
 * @param await until the first byte of the response came
 * @param receive until its last byte came
 */
public record Timing(long name, long connect, long tls, long send, long await, long receive) {
    public static final Timing NONE = new Timing(0, 0, 0, 0);

    /** Of a recorder that sees no more. */
    public Timing(long connect, long send, long await, long receive) {
        this(0, connect, 0, send, await, receive);
    }

    public long total() {
        return name + connect + tls + send + await + receive;
    }

    /** The total in milliseconds, rounded. */
    public long totalMillis() {
        return Math.round(total() / 1e6);
    }
}
