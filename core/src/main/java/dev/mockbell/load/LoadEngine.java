package dev.mockbell.load;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.load.LoadListener.Phase;
import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import io.netty.bootstrap.Bootstrap;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoop;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;

/**
 * Makes load. Arrivals are due on a clock that nothing slows down, and every response time counts from when its request
 * was due, so that a service which stalls cannot hide it by holding the generator up. Before the clock starts the engine is
 * brought to speed on a peer of its own with the plan's requests, so that its own cold start is in no figure. One engine may do
 * several runs, one at a time or together.
 */
public final class LoadEngine {
    /** A host that nobody has confirmed gets no more than this a second. */
    public static final double UNCONFIRMED = 50;

    private static final long MOST_JOURNEYS = 50_000;
    private static final long SWEEP_MILLIS = 100;
    private static final long PROBE_MILLIS = 20;
    private static final long LEAD_NANOS = 20_000_000;

    /** Connections for as many answers as come in so many seconds are opened ahead. */
    private static final double AHEAD = 0.005;

    private final EventLoops loops;
    private final Expressions expressions;
    private final Connect connect;
    private final boolean readies;

    public LoadEngine(EventLoops loops, Expressions expressions) {
        this(loops, expressions, Connect.USUAL);
    }

    /** @param connect how servers are reached */
    public LoadEngine(EventLoops loops, Expressions expressions, Connect connect) {
        this(loops, expressions, connect, true);
    }

    /** @param readies whether it is brought to speed before each run; without, its own cold start is in the figures */
    LoadEngine(EventLoops loops, Expressions expressions, Connect connect, boolean readies) {
        this.loops = loops;
        this.expressions = expressions;
        this.connect = connect;
        this.readies = readies;
    }

    /**
     * Carries out a plan; returns when its time is up and what was under way is answered or timed out, or soon after a
     * stop.
     *
     * @param mayLoad whether a host may get more than {@link #UNCONFIRMED} a second
     * @throws Problem when the plan cannot be started: a missing case, a wrong expression, no endpoint; of kind
     *     LOAD_UNCONFIRMED when a host gets more than it may
     */
    public LoadRun run(
            LoadPlan plan, Workbench bench, Predicate<String> mayLoad, LoadListener listener, LoadControl control) {
        Rows rows = plan.rows().isPresent() ? Rows.of(plan.rows().get(), bench, expressions) : Rows.NONE;
        Set<String> columns = plan.rows().isPresent() ? rows.columns() : Set.of();
        Passage.Course course = Passage.course(plan, bench, columns, connect, expressions);
        confirmed(plan, course, mayLoad, control);
        int cores = Math.max(1, Runtime.getRuntime().availableProcessors());
        ThreadPoolExecutor workers =
                new ThreadPoolExecutor(cores, cores, 10, TimeUnit.SECONDS, new ArrayBlockingQueue<>(10_000), task -> {
                    Thread thread = new Thread(task, "load-worker");
                    thread.setDaemon(true);
                    return thread;
                });
        try {
            LoadSession session = new LoadSession(plan, course, expressions, workers, listener);
            if (readies) {
                listener.phase(Phase.READYING);
                // counters stay where they are: the target gets the same requests as if nothing had been before
                Expressions looking = expressions.looking();
                Passage.Course trial = Passage.course(plan, bench, columns, connect, looking);
                new Readiness(this, loops, looking, workers).bring(plan, trial, session, rows, control);
            }
            try (Field field = new Field(plan, session)) {
                return measured(plan, session, rows, field.lanes, listener, control);
            }
        } finally {
            workers.shutdownNow();
        }
    }

    private static void confirmed(
            LoadPlan plan, Passage.Course course, Predicate<String> mayLoad, LoadControl control) {
        double most = plan.shape().most();
        // users who do not rest ask as often as they are answered
        double rate = plan.shape().kind() == Kind.USERS
                ? most * 1_000 / Math.max(1, plan.pauses().low())
                : most * course.steps().size();
        for (LoadStep step : course.steps()) {
            String host = SecretHosts.plain(step.address().getHost());
            if (mayLoad.test(host)) {
                continue;
            }
            control.atMost(UNCONFIRMED / Math.max(1, rate));
            if (rate > UNCONFIRMED) {
                throw Problem.of(
                        Problem.Kind.LOAD_UNCONFIRMED,
                        "The plan puts " + host + " under more than " + (int) UNCONFIRMED
                                + " requests a second, and nobody has confirmed that it may be",
                        host,
                        "Confirm it if it is yours to load (on the command line: --confirm " + host + ").",
                        null);
            }
        }
    }

    /** One processor is left to the collector, the workers and, on loopback, to the service: loops that wait for it are late. */
    private static int lanesHere() {
        return Math.max(1, Runtime.getRuntime().availableProcessors() - 1);
    }

    /** The lanes of a run with what goes on beside them. */
    final class Field implements AutoCloseable {
        private final List<Lane> lanes = new ArrayList<>();
        private final List<ScheduledFuture<?>> beside = new ArrayList<>();

        Field(LoadPlan plan, LoadSession session) {
            int count = lanesHere();
            Conduct conduct = plan.conduct();
            int rows =
                    session.course().steps().size() + session.course().groups().size();
            long connectMillis = Math.min(connect.timeouts().connect().toMillis(), conduct.timeoutMillis());
            for (int i = 0; i < count; i++) {
                EventLoop loop = loops.group().next();
                Bootstrap bootstrap = new Bootstrap()
                        .group(loop)
                        .channel(loops.socketChannel())
                        .option(ChannelOption.TCP_NODELAY, true)
                        .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, (int) connectMillis);
                int most = Math.max(1, (conduct.mostConnections() - i + count - 1) / count);
                Lane lane = new Lane(loop, bootstrap, conduct, most, new Tally(rows));
                lanes.add(lane);
                beside.add(loop.scheduleAtFixedRate(lane::sweep, SWEEP_MILLIS, SWEEP_MILLIS, TimeUnit.MILLISECONDS));
                Probe probe = new Probe(session.clock());
                beside.add(loop.scheduleAtFixedRate(probe, PROBE_MILLIS, PROBE_MILLIS, TimeUnit.MILLISECONDS));
            }
        }

        List<Lane> lanes() {
            return lanes;
        }

        @Override
        public void close() {
            beside.forEach(s -> s.cancel(false));
            lanes.forEach(l -> l.loop().execute(l::close));
        }
    }

    /** Finds out how late an event loop comes to what it is to do. */
    private static final class Probe implements Runnable {
        private final LoadClock clock;
        private final long began = System.nanoTime();
        private long turns;

        Probe(LoadClock clock) {
            this.clock = clock;
        }

        @Override
        public void run() {
            long due = began + ++turns * PROBE_MILLIS * 1_000_000;
            clock.delayed(Math.max(0, System.nanoTime() - due));
        }
    }

    /** Starts the drivers of a shape on all lanes; {@code done} is counted down by each when all of its work is over. */
    void drive(
            LoadPlan plan,
            LoadShape shape,
            LoadSession session,
            List<Lane> lanes,
            Rows rows,
            LoadControl control,
            Progress progress,
            long from,
            CountDownLatch done) {
        ArrivalTimes times = new ArrivalTimes(shape);
        for (int i = 0; i < lanes.size(); i++) {
            Lane lane = lanes.get(i);
            LoadDriver.Ground ground = new LoadDriver.Ground(
                    session,
                    lane,
                    control,
                    rows,
                    new SplittableRandom(plan.conduct().seed() + i),
                    progress,
                    from,
                    done::countDown);
            LoadDriver driver = shape.kind() == Kind.ARRIVALS
                    ? new Arrivals(ground, times, i, lanes.size(), MOST_JOURNEYS / lanes.size())
                    : new Users(
                            ground,
                            shape,
                            plan.rows().filter(RowUse::perUser).isPresent(),
                            i,
                            lanes.size(),
                            plan.conduct().seed());
            control.onChange(() -> lane.loop().execute(driver::changed));
            lane.loop().schedule(driver::begin, from - System.nanoTime(), TimeUnit.NANOSECONDS);
        }
    }

    private LoadRun measured(
            LoadPlan plan,
            LoadSession session,
            Rows rows,
            List<Lane> lanes,
            LoadListener listener,
            LoadControl control) {
        openAhead(plan, session, lanes);
        int warmUp = plan.conduct().warmUpSeconds();
        if (warmUp > 0) {
            listener.phase(Phase.WARMING);
        }
        LoadShape shape = warmUp == 0
                ? plan.shape()
                : plan.shape()
                        .with(plan.shape().points().stream()
                                .map(p -> new Point(p.at() + warmUp, p.level()))
                                .toList());
        long begin = System.nanoTime() + LEAD_NANOS;
        long from = begin + warmUp * 1_000_000_000L;
        long until = begin + (long) (shape.seconds() * 1e9);
        session.countFrom(from);
        Progress progress = new Progress();
        CountDownLatch done = new CountDownLatch(lanes.size());
        drive(plan, shape, session, lanes, rows, control, progress, begin, done);
        Sampler sampler = new Sampler(plan, lanes, session, progress, control, listener, from);
        waitUntil(from, control.stop()::isStopped);
        Instant started = Instant.now();
        if (warmUp > 0) {
            session.clock().takeLatestMillis();
            session.clock().takeLoopDelayMillis();
        }
        listener.phase(Phase.MEASURING);
        sampler.start();
        try {
            // the time after the last arrival is part of the plan's, or the rate would come out too high
            boolean once =
                    plan.rows().filter(r -> r.order() == RowUse.Order.ONCE).isPresent();
            waitUntil(until, () -> control.isEnding() || once && done.getCount() == 0);
            long giveUp = System.nanoTime() + plan.conduct().timeoutMillis() * 1_000_000 + 2_000_000_000L;
            while (done.getCount() > 0 && !control.stop().isStopped() && System.nanoTime() < giveUp) {
                LockSupport.parkNanos(2_000_000);
            }
        } finally {
            sampler.finish();
        }
        return sampler.result(started, Math.max(0.001, (System.nanoTime() - from) / 1e9));
    }

    private static void waitUntil(long due, BooleanSupplier enough) {
        while (System.nanoTime() < due && !enough.getAsBoolean()) {
            LockSupport.parkNanos(Math.min(20_000_000, Math.max(1, due - System.nanoTime())));
        }
    }

    /** Opens as many connections as the plan will need at its start, and waits for them a little. */
    static void openAhead(LoadPlan plan, LoadSession session, List<Lane> lanes) {
        if (!plan.conduct().keepsConnections()) {
            return;
        }
        double needed = plan.shape().kind() == Kind.USERS
                ? plan.shape().first()
                : Math.ceil(plan.shape().first() * AHEAD);
        int each = (int) Math.min(2_000, Math.ceil(needed / lanes.size()));
        LoadStep first = session.course().steps().get(0);
        CountDownLatch opened = new CountDownLatch(lanes.size());
        for (Lane lane : lanes) {
            lane.loop().execute(() -> lane.openAhead(first, each, opened::countDown));
        }
        try {
            // a target that is not there is found out by the run
            opened.await(Math.min(2_000, plan.conduct().timeoutMillis()), TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
