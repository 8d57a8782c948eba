package dev.mockbell.load;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** When a run's own figures are not to be trusted, and why. */
final class Doubt {
    private static final double LATE_SHARE = 0.01;
    private static final double OWN_SHARE = 0.1;
    private static final double COLLECTOR_SHARE = 0.02;

    private Doubt() {}

    /**
     * Sentences, the gravest first; empty when all is well.
     *
     * @param starts how many requests were started
     * @param busy in how many seconds this process took over 90 % of the processors
     * @param crowded in how many all programs together took nearly all of them
     * @param endedEarly whether a limit ended the run
     */
    static List<String> of(
            StepFigures total, Health worst, long starts, int busy, int crowded, int seconds, boolean endedEarly) {
        List<String> found = new ArrayList<>();
        if (total.done() > 0 && total.ownP99() > Math.max(1, OWN_SHARE * total.p99())) {
            found.add(String.format(
                    Locale.ROOT,
                    "Of the p99 of %.1f ms, %.1f ms are the generator's own delay (of the p50 of %.1f ms, %.1f ms).",
                    total.p99(),
                    total.ownP99(),
                    total.p50(),
                    Math.max(0, total.p50() - total.begunP50())));
        }
        if (worst.lateStarts() > LATE_SHARE * Math.max(1, starts)) {
            found.add(String.format(
                    Locale.ROOT,
                    "%d of %d starts %s over 10 ms late (the latest %.0f ms): this machine could not keep the pace.",
                    worst.lateStarts(),
                    starts,
                    worst.lateStarts() == 1 ? "was" : "were",
                    worst.latestStartMillis()));
        }
        if (busy > seconds / 4 && busy > 1) {
            found.add(String.format(
                    Locale.ROOT,
                    "In %d of %d seconds this process used over 90 %% of the machine's processors: its own work is in the"
                            + " times.",
                    busy,
                    seconds));
        } else if (crowded > seconds / 4 && crowded > 1) {
            found.add(String.format(
                    Locale.ROOT,
                    "In %d of %d seconds the machine's processors were all in use, by other programs too: the times are"
                            + " longer than the service's.",
                    crowded,
                    seconds));
        }
        if (seconds > 0 && worst.collectorMillis() > COLLECTOR_SHARE * seconds * 1_000) {
            found.add(String.format(
                    Locale.ROOT,
                    "The memory's collector stopped the generator for %d ms in %d s. Give it more memory, by"
                            + " MOCKBELL_OPTS=-Xmx4g.",
                    worst.collectorMillis(),
                    seconds));
        }
        if (endedEarly) {
            found.add("A limit that ends the run was broken, so it ended before its plan did.");
        }
        return List.copyOf(found);
    }
}
