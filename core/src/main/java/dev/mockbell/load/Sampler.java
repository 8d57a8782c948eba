package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.HdrHistogram.Histogram;

/** Takes the tallies of a generator's lanes together once a second, as a portion. */
final class Sampler {
    /** So little of a second may be left for it to count as one, in nanoseconds. */
    private static final long NEARLY_OVER = 150_000_000;

    private final List<Lane> lanes;
    private final Progress progress;
    private final PartListener listener;
    private final LoadGauges gauges;
    private final long from;
    private final int rows;
    private final Thread thread;
    private volatile boolean finishing;
    private int second;
    private long begunBefore;
    private long wellBefore;
    private Map<String, Long> reasonsBefore = Map.of();

    /**
     * @param rows how many are timed: steps and groups
     * @param from when counting starts
     * @param listener is given each portion, by the sampling thread and at last by the one that finishes
     */
    Sampler(LoadEngine.Field field, int rows, LoadClock clock, Progress progress, long from, PartListener listener) {
        this.lanes = field.lanes();
        this.rows = rows;
        this.progress = progress;
        this.from = from;
        this.listener = listener;
        this.gauges = new LoadGauges(field::connections, clock);
        thread = new Thread(this::watch, "load-sampler");
        thread.setDaemon(true);
    }

    void start() {
        thread.start();
    }

    private void watch() {
        while (!finishing) {
            long due = from + (second + 1) * 1_000_000_000L;
            while (!finishing && System.nanoTime() < due) {
                LockSupport.parkNanos(Math.min(50_000_000, Math.max(1, due - System.nanoTime())));
            }
            // the run ends with the last answer, a moment before its last second is over
            if (!finishing || due - System.nanoTime() < NEARLY_OVER) {
                listener.portion(portion());
                listener.second((System.nanoTime() - from) / 1e9);
            }
        }
    }

    private Portion portion() {
        List<Histogram> times = histograms(rows);
        List<Histogram> begun = histograms(rows);
        List<Histogram> stages = histograms(Stage.values().length);
        long[] failed = new long[rows];
        long[] unchecked = new long[rows];
        for (Lane lane : lanes) {
            Tally.Counts counts = lane.tally().take(lane.loop());
            for (int row = 0; row < rows; row++) {
                times.get(row).add(counts.times[row]);
                begun.get(row).add(counts.begun[row]);
                failed[row] += counts.failed[row];
                unchecked[row] += counts.unchecked[row];
            }
            for (int i = 0; i < stages.size(); i++) {
                stages.get(i).add(counts.stages[i]);
            }
        }
        long begunNow = lanes.stream().mapToLong(l -> l.tally().begun()).sum();
        long wellNow = lanes.stream().mapToLong(l -> l.tally().well()).sum();
        Portion portion = new Portion(
                ++second,
                times,
                begun,
                stages,
                list(failed),
                list(unchecked),
                begunNow - begunBefore,
                wellNow - wellBefore,
                lanes.stream().mapToLong(l -> l.tally().inFlight()).sum(),
                progress.users(),
                gauges.read(),
                reasons());
        begunBefore = begunNow;
        wellBefore = wellNow;
        return portion;
    }

    private Map<String, Long> reasons() {
        Map<String, Long> now = new HashMap<>();
        lanes.forEach(l -> l.tally().reasons().forEach((r, n) -> now.merge(r, n, Long::sum)));
        Map<String, Long> since = new HashMap<>();
        now.forEach((reason, count) -> {
            long more = count - reasonsBefore.getOrDefault(reason, 0L);
            if (more > 0) {
                since.put(reason, more);
            }
        });
        reasonsBefore = now;
        return since;
    }

    private static List<Histogram> histograms(int count) {
        List<Histogram> all = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            all.add(Tally.histogram());
        }
        return all;
    }

    private static List<Long> list(long[] of) {
        List<Long> all = new ArrayList<>();
        for (long one : of) {
            all.add(one);
        }
        return all;
    }

    /** Ends; the taker has been given all there is when this returns. */
    void finish() {
        finishing = true;
        LockSupport.unpark(thread);
        try {
            thread.join(5_000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        listener.portion(portion());
    }
}
