package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.HdrHistogram.Histogram;

/**
 * Adds up what generators counted, judges limits, and makes the figures of seconds and of the whole. Histograms have three
 * significant digits from 1 microsecond to 1 hour and take 190 KB each; there are two for each step and group. Safe for many
 * threads.
 */
public final class LoadSums {
    static final int MOST_SECONDS = 24 * 3_600;
    private static final int MOST_REASONS = 200;

    /** A portion that comes later than so many seconds is in the sums, and no more in its second. */
    private static final int REMEMBERED = 30;

    private final LoadPlan plan;
    private final List<String> rows;
    private final int steps;
    private final ArrivalTimes planned;
    private final long[] failed;
    private final long[] unchecked;
    private final List<Histogram> times = new ArrayList<>();
    private final List<Histogram> begun = new ArrayList<>();
    private final List<Histogram> stages = new ArrayList<>();
    private final Map<String, Long> reasons = new HashMap<>();
    private final List<LoadSecond> history = new ArrayList<>();
    private final TreeMap<Integer, Interval> recent = new TreeMap<>();
    private final Map<Limit, Integer> brokenFor = new HashMap<>();
    private final BitSet busy = new BitSet();
    private final BitSet crowded = new BitSet();
    private long journeys;
    private long well;
    private boolean endedEarly;

    /** What came in one second, of all generators. */
    private static final class Interval {
        private final Histogram times = Tally.histogram();
        private long journeys;
        private long failed;
        private long inFlight;
        private long users;
        private Health health = Health.UNKNOWN;
    }

    /**
     * @param steps the names of what is timed
     * @param groups of groups of them
     */
    public LoadSums(LoadPlan plan, List<String> steps, List<String> groups) {
        this.plan = plan;
        this.steps = steps.size();
        this.rows = new ArrayList<>(steps);
        rows.addAll(groups);
        this.planned = new ArrivalTimes(plan.shape());
        failed = new long[rows.size() + 1];
        unchecked = new long[failed.length];
        // the last one is of all steps
        for (int i = 0; i <= rows.size(); i++) {
            times.add(Tally.histogram());
            begun.add(Tally.histogram());
        }
        for (int i = 0; i < Stage.values().length; i++) {
            stages.add(Tally.histogram());
        }
    }

    /**
     * Adds a portion.
     *
     * @throws IllegalArgumentException when it has not the rows of this run
     */
    public synchronized void add(Portion portion) {
        if (portion.times().size() != rows.size() || portion.stages().size() != stages.size()) {
            throw new IllegalArgumentException("a portion of " + portion.times().size() + " rows for " + rows.size());
        }
        boolean late = portion.second() <= history.size() && !recent.containsKey(portion.second());
        Interval interval = late ? new Interval() : recent.computeIfAbsent(portion.second(), s -> new Interval());
        int all = rows.size();
        for (int row = 0; row < all; row++) {
            Histogram of = portion.times().get(row);
            times.get(row).add(of);
            begun.get(row).add(portion.begun().get(row));
            failed[row] += portion.failed().get(row);
            unchecked[row] += portion.unchecked().get(row);
            if (row < steps) {
                interval.times.add(of);
                interval.failed += portion.failed().get(row);
                times.get(all).add(of);
                begun.get(all).add(portion.begun().get(row));
                failed[all] += portion.failed().get(row);
                unchecked[all] += portion.unchecked().get(row);
            }
        }
        for (int i = 0; i < stages.size(); i++) {
            stages.get(i).add(portion.stages().get(i));
        }
        portion.reasons().forEach((reason, count) -> {
            String known = reasons.size() < MOST_REASONS || reasons.containsKey(reason) ? reason : "other";
            reasons.merge(known, count, Long::sum);
        });
        journeys += portion.journeys();
        well += portion.well();
        if (portion.second() > 0 && portion.second() <= MOST_SECONDS) {
            busy.set(
                    portion.second(),
                    busy.get(portion.second()) || portion.health().cpu() > 0.9);
            crowded.set(
                    portion.second(),
                    crowded.get(portion.second()) || portion.health().machineCpu() > 0.97);
        }
        interval.journeys += portion.journeys();
        interval.inFlight += portion.inFlight();
        interval.users += portion.users();
        interval.health = interval.health.beside(portion.health());
        if (!late && portion.second() <= history.size()) {
            LoadSecond before = history.get(portion.second() - 1);
            history.set(
                    portion.second() - 1,
                    second(portion.second(), interval, before.steps(), before.total(), before.limits()));
        }
    }

    /**
     * Ends the next second, in order: what comes for it later is still added to it for a while.
     *
     * @param elapsed how long the run has taken, in seconds
     */
    public synchronized LoadSecond close(double elapsed) {
        int number = history.size() + 1;
        Interval interval = recent.computeIfAbsent(number, s -> new Interval());
        StepFigures total = total(elapsed);
        List<StepFigures> figures = figures(elapsed);
        LoadSecond now = second(number, interval, figures, total, limits(figures, total, elapsed));
        if (history.size() < MOST_SECONDS) {
            history.add(now);
        }
        recent.headMap(number - REMEMBERED, true).clear();
        for (Limit.Outcome outcome : now.limits()) {
            int broken = outcome.kept() ? 0 : brokenFor.getOrDefault(outcome.limit(), 0) + 1;
            brokenFor.put(outcome.limit(), broken);
            endedEarly |= outcome.limit().stops() && broken > outcome.limit().tolerance();
        }
        return now;
    }

    /** The response times of a second that was closed lately; not to be changed. */
    public synchronized Histogram times(int second) {
        Interval interval = recent.get(second);
        return interval == null ? Tally.histogram() : interval.times;
    }

    /** Whether a limit that ends the run has been broken for longer than it may be. */
    public synchronized boolean endsEarly() {
        return endedEarly;
    }

    /** How many journeys have begun. */
    public synchronized long journeys() {
        return journeys;
    }

    private static LoadSecond second(
            int number, Interval interval, List<StepFigures> figures, StepFigures total, List<Limit.Outcome> limits) {
        return new LoadSecond(
                number,
                interval.journeys,
                interval.times.getTotalCount(),
                interval.failed,
                Math.max(0, interval.inFlight),
                interval.users,
                millis(interval.times, 50),
                millis(interval.times, 95),
                millis(interval.times, 99),
                bands(interval.times),
                figures,
                total,
                limits,
                interval.health);
    }

    private static List<Long> bands(Histogram interval) {
        List<Long> buckets = new ArrayList<>();
        for (int band = 0; band < ResponseBands.COUNT; band++) {
            long low = ResponseBands.lowerMicros(band);
            long high = band + 1 < ResponseBands.COUNT ? ResponseBands.lowerMicros(band + 1) - 1 : Long.MAX_VALUE / 2;
            buckets.add(
                    interval.getTotalCount() == 0 || low > interval.getMaxValue()
                            ? 0L
                            : interval.getCountBetweenValues(low, Math.min(high, interval.getMaxValue())));
        }
        return List.copyOf(buckets);
    }

    private List<Limit.Outcome> limits(List<StepFigures> figures, StepFigures total, double seconds) {
        List<Limit.Outcome> found = new ArrayList<>();
        for (Limit limit : plan.limits()) {
            StepFigures of = limit.of().isEmpty()
                    ? total
                    : figures.stream()
                            .filter(f -> f.name().equals(limit.of()))
                            .findFirst()
                            .orElse(null);
            // a limit on what is not there cannot be kept
            found.add(of == null ? new Limit.Outcome(limit, false, 0) : limit.judge(of, seconds, held(seconds)));
        }
        return List.copyOf(found);
    }

    /** How much of what was planned until then is carried out well, in per cent. */
    private double held(double seconds) {
        double due = plan.shape().kind() == LoadShape.Kind.ARRIVALS ? planned.by(seconds) : journeys;
        return due < 1 ? 100 : 100.0 * Math.min(1, well / Math.floor(due));
    }

    private List<StepFigures> figures(double elapsed) {
        List<StepFigures> figures = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            figures.add(figures(i < steps ? StepFigures.Kind.STEP : StepFigures.Kind.GROUP, rows.get(i), i, elapsed));
        }
        return List.copyOf(figures);
    }

    private StepFigures total(double elapsed) {
        return figures(StepFigures.Kind.ALL, "all", rows.size(), elapsed);
    }

    private StepFigures figures(StepFigures.Kind kind, String name, int row, double elapsed) {
        return StepFigures.of(kind, name, times.get(row), begun.get(row), failed[row], unchecked[row], elapsed);
    }

    static double millis(Histogram times, double percentile) {
        return times.getTotalCount() == 0 ? 0 : times.getValueAtPercentile(percentile) / 1_000.0;
    }

    /**
     * What the run found.
     *
     * @param seconds how long it took, with what was waited for at the end
     * @param stopped whether it ended before its plan did
     * @param warnings what else there is to say about its figures; it comes first
     * @param workers those who made it, when they were several; empty for one
     */
    public synchronized LoadRun result(
            Instant started, double seconds, boolean stopped, List<String> warnings, List<WorkerRun> workers) {
        Map<String, Long> ordered = new LinkedHashMap<>();
        reasons.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue().reversed().thenComparing(Map.Entry.comparingByKey()))
                .forEach(e -> ordered.put(e.getKey(), e.getValue()));
        StepFigures total = total(seconds);
        List<StepFigures> figures = figures(seconds);
        Health worst = Health.UNKNOWN;
        for (LoadSecond second : history) {
            worst = worst.worst(second.health());
        }
        // what came behind the last full second
        for (Interval interval : recent.tailMap(history.size(), false).values()) {
            worst = worst.worst(interval.health);
        }
        List<String> doubts = new ArrayList<>(warnings);
        doubts.addAll(Doubt.of(
                total,
                worst,
                stages.get(Stage.LATE.ordinal()).getTotalCount(),
                // of those that are counted: what came behind the last full second is none of them
                busy.get(0, history.size() + 1).cardinality(),
                crowded.get(0, history.size() + 1).cardinality(),
                history.size(),
                endedEarly));
        return new LoadRun(
                plan,
                started,
                seconds,
                stopped,
                total,
                figures,
                spent(),
                ordered,
                limits(figures, total, Math.min(seconds, plan.seconds())),
                List.copyOf(history),
                worst,
                List.copyOf(doubts),
                List.copyOf(times),
                workers);
    }

    private List<Spent> spent() {
        List<Spent> found = new ArrayList<>();
        for (Stage stage : Stage.values()) {
            Histogram of = stages.get(stage.ordinal());
            found.add(new Spent(
                    stage,
                    of.getTotalCount(),
                    of.getTotalCount() == 0 ? 0 : of.getMean() / 1_000.0,
                    millis(of, 50),
                    millis(of, 99),
                    of.getTotalCount() == 0 ? 0 : of.getMaxValue() / 1_000.0));
        }
        return List.copyOf(found);
    }
}
