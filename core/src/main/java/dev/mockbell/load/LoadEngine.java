package dev.mockbell.load;

import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import io.netty.bootstrap.Bootstrap;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoop;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;

/**
 * Makes load. Arrivals are due on a clock that nothing slows down, and every response time counts from when its request
 * was due, so that a service which stalls cannot hide it by holding the generator up. One engine may do several runs, one
 * at a time or together.
 */
public final class LoadEngine {
    private static final int MOST_JOURNEYS = 50_000;
    private static final long SWEEP_MILLIS = 100;

    private final EventLoops loops;
    private final Expressions expressions;
    private final Connect connect;

    public LoadEngine(EventLoops loops, Expressions expressions) {
        this(loops, expressions, Connect.USUAL);
    }

    /** @param connect how servers are reached */
    public LoadEngine(EventLoops loops, Expressions expressions, Connect connect) {
        this.loops = loops;
        this.expressions = expressions;
        this.connect = connect;
    }

    /**
     * Carries out a plan; returns when its time is up and what was under way is answered or timed out, or soon after a
     * stop.
     *
     * @throws Problem when the plan cannot be started: a missing case, a wrong expression, no endpoint
     */
    public LoadRun run(LoadPlan plan, Suite suite, Workbench bench, LoadListener listener, StopSignal stop) {
        List<LoadStep> steps = LoadStep.of(suite, bench, plan.endpoint(), connect, expressions);
        int cores = Math.max(1, Runtime.getRuntime().availableProcessors());
        ThreadPoolExecutor workers =
                new ThreadPoolExecutor(cores, cores, 10, TimeUnit.SECONDS, new ArrayBlockingQueue<>(10_000), task -> {
                    Thread thread = new Thread(task, "load-worker");
                    thread.setDaemon(true);
                    return thread;
                });
        List<Lane> lanes = lanes(steps, plan.timeoutMillis(), cores);
        LoadSession session = new LoadSession(steps, expressions, workers, listener, "load " + plan.title());
        List<ScheduledFuture<?>> sweeps = new ArrayList<>();
        for (Lane lane : lanes) {
            sweeps.add(lane.loop().scheduleAtFixedRate(lane::sweep, SWEEP_MILLIS, SWEEP_MILLIS, TimeUnit.MILLISECONDS));
        }
        try {
            return measured(plan, steps, session, lanes, listener, stop);
        } finally {
            sweeps.forEach(s -> s.cancel(false));
            lanes.forEach(l -> l.loop().execute(l::close));
            workers.shutdownNow();
        }
    }

    private LoadRun measured(
            LoadPlan plan,
            List<LoadStep> steps,
            LoadSession session,
            List<Lane> lanes,
            LoadListener listener,
            StopSignal stop) {
        AtomicLong open = new AtomicLong();
        Instant started = Instant.now();
        long from = System.nanoTime();
        long until = from + plan.seconds() * 1_000_000_000L;
        LoadClock clock = new LoadClock();
        Sampler sampler = new Sampler(steps, lanes, session, clock, listener, from);
        sampler.start();
        try {
            plan.shape().accept(new LoadShape.Visitor<Void>() {
                @Override
                public Void arrivals(LoadShape.Arrivals shape) {
                    arrive(shape, session, lanes, clock, open, from, until, stop);
                    return null;
                }

                @Override
                public Void users(LoadShape.Users shape) {
                    LoadEngine.users(shape, session, lanes, clock, open, until, stop);
                    return null;
                }
            });
            long giveUp = System.nanoTime() + plan.timeoutMillis() * 1_000_000 + 2_000_000_000L;
            while (open.get() > 0 && !stop.isStopped() && System.nanoTime() < giveUp) {
                LockSupport.parkNanos(2_000_000);
            }
        } finally {
            sampler.finish();
        }
        return sampler.result(plan, started, (System.nanoTime() - from) / 1e9, stop.isStopped());
    }

    private List<Lane> lanes(List<LoadStep> steps, long timeoutMillis, int count) {
        long connectMillis = Math.min(connect.timeouts().connect().toMillis(), timeoutMillis);
        List<Lane> lanes = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            EventLoop loop = loops.group().next();
            Bootstrap bootstrap = new Bootstrap()
                    .group(loop)
                    .channel(loops.socketChannel())
                    .option(ChannelOption.TCP_NODELAY, true)
                    .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, (int) connectMillis);
            lanes.add(new Lane(loop, bootstrap, timeoutMillis * 1_000_000, new Tally(steps.size())));
        }
        return lanes;
    }

    private static void arrive(
            LoadShape.Arrivals shape,
            LoadSession session,
            List<Lane> lanes,
            LoadClock clock,
            AtomicLong open,
            long from,
            long until,
            StopSignal stop) {
        double gap = 1e9 / shape.perSecond();
        for (long n = 0; !stop.isStopped(); n++) {
            long due = from + (long) (n * gap);
            if (due >= until) {
                // the time after the last arrival is part of the plan's, or the rate would come out too high
                waitFor(until, stop);
                return;
            }
            waitFor(due, stop);
            if (stop.isStopped()) {
                return;
            }
            clock.started(due);
            Lane lane = lanes.get((int) (n % lanes.size()));
            if (open.incrementAndGet() > MOST_JOURNEYS) {
                open.decrementAndGet();
                lane.loop()
                        .execute(() -> lane.tally()
                                .failed(0, System.nanoTime() - due, "more under way than the generator can hold"));
                continue;
            }
            Journey journey = new Journey(session, lane, due, open::decrementAndGet);
            lane.loop().execute(journey::go);
        }
    }

    private static void waitFor(long due, StopSignal stop) {
        long left = due - System.nanoTime();
        while (left > 0 && !stop.isStopped()) {
            LockSupport.parkNanos(Math.min(left, 50_000_000));
            left = due - System.nanoTime();
        }
    }

    private static void users(
            LoadShape.Users shape,
            LoadSession session,
            List<Lane> lanes,
            LoadClock clock,
            AtomicLong open,
            long until,
            StopSignal stop) {
        open.set(shape.count());
        for (int i = 0; i < shape.count(); i++) {
            Lane lane = lanes.get(i % lanes.size());
            lane.loop().execute(() -> round(shape, session, lane, clock, open, until, stop));
        }
        while (System.nanoTime() < until && !stop.isStopped()) {
            LockSupport.parkNanos(Math.min(20_000_000, Math.max(1, until - System.nanoTime())));
        }
    }

    private static void round(
            LoadShape.Users shape,
            LoadSession session,
            Lane lane,
            LoadClock clock,
            AtomicLong open,
            long until,
            StopSignal stop) {
        long now = System.nanoTime();
        if (now >= until || stop.isStopped()) {
            open.decrementAndGet();
            return;
        }
        clock.started(now);
        Runnable again = () -> round(shape, session, lane, clock, open, until, stop);
        // at least one turn of the loop lies between two rounds, so that failures in a row cannot deepen the stack
        Runnable atEnd = () -> {
            if (shape.pauseMillis() > 0) {
                lane.loop().schedule(again, shape.pauseMillis(), TimeUnit.MILLISECONDS);
            } else {
                lane.loop().execute(again);
            }
        };
        new Journey(session, lane, now, atEnd).go();
    }
}
