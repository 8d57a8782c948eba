package dev.mockbell.ledger;

/**
 * What a list of exchanges comes to.
 *
 * @param failed those that are not fine: faults and failures
 * @param p50 the time in nanoseconds that half of them kept within
 * @param p95 the time in nanoseconds that 95 in 100 kept within
 * @param bytes of all bodies, both ways
 */
public record Figures(long count, long failed, long p50, long p95, long bytes) {
    public static final Figures NONE = new Figures(0, 0, 0, 0, 0);
}
