package dev.mockbell.load;

import java.util.HashMap;
import java.util.Map;
import org.HdrHistogram.Histogram;
import org.HdrHistogram.SingleWriterRecorder;

/** What one lane counts. Written by its event loop, read by the sampler; recording allocates nothing. */
final class Tally {
    private static final long HIGHEST = 3_600_000_000L;

    private final SingleWriterRecorder[] times;
    private final java.util.concurrent.atomic.AtomicLongArray failed;
    private final Map<String, Long> reasons = new HashMap<>();

    Tally(int steps) {
        times = new SingleWriterRecorder[steps];
        for (int i = 0; i < steps; i++) {
            times[i] = new SingleWriterRecorder(1, HIGHEST, 3);
        }
        failed = new java.util.concurrent.atomic.AtomicLongArray(steps);
    }

    static Histogram histogram() {
        return new Histogram(1, HIGHEST, 3);
    }

    void done(int step, long nanos) {
        times[step].recordValue(Math.min(HIGHEST, Math.max(1, nanos / 1_000)));
    }

    void failed(int step, long nanos, String reason) {
        done(step, nanos);
        failed.incrementAndGet(step);
        synchronized (reasons) {
            String known = reasons.size() < 200 || reasons.containsKey(reason) ? reason : "other";
            reasons.merge(known, 1L, Long::sum);
        }
    }

    /** Adds the times since the last call to {@code into}. */
    void drain(int step, Histogram into) {
        into.add(times[step].getIntervalHistogram());
    }

    long failures(int step) {
        return failed.get(step);
    }

    Map<String, Long> reasons() {
        synchronized (reasons) {
            return new HashMap<>(reasons);
        }
    }
}
