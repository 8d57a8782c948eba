package dev.mockbell.load;

import dev.mockbell.task.StopSignal;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;

/** What can be done to a run while it is under way. Safe for many threads. */
public final class LoadControl {
    private static final double MOST = 100;

    private final StopSignal stop;
    private final List<Runnable> listeners = new CopyOnWriteArrayList<>();
    private final List<Consumer<List<Integer>>> helpers = new CopyOnWriteArrayList<>();
    private volatile double factor = 1;
    private volatile double highest = MOST;
    private volatile boolean gently;

    /** @param stop ends the run at once */
    public LoadControl(StopSignal stop) {
        this.stop = stop;
    }

    /** Ends the run at once; what is under way is given up. */
    public StopSignal stop() {
        return stop;
    }

    /** Nothing new comes in from now on; what is under way is waited for. */
    public void stopGently() {
        gently = true;
        changed();
    }

    /** From now on everything comes in at so many times the plan's levels; from 0.01 to {@link #highest()}. */
    public void factor(double other) {
        factor = Math.max(0.01, Math.min(highest, other));
        changed();
    }

    /** At how many times the plan's levels it may go: as many as its targets are confirmed for, 100 at most. */
    public double highest() {
        return highest;
    }

    /** Goes no faster than that, nor than the plan. */
    void atMost(double times) {
        highest = Math.max(1, Math.min(MOST, times));
    }

    public double factor() {
        return factor;
    }

    /** Whether nothing new is to come in. */
    public boolean isEnding() {
        return gently || stop.isStopped();
    }

    /** Hears when the rate was changed, or nothing new is to come in; on the thread that did so. */
    public void onChange(Runnable listener) {
        listeners.add(listener);
    }

    void onTakeOver(Consumer<List<Integer>> helper) {
        helpers.add(helper);
    }

    /**
     * From now on this generator makes the part of other lanes too, whose own generator failed; before it has begun, nothing
     * comes of it.
     *
     * @param lanes their numbers among all
     */
    public void takeOver(List<Integer> lanes) {
        helpers.forEach(h -> h.accept(lanes));
    }

    private void changed() {
        listeners.forEach(Runnable::run);
    }
}
