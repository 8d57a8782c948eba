package dev.mockbell.exchange;

/**
 * Where the time of an exchange went, in nanoseconds. A part that did not happen, or that the recorder cannot see, is 0.
 *
 * @param connect until the connection stood, TLS included
 * @param send until the last byte of the request was out
 * @param await until the first byte of the response came
 * @param receive until its last byte came
 */
public record Timing(long connect, long send, long await, long receive) {
    public static final Timing NONE = new Timing(0, 0, 0, 0);

    public long total() {
        return connect + send + await + receive;
    }

    /** The total in milliseconds, rounded. */
    public long totalMillis() {
        return Math.round(total() / 1e6);
    }
}
