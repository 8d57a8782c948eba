package dev.mockbell.load;

import dev.mockbell.choice.Choice;
import java.util.Locale;

/**
 * A bound that decides whether a load run passes.
 *
 * @param of the name of the step or group that it is for; empty for all together
 * @param bound milliseconds for times, per cent for shares, a second for the rate
 * @param stops whether the run ends early once it is broken
 * @param tolerance for how many seconds on end it may be broken before that
 */
public record Limit(String of, Measure measure, double bound, boolean stops, int tolerance) {
    /** What is measured. */
    public enum Measure implements Choice {
        P50("p50 under %s ms", "p50 in ms"),
        P90("p90 under %s ms", "p90 in ms"),
        P95("p95 under %s ms", "p95 in ms"),
        P99("p99 under %s ms", "p99 in ms"),
        P999("p99.9 under %s ms", "p99.9 in ms"),
        MEAN("mean under %s ms", "Mean in ms"),
        MAX("max under %s ms", "Longest in ms"),
        FAILED("failed under %s %%", "Failed in per cent"),
        CHECKS("checks that fail under %s %%", "Failed by a check, in per cent"),
        RATE("at least %s/s done", "Done a second, at least"),
        HELD("at least %s %% of what was planned", "Done of what was planned, in per cent, at least");

        private final String text;
        private final String title;

        Measure(String text, String title) {
            this.text = text;
            this.title = title;
        }

        @Override
        public String code() {
            return name().toLowerCase(Locale.ROOT);
        }

        @Override
        public String title() {
            return title;
        }

        private boolean atLeast() {
            return this == RATE || this == HELD;
        }
    }

    /** For all together, judged at the end. */
    public Limit(Measure measure, double bound) {
        this("", measure, bound, false, 0);
    }

    /** For people: "p95 under 300 ms", "Reserve: p95 under 300 ms". */
    public String title() {
        return (of.isEmpty() ? "" : of + ": ") + String.format(Locale.ROOT, measure.text, Plain.number(bound));
    }

    /**
     * Holds figures against the limit. Without a single answer every limit is broken.
     *
     * @param seconds how long they were gathered
     * @param held how much of what was planned was carried out well, in per cent
     */
    public Outcome judge(StepFigures figures, double seconds, double held) {
        double found = switch (measure) {
            case P50 -> figures.p50();
            case P90 -> figures.p90();
            case P95 -> figures.p95();
            case P99 -> figures.p99();
            case P999 -> figures.p999();
            case MEAN -> figures.mean();
            case MAX -> figures.max();
            case FAILED -> figures.done() == 0 ? 100 : 100.0 * figures.failed() / figures.done();
            case CHECKS -> figures.done() == 0 ? 100 : 100.0 * figures.unchecked() / figures.done();
            case RATE -> seconds <= 0 ? 0 : (figures.done() - figures.failed()) / seconds;
            case HELD -> held;
        };
        boolean kept = figures.done() > 0 && (measure.atLeast() ? found >= bound : found < bound);
        return new Outcome(this, kept, found);
    }

    /** What became of a limit. */
    public record Outcome(Limit limit, boolean kept, double found) {}
}
