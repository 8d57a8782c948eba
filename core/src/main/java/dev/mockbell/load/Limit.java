package dev.mockbell.load;

import java.util.Locale;

/**
 * A bound that decides whether a load run passes.
 *
 * @param bound milliseconds for times, per cent for failures, a second for the rate
 */
public record Limit(Measure measure, double bound) {
    /** What is measured over the whole run. */
    public enum Measure {
        P50("p50 under %s ms"),
        P90("p90 under %s ms"),
        P95("p95 under %s ms"),
        P99("p99 under %s ms"),
        MAX("max under %s ms"),
        FAILED("failed under %s %%"),
        RATE("at least %s/s done");

        private final String text;

        Measure(String text) {
            this.text = text;
        }
    }

    /** For people: "p95 under 300 ms". */
    public String title() {
        String number =
                bound == Math.rint(bound) ? Long.toString((long) bound) : String.format(Locale.ROOT, "%s", bound);
        return String.format(Locale.ROOT, measure.text, number);
    }

    /** Holds the figures of a run against the limit. Without a single answer every limit is broken. */
    public Outcome judge(StepFigures total, double seconds) {
        double found = switch (measure) {
            case P50 -> total.p50();
            case P90 -> total.p90();
            case P95 -> total.p95();
            case P99 -> total.p99();
            case MAX -> total.max();
            case FAILED -> total.done() == 0 ? 100 : 100.0 * total.failed() / total.done();
            case RATE -> seconds <= 0 ? 0 : (total.done() - total.failed()) / seconds;
        };
        boolean kept = total.done() > 0 && (measure == Measure.RATE ? found >= bound : found < bound);
        return new Outcome(this, kept, found);
    }

    /** What became of a limit. */
    public record Outcome(Limit limit, boolean kept, double found) {}
}
