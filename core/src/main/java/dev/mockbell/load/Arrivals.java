package dev.mockbell.load;

import dev.mockbell.load.LoadDriver.Ground;
import java.util.Map;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;

/**
 * Starts the arrivals of one lane at the moments that the curve gives: of all arrivals every so-manieth is this lane's. It runs
 * on the lane's own loop, so that nothing lies between a timer and the request. Later arrivals never wait for earlier ones.
 */
final class Arrivals implements LoadDriver {
    /** More than so many at once, and answers would have to wait. */
    private static final int TOGETHER = 64;

    private final Ground ground;
    private final ArrivalTimes times;
    private final int lane;
    private final int lanes;
    private final Turns turns;
    private final long most;
    private final boolean midway;
    private Pace pace;
    private long next;
    private long open;
    private boolean over;
    private ScheduledFuture<?> timer;

    /**
     * How arrivals follow each other since the rate was changed last.
     *
     * @param arrivals how many had come by then, in numbers of arrivals
     * @param area how many the curve had by then
     */
    private record Pace(double arrivals, double area, double factor) {
        double areaOf(double n) {
            return area + (n - arrivals) / factor;
        }
    }

    /**
     * @param lane the number of the lane, from 0
     * @param most how many may be under way at a time
     * @param midway whether it begins in the midst of a run, for a generator that failed
     */
    Arrivals(Ground ground, ArrivalTimes times, int lane, int lanes, long most, boolean midway) {
        this.ground = ground;
        this.times = times;
        this.lane = lane;
        this.lanes = lanes;
        this.next = lane;
        this.most = most;
        this.midway = midway;
        this.turns = new Turns(ground.session().course().passages());
        this.pace = new Pace(0, 0, ground.control().factor());
    }

    @Override
    public void begin() {
        if (midway) {
            // what was due before was not for this one
            double come = times.by((System.nanoTime() - ground.from()) / 1e9);
            next = lane + (long) Math.ceil(Math.max(0, come - lane) / lanes) * lanes;
            pace = new Pace(come, come, ground.control().factor());
        }
        step();
    }

    @Override
    public void changed() {
        if (over) {
            return;
        }
        if (ground.control().isEnding()) {
            finish();
            return;
        }
        double area = times.by((System.nanoTime() - ground.from()) / 1e9);
        double come = pace.arrivals() + (area - pace.area()) * pace.factor();
        pace = new Pace(come, area, ground.control().factor());
        step();
    }

    private void step() {
        if (timer != null) {
            timer.cancel(false);
            timer = null;
        }
        for (int i = 0; !over; i++) {
            double second = times.due(pace.areaOf(next));
            if (second == Double.POSITIVE_INFINITY) {
                finish();
                return;
            }
            long due = ground.from() + (long) (second * 1e9);
            long left = due - System.nanoTime();
            if (left > 0) {
                timer = ground.lane().loop().schedule(this::step, left, TimeUnit.NANOSECONDS);
                return;
            }
            if (i >= TOGETHER) {
                ground.lane().loop().execute(this::step);
                return;
            }
            next += lanes;
            start(due);
        }
    }

    private void start(long due) {
        if (open >= most) {
            if (ground.session().counts(due)) {
                ground.lane()
                        .tally()
                        .failed(0, System.nanoTime() - due, 0, "more under way than the generator can hold", false);
            }
            return;
        }
        Map<String, String> row = ground.rows().next(ground.chance());
        if (row == null) {
            finish();
            return;
        }
        if (ground.session().counts(due)) {
            ground.lane().tally().began();
        }
        open++;
        new Journey(ground.session(), ground.lane(), turns.next(), row, ground.chance(), due, this::ended).go();
    }

    private void ended(boolean well, long now) {
        if (well) {
            ground.lane().tally().endedWell();
        }
        open--;
        if (over && open == 0) {
            ground.done().run();
        }
    }

    private void finish() {
        over = true;
        if (open == 0) {
            ground.done().run();
        }
    }
}
