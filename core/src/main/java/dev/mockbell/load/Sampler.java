package dev.mockbell.load;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.HdrHistogram.Histogram;

/** Takes the tallies together once a second, for the live view and for the end. */
final class Sampler {
    private static final int MOST_SECONDS = 24 * 3_600;

    private final List<LoadStep> steps;
    private final List<Lane> lanes;
    private final LoadSession session;
    private final LoadClock clock;
    private final LoadListener listener;
    private final long from;
    private final List<Histogram> totals = new ArrayList<>();
    /** So little of a second may be left for it to count as one, in nanoseconds. */
    private static final long NEARLY_OVER = 150_000_000;

    private final List<LoadSecond> history = new ArrayList<>();
    private final Thread thread;
    private volatile boolean finishing;
    private long startedBefore;
    private long doneBefore;
    private long failedBefore;
    private double highestCpu;

    Sampler(
            List<LoadStep> steps,
            List<Lane> lanes,
            LoadSession session,
            LoadClock clock,
            LoadListener listener,
            long from) {
        this.steps = steps;
        this.lanes = lanes;
        this.session = session;
        this.clock = clock;
        this.listener = listener;
        this.from = from;
        steps.forEach(s -> totals.add(Tally.histogram()));
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
        List<StepFigures> figures = figures(elapsed);
        StepFigures total = total(elapsed);
        List<Long> buckets = new ArrayList<>();
        for (int band = 0; band < ResponseBands.COUNT; band++) {
            long low = ResponseBands.lowerMicros(band);
            long high = band + 1 < ResponseBands.COUNT ? ResponseBands.lowerMicros(band + 1) - 1 : Long.MAX_VALUE / 2;
            buckets.add(
                    interval.getTotalCount() == 0 || low > interval.getMaxValue()
                            ? 0L
                            : interval.getCountBetweenValues(low, Math.min(high, interval.getMaxValue())));
        }
        double cpu = cpu();
        highestCpu = Math.max(highestCpu, cpu);
        LoadSecond now = new LoadSecond(
                second,
                clock.started() - startedBefore,
                total.done() - doneBefore,
                total.failed() - failedBefore,
                session.inFlight(),
                millis(interval, 50),
                millis(interval, 95),
                millis(interval, 99),
                List.copyOf(buckets),
                figures,
                total,
                clock.latestMillis(),
                cpu);
        startedBefore = clock.started();
        doneBefore = total.done();
        failedBefore = total.failed();
        if (history.size() < MOST_SECONDS) {
            history.add(now);
        }
        listener.second(now);
    }

    private static double cpu() {
        return ManagementFactory.getOperatingSystemMXBean() instanceof OperatingSystemMXBean system
                ? system.getProcessCpuLoad()
                : -1;
    }

    private void drain(Histogram interval) {
        for (int i = 0; i < steps.size(); i++) {
            Histogram fresh = Tally.histogram();
            for (Lane lane : lanes) {
                lane.tally().drain(i, fresh);
            }
            totals.get(i).add(fresh);
            interval.add(fresh);
        }
    }

    private long failures(int step) {
        return lanes.stream().mapToLong(l -> l.tally().failures(step)).sum();
    }

    private List<StepFigures> figures(double elapsed) {
        List<StepFigures> figures = new ArrayList<>();
        for (int i = 0; i < steps.size(); i++) {
            figures.add(figures(steps.get(i).name(), totals.get(i), failures(i), elapsed));
        }
        return List.copyOf(figures);
    }

    private StepFigures total(double elapsed) {
        Histogram all = Tally.histogram();
        totals.forEach(all::add);
        long failed = 0;
        for (int i = 0; i < steps.size(); i++) {
            failed += failures(i);
        }
        return figures("all", all, failed, elapsed);
    }

    private static StepFigures figures(String name, Histogram times, long failed, double elapsed) {
        long done = times.getTotalCount();
        return new StepFigures(
                name,
                done,
                Math.min(done, failed),
                elapsed <= 0 ? 0 : done / elapsed,
                done == 0 ? 0 : times.getMinValue() / 1_000.0,
                done == 0 ? 0 : times.getMean() / 1_000.0,
                millis(times, 50),
                millis(times, 90),
                millis(times, 95),
                millis(times, 99),
                done == 0 ? 0 : times.getMaxValue() / 1_000.0);
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
    }

    LoadRun result(LoadPlan plan, Instant started, double seconds, boolean stopped) {
        Map<String, Long> reasons = new HashMap<>();
        lanes.forEach(l -> l.tally().reasons().forEach((r, n) -> reasons.merge(r, n, Long::sum)));
        Map<String, Long> ordered = new LinkedHashMap<>();
        reasons.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue().reversed().thenComparing(Map.Entry.comparingByKey()))
                .forEach(e -> ordered.put(e.getKey(), e.getValue()));
        StepFigures total = total(seconds);
        List<Limit.Outcome> limits =
                plan.limits().stream().map(l -> l.judge(total, seconds)).toList();
        return new LoadRun(
                plan,
                started,
                seconds,
                stopped,
                total,
                figures(seconds),
                ordered,
                limits,
                List.copyOf(history),
                warnings());
    }

    private List<String> warnings() {
        List<String> found = new ArrayList<>();
        long started = Math.max(1, clock.started());
        if (clock.late() * 100 > started) {
            found.add(String.format(
                    java.util.Locale.ROOT,
                    "%d of %d starts were over 10 ms late (the latest %.0f ms): this machine could not keep the pace.",
                    clock.late(),
                    started,
                    clock.latestMillis()));
        }
        if (highestCpu > 0.9) {
            found.add("This process used over 90 % of the machine's processors: its own work is in the times.");
        }
        return found;
    }
}
