package dev.mockbell.load;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.HdrHistogram.Histogram;

/**
 * Two runs held against each other. Of each percentile an interval is given that holds the true one with 95 % confidence,
 * whatever the times are spread like: its ends are the values whose ranks lie so far from the percentile's that chance alone puts
 * it outside in one case of twenty (the binomial interval of an order statistic). Two differ when their intervals have nothing in
 * common, which is stricter than a test at 95 %.
 *
 * @param lines a line each step, group and all together, with each percentile
 * @param plan what is another in the plan, in words
 */
public record LoadComparison(LoadRun before, LoadRun now, List<Line> lines, List<String> plan) {
    private static final double[] PERCENTILES = {50, 95, 99};

    /** The normal deviate of a two-sided 95 %. */
    private static final double DEVIATE = 1.96;

    /** Fewer answers say nothing about the tail. */
    private static final int LEAST = 20;

    /** What is found of a percentile of something. */
    public record Line(String of, String what, Interval before, Interval now, Verdict verdict) {}

    /**
     * Milliseconds between which the true value lies.
     *
     * @param value as it was measured
     */
    public record Interval(double value, double low, double high) {}

    /** What the difference of two is worth. */
    public enum Verdict {
        /** No more than chance gives. */
        ALIKE,
        SLOWER,
        FASTER,
        /** Too few answers to say. */
        UNKNOWN
    }

    /** Compares two runs, step by step by their names. */
    public static LoadComparison of(LoadRun before, LoadRun now) {
        List<Line> lines = new ArrayList<>();
        List<StepFigures> was = before.figures();
        List<StepFigures> is = now.figures();
        for (int i = 0; i < is.size(); i++) {
            Optional<Histogram> old = times(before, was, is.get(i));
            Optional<Histogram> fresh = times(now, is, is.get(i));
            if (old.isPresent() && fresh.isPresent()) {
                for (double percentile : PERCENTILES) {
                    lines.add(line(is.get(i).name(), percentile, old.get(), fresh.get()));
                }
            }
        }
        return new LoadComparison(before, now, List.copyOf(lines), before.plan().differences(now.plan()));
    }

    private static Optional<Histogram> times(LoadRun run, List<StepFigures> figures, StepFigures of) {
        for (int i = 0; i < figures.size() && i < run.times().size(); i++) {
            if (figures.get(i).name().equals(of.name()) && figures.get(i).kind() == of.kind()) {
                return Optional.of(run.times().get(i));
            }
        }
        return Optional.empty();
    }

    private static Line line(String of, double percentile, Histogram old, Histogram fresh) {
        Interval before = interval(old, percentile);
        Interval now = interval(fresh, percentile);
        double tail = Math.min(percentile, 100 - percentile) / 100;
        boolean enough = Math.min(old.getTotalCount(), fresh.getTotalCount()) * tail >= 1
                && Math.min(old.getTotalCount(), fresh.getTotalCount()) >= LEAST;
        Verdict verdict = !enough
                ? Verdict.UNKNOWN
                : now.low() > before.high()
                        ? Verdict.SLOWER
                        : now.high() < before.low() ? Verdict.FASTER : Verdict.ALIKE;
        return new Line(of, "p" + (int) percentile, before, now, verdict);
    }

    /** The percentile with its interval. */
    static Interval interval(Histogram times, double percentile) {
        long count = times.getTotalCount();
        if (count == 0) {
            return new Interval(0, 0, 0);
        }
        double share = percentile / 100;
        double spread = DEVIATE * Math.sqrt(share * (1 - share) / count) * 100;
        return new Interval(
                times.getValueAtPercentile(percentile) / 1_000.0,
                times.getValueAtPercentile(Math.max(0, percentile - spread)) / 1_000.0,
                times.getValueAtPercentile(Math.min(100, percentile + spread)) / 1_000.0);
    }
}
