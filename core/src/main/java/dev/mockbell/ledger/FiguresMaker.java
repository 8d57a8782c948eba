package dev.mockbell.ledger;

import org.HdrHistogram.Histogram;

/** Adds lines up. Times are told at three digits, up to a day. */
final class FiguresMaker {
    private static final long LONGEST = 86_400_000_000L;

    private final Histogram micros = new Histogram(LONGEST, 3);
    private long count;
    private long failed;
    private long bytes;

    void add(boolean fine, long nanos, long size) {
        count++;
        failed += fine ? 0 : 1;
        bytes += size;
        micros.recordValue(Math.max(0, Math.min(LONGEST, nanos / 1_000)));
    }

    Figures figures() {
        return new Figures(
                count, failed, micros.getValueAtPercentile(50) * 1_000, micros.getValueAtPercentile(95) * 1_000, bytes);
    }
}
