package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.HdrHistogram.Histogram;

/** Takes the tallies together once a second, for the live view and for the end; ends a run whose limits say so. */
final class Sampler {
    private static final int MOST_SECONDS = 24 * 3_600;

    /** So little of a second may be left for it to count as one, in nanoseconds. */
    private static final long NEARLY_OVER = 150_000_000;

    private final LoadPlan plan;
    private final List<Lane> lanes;
    private final LoadSession session;
    private final Progress progress;
    private final ArrivalTimes planned;
    private final LoadControl control;
    private final LoadListener listener;
    private final LoadGauges gauges;
    private final long from;
    private final List<String> rows = new ArrayList<>();
    private final int steps;
    private final long[] failed;
    private final long[] unchecked;
    private final List<Histogram> times = new ArrayList<>();
    private final List<Histogram> begun = new ArrayList<>();
    private final List<Histogram> stages = new ArrayList<>();
    private final List<LoadSecond> history = new ArrayList<>();
    private final Map<Limit, Integer> brokenFor = new HashMap<>();
    private final Thread thread;
    private volatile boolean finishing;
    private volatile boolean endedEarly;
    private Health worst = Health.UNKNOWN;
    private int busySeconds;
    private int machineSeconds;
    private long startedBefore;
    private long doneBefore;
    private long failedBefore;

    /** @param from when counting starts */
    Sampler(
            LoadPlan plan,
            List<Lane> lanes,
            LoadSession session,
            Progress progress,
            LoadControl control,
            LoadListener listener,
            long from) {
        this.plan = plan;
        this.lanes = lanes;
        this.session = session;
        this.progress = progress;
        this.planned = new ArrivalTimes(plan.shape());
        this.control = control;
        this.listener = listener;
        this.from = from;
        this.gauges = new LoadGauges(lanes, session.clock());
        session.course().steps().forEach(s -> rows.add(s.name()));
        this.steps = rows.size();
        rows.addAll(session.course().groups());
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
        thread = new Thread(this::watch, "load-sampler");
        thread.setDaemon(true);
    }

    void start() {
        thread.start();
    }

    private void watch() {
        for (int second = 1; !finishing; second++) {
            long due = from + second * 1_000_000_000L;
            while (!finishing && System.nanoTime() < due) {
                LockSupport.parkNanos(Math.min(50_000_000, Math.max(1, due - System.nanoTime())));
            }
            // the run ends with the last answer, a moment before its last second is over
            if (!finishing || due - System.nanoTime() < NEARLY_OVER) {
                sample(second);
            }
        }
    }

    private void sample(int second) {
        Histogram interval = Tally.histogram();
        drain(interval);
        double elapsed = (System.nanoTime() - from) / 1e9;
        StepFigures total = total(elapsed);
        Health health = gauges.read();
        worst = worst.worst(health);
        busySeconds += health.cpu() > 0.9 ? 1 : 0;
        machineSeconds += health.machineCpu() > 0.97 ? 1 : 0;
        long started = lanes.stream().mapToLong(l -> l.tally().begun()).sum();
        List<StepFigures> figures = figures(elapsed);
        List<Limit.Outcome> limits = limits(figures, total, elapsed);
        LoadSecond now = new LoadSecond(
                second,
                started - startedBefore,
                total.done() - doneBefore,
                total.failed() - failedBefore,
                Math.max(0, lanes.stream().mapToLong(l -> l.tally().inFlight()).sum()),
                progress.users(),
                millis(interval, 50),
                millis(interval, 95),
                millis(interval, 99),
                bands(interval),
                figures,
                total,
                limits,
                health);
        startedBefore = started;
        doneBefore = total.done();
        failedBefore = total.failed();
        synchronized (history) {
            if (history.size() < MOST_SECONDS) {
                history.add(now);
            }
        }
        listener.times(second, interval);
        listener.second(now);
        endEarly(limits);
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

    private void endEarly(List<Limit.Outcome> limits) {
        for (Limit.Outcome outcome : limits) {
            int broken = outcome.kept() ? 0 : brokenFor.getOrDefault(outcome.limit(), 0) + 1;
            brokenFor.put(outcome.limit(), broken);
            if (outcome.limit().stops() && broken > outcome.limit().tolerance()) {
                endedEarly = true;
                control.stopGently();
            }
        }
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
        long began = lanes.stream().mapToLong(l -> l.tally().begun()).sum();
        long well = lanes.stream().mapToLong(l -> l.tally().well()).sum();
        double due = plan.shape().kind() == LoadShape.Kind.ARRIVALS ? planned.by(seconds) : began;
        return due < 1 ? 100 : 100.0 * Math.min(1, well / Math.floor(due));
    }

    private void drain(Histogram interval) {
        for (Lane lane : lanes) {
            Tally.Counts counts = lane.tally().take(lane.loop());
            for (int row = 0; row < rows.size(); row++) {
                times.get(row).add(counts.times[row]);
                begun.get(row).add(counts.begun[row]);
                failed[row] += counts.failed[row];
                unchecked[row] += counts.unchecked[row];
                if (row < steps) {
                    interval.add(counts.times[row]);
                    times.get(rows.size()).add(counts.times[row]);
                    begun.get(rows.size()).add(counts.begun[row]);
                    failed[rows.size()] += counts.failed[row];
                    unchecked[rows.size()] += counts.unchecked[row];
                }
            }
            for (int i = 0; i < counts.stages.length; i++) {
                stages.get(i).add(counts.stages[i]);
            }
        }
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
        Histogram all = times.get(row);
        long done = all.getTotalCount();
        return new StepFigures(
                kind,
                name,
                done,
                Math.min(done, failed[row]),
                Math.min(done, unchecked[row]),
                elapsed <= 0 ? 0 : done / elapsed,
                done == 0 ? 0 : all.getMinValue() / 1_000.0,
                done == 0 ? 0 : all.getMean() / 1_000.0,
                millis(all, 50),
                millis(all, 90),
                millis(all, 95),
                millis(all, 99),
                millis(all, 99.9),
                done == 0 ? 0 : all.getMaxValue() / 1_000.0,
                millis(begun.get(row), 50),
                millis(begun.get(row), 99));
    }

    private static double millis(Histogram times, double percentile) {
        return times.getTotalCount() == 0 ? 0 : times.getValueAtPercentile(percentile) / 1_000.0;
    }

    void finish() {
        finishing = true;
        LockSupport.unpark(thread);
        try {
            thread.join(5_000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        drain(Tally.histogram());
        worst = worst.worst(gauges.read());
    }

    LoadRun result(Instant started, double seconds) {
        Map<String, Long> reasons = new HashMap<>();
        lanes.forEach(l -> l.tally().reasons().forEach((r, n) -> reasons.merge(r, n, Long::sum)));
        Map<String, Long> ordered = new LinkedHashMap<>();
        reasons.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue().reversed().thenComparing(Map.Entry.comparingByKey()))
                .forEach(e -> ordered.put(e.getKey(), e.getValue()));
        StepFigures total = total(seconds);
        List<StepFigures> figures = figures(seconds);
        List<LoadSecond> all;
        synchronized (history) {
            all = List.copyOf(history);
        }
        return new LoadRun(
                plan,
                started,
                seconds,
                control.isEnding(),
                total,
                figures,
                spent(),
                ordered,
                limits(figures, total, Math.min(seconds, plan.seconds())),
                all,
                worst,
                Doubt.of(
                        total,
                        worst,
                        stages.get(Stage.LATE.ordinal()).getTotalCount(),
                        busySeconds,
                        machineSeconds,
                        all.size(),
                        endedEarly),
                List.copyOf(times));
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
