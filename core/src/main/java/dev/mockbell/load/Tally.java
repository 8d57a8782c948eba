package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executor;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicLong;
import org.HdrHistogram.Histogram;

/**
 * What one lane counts, by the row of what is timed. It is written on the lane's event loop alone, without locks or atomic
 * operations; who reads has the loop hand over what it has counted so far. Recording allocates nothing.
 */
final class Tally {
    private static final long HIGHEST = 3_600_000_000L;
    private static final int MOST_REASONS = 200;
    private static final int WAIT_MILLIS = 2_000;

    private final int rows;
    private final AtomicLong sent = new AtomicLong();
    private final AtomicLong received = new AtomicLong();
    private final AtomicLong began = new AtomicLong();
    private final AtomicLong well = new AtomicLong();
    private final Map<String, Long> reasons = new HashMap<>();
    private Counts counts;

    /** What was counted since it was handed over last. */
    static final class Counts {
        final Histogram[] times;
        final Histogram[] begun;
        final Histogram[] stages = histograms(Stage.values().length);
        final long[] failed;
        final long[] unchecked;

        private Counts(int rows) {
            times = histograms(rows);
            begun = histograms(rows);
            failed = new long[rows];
            unchecked = new long[rows];
        }
    }

    Tally(int rows) {
        this.rows = rows;
        this.counts = new Counts(rows);
    }

    private static Histogram[] histograms(int count) {
        Histogram[] all = new Histogram[count];
        for (int i = 0; i < count; i++) {
            all[i] = histogram();
        }
        return all;
    }

    static Histogram histogram() {
        return new Histogram(1, HIGHEST, 3);
    }

    private static long micros(long nanos) {
        return Math.min(HIGHEST, Math.max(1, nanos / 1_000));
    }

    /** Adds one; only one thread does. */
    private static void more(AtomicLong counter) {
        counter.lazySet(counter.getPlain() + 1);
    }

    /** A request went out. */
    void sent() {
        more(sent);
    }

    /** Its answer came, or it failed. */
    void received() {
        more(received);
    }

    /** A journey that counts has begun. */
    void began() {
        more(began);
    }

    /** A journey came to its end. */
    void endedWell() {
        more(well);
    }

    long sentSoFar() {
        return sent.get();
    }

    long inFlight() {
        return sent.get() - received.get();
    }

    long begun() {
        return began.get();
    }

    long well() {
        return well.get();
    }

    /**
     * Something was done.
     *
     * @param nanos from when it was intended
     * @param late how much of that the generator was late
     */
    void done(int row, long nanos, long late) {
        counts.times[row].recordValue(micros(nanos));
        counts.begun[row].recordValue(micros(nanos - late));
    }

    /** Something failed, which is done as well. */
    void failed(int row, long nanos, long late, String reason, boolean byCheck) {
        done(row, nanos, late);
        counts.failed[row]++;
        counts.unchecked[row] += byCheck ? 1 : 0;
        if (reason != null) {
            synchronized (reasons) {
                String known = reasons.size() < MOST_REASONS || reasons.containsKey(reason) ? reason : "other";
                reasons.merge(known, 1L, Long::sum);
            }
        }
    }

    /** Time that a request spent in a stage of its way. */
    void spent(Stage stage, long nanos) {
        counts.stages[stage.ordinal()].recordValue(micros(nanos));
    }

    /**
     * What was counted since the last call; nothing when the loop does not come to it in time, and then the next call has it.
     *
     * @param loop runs what it is given on the lane's event loop
     */
    Counts take(Executor loop) {
        Counts fresh = new Counts(rows);
        FutureTask<Counts> swap = new FutureTask<>(() -> {
            Counts full = counts;
            counts = fresh;
            return full;
        });
        try {
            loop.execute(swap);
            return swap.get(WAIT_MILLIS, TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new Counts(rows);
        } catch (ExecutionException | TimeoutException e) {
            // taken back, so that nothing is handed to nobody
            return swap.cancel(false) ? new Counts(rows) : taken(swap);
        }
    }

    private Counts taken(FutureTask<Counts> swap) {
        try {
            return swap.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new Counts(rows);
        } catch (ExecutionException e) {
            throw new IllegalStateException("a swap cannot fail", e);
        }
    }

    Map<String, Long> reasons() {
        synchronized (reasons) {
            return new HashMap<>(reasons);
        }
    }
}
