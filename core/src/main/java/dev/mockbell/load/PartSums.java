package dev.mockbell.load;

import java.util.ArrayList;
import java.util.List;
import org.HdrHistogram.Histogram;

/** What one of several generators did, of all steps together. Takes 600 KB, and 60 bytes for each second. Used by one thread at a time. */
public final class PartSums {
    private final int steps;
    private final Histogram times = Tally.histogram();
    private final Histogram begun = Tally.histogram();
    private final Histogram latest = Tally.histogram();
    private long latestFailed;
    private long failed;
    private long unchecked;
    private Health worst = Health.UNKNOWN;
    private Health health = Health.UNKNOWN;
    private final List<WorkerRun.Second> history = new ArrayList<>();

    /** @param steps how many rows of a portion are steps */
    public PartSums(int steps) {
        this.steps = steps;
    }

    /** Adds a portion of this generator. */
    public void add(Portion portion) {
        latest.reset();
        latestFailed = 0;
        for (int row = 0; row < steps; row++) {
            latest.add(portion.times().get(row));
            begun.add(portion.begun().get(row));
            latestFailed += portion.failed().get(row);
            unchecked += portion.unchecked().get(row);
        }
        times.add(latest);
        failed += latestFailed;
        health = portion.health();
        worst = worst.worst(health);
        if (history.size() < LoadSums.MOST_SECONDS) {
            history.add(new WorkerRun.Second(
                    portion.second(), done(), failed(), p99(), health.latestStartMillis(), health.cpu()));
        }
    }

    /** What it did in each second, in the order in which they came. */
    public List<WorkerRun.Second> history() {
        return List.copyOf(history);
    }

    /**
     * All it did.
     *
     * @param seconds how long that took
     */
    public StepFigures total(double seconds) {
        return StepFigures.of(StepFigures.Kind.ALL, "all", times, begun, failed, unchecked, seconds);
    }

    /** The worst of its health so far. */
    public Health worst() {
        return worst;
    }

    /** How it fared in its last portion. */
    public Health health() {
        return health;
    }

    /** How much was done in the last portion. */
    public long done() {
        return latest.getTotalCount();
    }

    /** How much of that failed. */
    public long failed() {
        return latestFailed;
    }

    /** The p99 of the last portion, in milliseconds. */
    public double p99() {
        return LoadSums.millis(latest, 99);
    }
}
