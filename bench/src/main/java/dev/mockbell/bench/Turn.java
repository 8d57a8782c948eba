package dev.mockbell.bench;

import java.util.Locale;

/**
 * What one turn of a benchmark measured.
 *
 * @param perSecond requests answered a second
 * @param p99Millis their 99th percentile
 * @param cpuPer10k CPU seconds of this process for 10,000 requests, both sides together
 */
record Turn(double perSecond, double p99Millis, double cpuPer10k) {
    @Override
    public String toString() {
        return String.format(
                Locale.ROOT, "%8.0f/s   p99 %7.3f ms   %6.3f CPU s per 10,000", perSecond, p99Millis, cpuPer10k);
    }

    /** The median of several turns, figure by figure. */
    static Turn median(java.util.List<Turn> turns) {
        return new Turn(
                middle(turns.stream().mapToDouble(Turn::perSecond).sorted().toArray()),
                middle(turns.stream().mapToDouble(Turn::p99Millis).sorted().toArray()),
                middle(turns.stream().mapToDouble(Turn::cpuPer10k).sorted().toArray()));
    }

    private static double middle(double[] sorted) {
        return sorted[sorted.length / 2];
    }
}
