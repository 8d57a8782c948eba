package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLongArray;
import org.HdrHistogram.Histogram;
import org.HdrHistogram.SingleWriterRecorder;

/** What one lane counts, by the row of what is timed. Written by its event loop, read by the sampler; recording allocates nothing. */
final class Tally {
    private static final long HIGHEST = 3_600_000_000L;
    private static final int MOST_REASONS = 200;

    private final SingleWriterRecorder[] times;
    private final SingleWriterRecorder[] begun;
    private final SingleWriterRecorder[] stages = new SingleWriterRecorder[Stage.values().length];
    private final AtomicLongArray failed;
    private final AtomicLongArray unchecked;
    private final Map<String, Long> reasons = new HashMap<>();

    Tally(int rows) {
        times = recorders(rows);
        begun = recorders(rows);
        for (int i = 0; i < stages.length; i++) {
            stages[i] = new SingleWriterRecorder(1, HIGHEST, 3);
        }
        failed = new AtomicLongArray(rows);
        unchecked = new AtomicLongArray(rows);
    }

    private static SingleWriterRecorder[] recorders(int count) {
        SingleWriterRecorder[] all = new SingleWriterRecorder[count];
        for (int i = 0; i < count; i++) {
            all[i] = new SingleWriterRecorder(1, HIGHEST, 3);
        }
        return all;
    }

    static Histogram histogram() {
        return new Histogram(1, HIGHEST, 3);
    }

    private static long micros(long nanos) {
        return Math.min(HIGHEST, Math.max(1, nanos / 1_000));
    }

    /**
     * Something was done.
     *
     * @param nanos from when it was intended
     * @param late how much of that the generator was late
     */
    void done(int row, long nanos, long late) {
        times[row].recordValue(micros(nanos));
        begun[row].recordValue(micros(nanos - late));
    }

    /** Something failed, which is done as well. */
    void failed(int row, long nanos, long late, String reason, boolean byCheck) {
        done(row, nanos, late);
        failed.lazySet(row, failed.get(row) + 1);
        if (byCheck) {
            unchecked.lazySet(row, unchecked.get(row) + 1);
        }
        if (reason != null) {
            synchronized (reasons) {
                String known = reasons.size() < MOST_REASONS || reasons.containsKey(reason) ? reason : "other";
                reasons.merge(known, 1L, Long::sum);
            }
        }
    }

    /** Time that a request spent in a stage of its way. */
    void spent(Stage stage, long nanos) {
        stages[stage.ordinal()].recordValue(micros(nanos));
    }

    /** Adds the times since the last call to what is given. */
    void drain(int row, Histogram time, Histogram own) {
        time.add(times[row].getIntervalHistogram());
        own.add(begun[row].getIntervalHistogram());
    }

    void drain(Stage stage, Histogram into) {
        into.add(stages[stage.ordinal()].getIntervalHistogram());
    }

    long failures(int row) {
        return failed.get(row);
    }

    long unchecked(int row) {
        return unchecked.get(row);
    }

    Map<String, Long> reasons() {
        synchronized (reasons) {
            return new HashMap<>(reasons);
        }
    }
}
