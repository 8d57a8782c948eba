package dev.mockbell.ledger;

import java.time.Duration;
import java.util.Optional;

/**
 * How much a ledger keeps. What is pinned, or referred to, stays whatever this says.
 *
 * @param count so many of the newest
 * @param bytes so large a file, about
 * @param age no longer than this; empty for any age
 */
public record Retention(long count, long bytes, Optional<Duration> age) {
    public static final Retention USUAL = new Retention(1_000_000, 8L << 30, Optional.empty());
}
