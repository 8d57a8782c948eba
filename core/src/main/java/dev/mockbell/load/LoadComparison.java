package dev.mockbell.load;

import dev.mockbell.load.StepFigures.Kind;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.HdrHistogram.Histogram;

/**
 * Runs held against one of them. Of each percentile an interval is given that holds the true one with 95 % confidence, whatever the
 * times are spread like: its ends are the values whose ranks lie so far from the percentile's that chance alone puts it outside in
 * one case of twenty (the binomial interval of an order statistic). Of the share that failed it is Wilson's. Two differ when their
 * intervals have nothing in common, which is stricter than a test at 95 %.
 *
 * @param runs the one that the others are held against, and those in the order given
 * @param lines a line for each percentile of what at least two of them timed, and one for what failed of it
 */
public record LoadComparison(List<LoadRun> runs, List<Line> lines) {
    private static final double[] PERCENTILES = {50, 95, 99};

    private static final String MILLIS = "ms";

    /** The normal deviate of a two-sided 95 %. */
    private static final double DEVIATE = 1.96;

    /** Fewer answers say nothing about the tail. */
    private static final int LEAST = 20;

    /**
     * A figure of something, in each of the runs.
     *
     * @param of a step's or group's name, or that of all
     * @param what {@code p95}, or {@code failed}
     * @param unit {@code ms} or {@code %}
     * @param found as many as there are runs; that of a run that did not time it is {@link Found#NONE}
     */
    public record Line(String of, String what, String unit, List<Found> found) {
        /** What a run's difference is worth, in words: “slower”, “fewer failed”. */
        public String words(int run) {
            boolean time = unit.equals(MILLIS);
            return switch (found.get(run).verdict()) {
                case WORSE -> time ? "slower" : "more failed";
                case BETTER -> time ? "faster" : "fewer failed";
                case BASE, ALIKE -> "no more than chance";
                case UNKNOWN -> "too few to say";
            };
        }
    }

    /**
     * What a run has for a figure, and what that is worth beside the one it is held against.
     *
     * @param interval empty where the run has no such figure
     */
    public record Found(Optional<Interval> interval, Verdict verdict) {
        static final Found NONE = new Found(Optional.empty(), Verdict.UNKNOWN);
    }

    /**
     * Between which the true value lies.
     *
     * @param value as it was measured
     */
    public record Interval(double value, double low, double high) {}

    /** What the difference of two is worth. */
    public enum Verdict {
        /** It is the one that the others are held against. */
        BASE,
        /** No more than chance gives. */
        ALIKE,
        /** Slower, or more of it failed. */
        WORSE,
        /** Quicker, or less of it failed. */
        BETTER,
        /** Too few answers to say, or none. */
        UNKNOWN
    }

    /** What is timed, whichever run did it. */
    private record Timing(Kind kind, String name) {}

    public LoadComparison {
        runs = List.copyOf(runs);
        lines = List.copyOf(lines);
    }

    /**
     * Holds runs against one, step by step by their names.
     *
     * @param others at least one
     */
    public static LoadComparison of(LoadRun against, List<LoadRun> others) {
        List<LoadRun> runs = new ArrayList<>(List.of(against));
        runs.addAll(others);
        Set<Timing> timings = new LinkedHashSet<>();
        runs.forEach(r -> r.figures().forEach(f -> timings.add(new Timing(f.kind(), f.name()))));
        // all together comes last, whichever run knows of more steps
        List<Timing> ordered = timings.stream()
                .sorted(Comparator.comparing(t -> t.kind() == Kind.ALL))
                .toList();
        List<Line> lines = new ArrayList<>();
        for (Timing timing : ordered) {
            List<Optional<Integer>> places =
                    runs.stream().map(r -> place(r, timing)).toList();
            if (places.stream().filter(Optional::isPresent).count() > 1) {
                for (double percentile : PERCENTILES) {
                    lines.add(times(timing.name(), percentile, runs, places));
                }
                lines.add(failed(timing.name(), runs, places));
            }
        }
        return new LoadComparison(runs, lines);
    }

    /** The run that the others are held against. */
    public LoadRun base() {
        return runs.get(0);
    }

    /** The others. */
    public List<LoadRun> others() {
        return runs.subList(1, runs.size());
    }

    private static Optional<Integer> place(LoadRun run, Timing timing) {
        List<StepFigures> figures = run.figures();
        for (int i = 0; i < figures.size() && i < run.times().size(); i++) {
            if (figures.get(i).name().equals(timing.name()) && figures.get(i).kind() == timing.kind()) {
                return Optional.of(i);
            }
        }
        return Optional.empty();
    }

    private static Line times(String of, double percentile, List<LoadRun> runs, List<Optional<Integer>> places) {
        double tail = Math.min(percentile, 100 - percentile) / 100;
        List<Found> found = new ArrayList<>();
        for (int i = 0; i < runs.size(); i++) {
            Optional<Histogram> times = places.get(i).map(runs.get(i).times()::get);
            Optional<Interval> interval = times.map(t -> interval(t, percentile));
            long count = times.map(Histogram::getTotalCount).orElse(0L);
            found.add(found(i, interval, count * tail >= 1 && count >= LEAST, found));
        }
        return new Line(of, "p" + (int) percentile, MILLIS, List.copyOf(found));
    }

    private static Line failed(String of, List<LoadRun> runs, List<Optional<Integer>> places) {
        List<Found> found = new ArrayList<>();
        for (int i = 0; i < runs.size(); i++) {
            Optional<StepFigures> figures = places.get(i).map(runs.get(i).figures()::get);
            Optional<Interval> interval = figures.filter(f -> f.done() > 0).map(f -> share(f.failed(), f.done()));
            found.add(found(i, interval, figures.map(StepFigures::done).orElse(0L) >= LEAST, found));
        }
        return new Line(of, "failed", "%", List.copyOf(found));
    }

    /** @param before those of the runs before it, of which the first is what it is held against */
    private static Found found(int place, Optional<Interval> here, boolean enough, List<Found> before) {
        if (here.isEmpty()) {
            return Found.NONE;
        }
        if (place == 0) {
            return new Found(here, enough ? Verdict.BASE : Verdict.UNKNOWN);
        }
        Found base = before.get(0);
        Interval now = here.get();
        if (!enough || base.verdict() != Verdict.BASE) {
            return new Found(here, Verdict.UNKNOWN);
        }
        Interval was = base.interval().orElseThrow();
        return new Found(
                here, now.low() > was.high() ? Verdict.WORSE : now.high() < was.low() ? Verdict.BETTER : Verdict.ALIKE);
    }

    /** The percentile with its interval, in milliseconds. */
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

    /** So many of so many, in per cent, with Wilson's interval, which holds near none and near all too. */
    static Interval share(long some, long all) {
        double share = (double) some / all;
        double square = DEVIATE * DEVIATE / all;
        double centre = share + square / 2;
        double spread = DEVIATE * Math.sqrt(share * (1 - share) / all + square / (4 * all));
        return new Interval(
                100 * share,
                some == 0 ? 0 : 100 * (centre - spread) / (1 + square),
                some == all ? 100 : 100 * (centre + spread) / (1 + square));
    }
}
