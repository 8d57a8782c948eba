package dev.mockbell.load;

import org.HdrHistogram.Histogram;

/**
 * The figures of one step, of one group, or of all. Times are milliseconds from the intended start to the last byte of the
 * answer; resolution three significant digits, from 1 microsecond to 1 hour.
 *
 * @param kind what they are of
 * @param done answered or failed
 * @param failed of these
 * @param unchecked of these, those that a check failed
 * @param perSecond done in a second of the run
 * @param begunP50 the median from when the generator really began, so that what is missing to the whole is its own delay
 * @param begunP99 likewise
 */
public record StepFigures(
        Kind kind,
        String name,
        long done,
        long failed,
        long unchecked,
        double perSecond,
        double min,
        double mean,
        double p50,
        double p90,
        double p95,
        double p99,
        double p999,
        double max,
        double begunP50,
        double begunP99) {
    /** What figures are of. */
    public enum Kind {
        STEP,
        /** Several steps, timed from the first to the last with what lies between. */
        GROUP,
        ALL
    }

    /**
     * Figures of what was counted.
     *
     * @param times from the intended start, in microseconds
     * @param begun from when the generator really began
     * @param elapsed how long it was counted, in seconds
     */
    static StepFigures of(
            Kind kind, String name, Histogram times, Histogram begun, long failed, long unchecked, double elapsed) {
        long done = times.getTotalCount();
        return new StepFigures(
                kind,
                name,
                done,
                Math.min(done, failed),
                Math.min(done, unchecked),
                elapsed <= 0 ? 0 : done / elapsed,
                done == 0 ? 0 : times.getMinValue() / 1_000.0,
                done == 0 ? 0 : times.getMean() / 1_000.0,
                LoadSums.millis(times, 50),
                LoadSums.millis(times, 90),
                LoadSums.millis(times, 95),
                LoadSums.millis(times, 99),
                LoadSums.millis(times, 99.9),
                done == 0 ? 0 : times.getMaxValue() / 1_000.0,
                LoadSums.millis(begun, 50),
                LoadSums.millis(begun, 99));
    }

    /** How much of the p99 is the generator's own delay, in milliseconds. */
    public double ownP99() {
        return Math.max(0, p99 - begunP99);
    }
}
