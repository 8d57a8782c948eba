package dev.mockbell.load;

/**
 * The figures of one step, or of all. Times are milliseconds from the intended start to the last byte of the answer;
 * resolution three significant digits, from 1 microsecond to 1 hour.
 *
 * @param done answered or failed
 * @param failed of these
 * @param perSecond done in a second of the run
 */
public record StepFigures(
        String name,
        long done,
        long failed,
        double perSecond,
        double min,
        double mean,
        double p50,
        double p90,
        double p95,
        double p99,
        double max) {}
