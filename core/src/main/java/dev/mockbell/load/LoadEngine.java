package dev.mockbell.load;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.load.LoadListener.Phase;
import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.ProviderJars;
import io.netty.bootstrap.Bootstrap;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoop;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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
    private final ProviderJars providers;
    private final boolean readies;

    public LoadEngine(EventLoops loops, Expressions expressions) {
        this(loops, expressions, ProviderJars.NONE);
    }

    /** @param providers of queues, besides those that are in the program */
    public LoadEngine(EventLoops loops, Expressions expressions, ProviderJars providers) {
        this(loops, expressions, Connect.USUAL, providers, true);
    }

    /**
     * @param connect how servers are reached
     * @param readies whether it is brought to speed before each run; without, its own cold start is in the figures
     */
    public LoadEngine(
            EventLoops loops, Expressions expressions, Connect connect, ProviderJars providers, boolean readies) {
        this.loops = loops;
        this.expressions = expressions;
        this.connect = connect;
        this.providers = providers;
        this.readies = readies;
    }

    /** How many lanes a generator here has, which says how much of a run that several make is its part. */
    public static int lanes() {
        return lanesHere();
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
        Prepared prepared = prepared(plan, bench, LoadPart.whole(lanesHere()), mayLoad, control);
        LoadSums sums =
                new LoadSums(plan, prepared.course().names(), prepared.course().groups());
        Ran ran = carryOut(plan, prepared, bench, new Alone(sums, listener, control), control);
        return sums.result(ran.started(), ran.seconds(), control.isEnding(), List.of(), List.of());
    }

    /**
     * Makes one part of a run that several generators make together; the plan is the whole one. Limits are not judged here.
     *
     * @param mayLoad as for {@link #run}
     * @throws Problem as {@link #run}
     */
    public Ran take(
            LoadPart part,
            LoadPlan plan,
            Workbench bench,
            Predicate<String> mayLoad,
            PartListener listener,
            LoadControl control) {
        return carryOut(plan, prepared(plan, bench, part, mayLoad, control), bench, listener, control);
    }

    /**
     * What a plan carries out, without doing it.
     *
     * @return the names of its steps and of its groups
     * @throws Problem as {@link #run}
     */
    public Named named(LoadPlan plan, Workbench bench, Predicate<String> mayLoad, LoadControl control) {
        Rows rows = rows(plan, bench, LoadPart.whole(1));
        Passage.Course course = course(plan, bench, rows, expressions.looking());
        confirmed(plan, course, mayLoad, control);
        return new Named(
                course.names(),
                course.groups(),
                course.steps().stream().map(LoadStep::host).distinct().toList());
    }

    /**
     * What is timed, and where it goes.
     *
     * @param hosts without ports
     */
    public record Named(List<String> steps, List<String> groups, List<String> hosts) {}

    /**
     * When a part was made.
     *
     * @param started when counting began
     * @param seconds how long it took, with what was waited for at the end
     */
    public record Ran(Instant started, double seconds) {}

    /** Adds up what it counts, second by second, and ends the run when its limits say so. */
    private record Alone(LoadSums sums, LoadListener listener, LoadControl control) implements PartListener {
        @Override
        public void phase(Phase phase) {
            listener.phase(phase);
        }

        @Override
        public long ready() {
            return System.nanoTime() + LEAD_NANOS;
        }

        @Override
        public void portion(Portion portion) {
            sums.add(portion);
        }

        @Override
        public void second(double elapsed) {
            LoadSecond now = sums.close(elapsed);
            listener.times(now.second(), sums.times(now.second()));
            listener.second(now);
            if (sums.endsEarly()) {
                control.stopGently();
            }
        }

        @Override
        public void failure(Exchange exchange) {
            listener.failure(exchange);
        }
    }

    /** What a generator needs for its part. */
    private record Prepared(LoadPart part, Rows rows, Passage.Course course) {}

    private Prepared prepared(
            LoadPlan plan, Workbench bench, LoadPart part, Predicate<String> mayLoad, LoadControl control) {
        Rows rows = rows(plan, bench, part);
        Passage.Course course = course(plan, bench, rows, expressions);
        confirmed(plan, course, mayLoad, control);
        return new Prepared(part, rows, course);
    }

    private Rows rows(LoadPlan plan, Workbench bench, LoadPart part) {
        return plan.rows().isPresent() ? Rows.of(plan.rows().get(), bench, expressions, part) : Rows.NONE;
    }

    private Passage.Course course(LoadPlan plan, Workbench bench, Rows rows, Expressions by) {
        return Passage.course(plan, bench, plan.rows().isPresent() ? rows.columns() : Set.of(), connect, by);
    }

    private Ran carryOut(
            LoadPlan plan, Prepared prepared, Workbench bench, PartListener listener, LoadControl control) {
        Rows rows = prepared.rows();
        int cores = Math.max(1, Runtime.getRuntime().availableProcessors());
        ThreadPoolExecutor workers =
                new ThreadPoolExecutor(cores, cores, 10, TimeUnit.SECONDS, new ArrayBlockingQueue<>(10_000), task -> {
                    Thread thread = new Thread(task, "load-worker");
                    thread.setDaemon(true);
                    return thread;
                });
        try {
            LoadSession session = new LoadSession(plan, prepared.course(), expressions, workers, listener::failure);
            if (readies) {
                listener.phase(Phase.READYING);
                // counters stay where they are: the target gets the same requests as if nothing had been before
                Expressions looking = expressions.looking();
                Passage.Course trial = course(plan, bench, rows, looking);
                new Readiness(this, loops, looking, workers).bring(plan, trial, session, rows, control);
            }
            try (Field field = new Field(plan, prepared.part(), session)) {
                return measured(plan, session, rows, field, listener, control);
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
            String host = step.host();
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

    /** The lanes of a generator's part of a run, with what goes on beside them. */
    final class Field implements AutoCloseable {
        private final List<Lane> lanes = new ArrayList<>();
        private final List<ScheduledFuture<?>> beside = new ArrayList<>();
        private final LoadPart part;
        private final Queues queues;

        Field(LoadPlan plan, LoadSession session) {
            this(plan, LoadPart.whole(lanesHere()), session);
        }

        Field(LoadPlan plan, LoadPart part, LoadSession session) {
            this.part = part;
            int all = part.allLanes();
            Conduct conduct = plan.conduct();
            int rows =
                    session.course().steps().size() + session.course().groups().size();
            this.queues = new Queues(
                    providers,
                    conduct,
                    Math.max(1, conduct.mostConnections() * lanesHere() / Math.max(lanesHere(), all)));
            long connectMillis = Math.min(connect.timeouts().connect().toMillis(), conduct.timeoutMillis());
            for (int i = 0; i < lanesHere(); i++) {
                EventLoop loop = loops.group().next();
                Bootstrap bootstrap = new Bootstrap()
                        .group(loop)
                        .channel(loops.socketChannel())
                        .option(ChannelOption.TCP_NODELAY, true)
                        .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, (int) connectMillis);
                int most = Math.max(1, (conduct.mostConnections() - part.firstLane() - i + all - 1) / all);
                Lane lane = new Lane(loop, bootstrap, loops, conduct, queues, most, new Tally(rows));
                lanes.add(lane);
                beside.add(loop.scheduleAtFixedRate(lane::sweep, SWEEP_MILLIS, SWEEP_MILLIS, TimeUnit.MILLISECONDS));
                Probe probe = new Probe(session.clock());
                beside.add(loop.scheduleAtFixedRate(probe, PROBE_MILLIS, PROBE_MILLIS, TimeUnit.MILLISECONDS));
            }
            beside.add(loops.group()
                    .next()
                    .scheduleAtFixedRate(queues::sweep, SWEEP_MILLIS, SWEEP_MILLIS, TimeUnit.MILLISECONDS));
        }

        List<Lane> lanes() {
            return lanes;
        }

        LoadPart part() {
            return part;
        }

        /** How many connections there are, to servers and brokers. */
        int connections() {
            return lanes.stream().mapToInt(Lane::connections).sum() + queues.connections();
        }

        @Override
        public void close() {
            beside.forEach(s -> s.cancel(false));
            lanes.forEach(l -> l.loop().execute(l::close));
            queues.close();
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

    /** Has the drivers of a shape at work on a field's lanes, and on more when others fail. */
    final class Driving {
        private final LoadPlan plan;
        private final LoadShape shape;
        private final ArrivalTimes times;
        private final LoadSession session;
        private final Field field;
        private final Rows rows;
        private final LoadControl control;
        private final long from;
        private final Progress progress = new Progress();
        private final Underway underway = new Underway();

        /** @param from when the curve starts, by {@link System#nanoTime()} */
        Driving(
                LoadPlan plan,
                LoadShape shape,
                LoadSession session,
                Field field,
                Rows rows,
                LoadControl control,
                long from) {
            this.plan = plan;
            this.shape = shape;
            this.times = new ArrivalTimes(shape);
            this.session = session;
            this.field = field;
            this.rows = rows;
            this.control = control;
            this.from = from;
        }

        Underway start() {
            for (int i = 0; i < field.lanes().size(); i++) {
                driver(field.part().firstLane() + i, field.lanes().get(i), false);
            }
            control.onTakeOver(numbers -> {
                for (int number : numbers) {
                    driver(number, field.lanes().get(number % field.lanes().size()), true);
                }
            });
            return underway;
        }

        private void driver(int number, Lane lane, boolean midway) {
            int all = field.part().allLanes();
            long seed = plan.conduct().seed();
            underway.begin();
            LoadDriver.Ground ground = new LoadDriver.Ground(
                    session, lane, control, rows, new SplittableRandom(seed + number), progress, from, underway::end);
            LoadDriver driver = shape.kind() == Kind.ARRIVALS
                    ? new Arrivals(
                            ground,
                            times,
                            number,
                            all,
                            MOST_JOURNEYS / field.lanes().size(),
                            midway)
                    : new Users(
                            ground, shape, plan.rows().filter(RowUse::perUser).isPresent(), number, all, seed);
            control.onChange(() -> lane.loop().execute(driver::changed));
            lane.loop().schedule(driver::begin, Math.max(0, from - System.nanoTime()), TimeUnit.NANOSECONDS);
        }
    }

    private Ran measured(
            LoadPlan plan, LoadSession session, Rows rows, Field field, PartListener listener, LoadControl control) {
        openAhead(plan, session, field);
        int warmUp = plan.conduct().warmUpSeconds();
        LoadShape shape = warmUp == 0
                ? plan.shape()
                : plan.shape()
                        .with(plan.shape().points().stream()
                                .map(p -> new Point(p.at() + warmUp, p.level()))
                                .toList());
        long begin = listener.ready();
        if (warmUp > 0) {
            listener.phase(Phase.WARMING);
        }
        long from = begin + warmUp * 1_000_000_000L;
        long until = begin + (long) (shape.seconds() * 1e9);
        session.countFrom(from);
        Driving driving = new Driving(plan, shape, session, field, rows, control, begin);
        Underway underway = driving.start();
        int timed = session.course().steps().size() + session.course().groups().size();
        Sampler sampler = new Sampler(field, timed, session.clock(), driving.progress, from, listener);
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
            waitUntil(until, () -> control.isEnding() || once && underway.isOver());
            long giveUp = System.nanoTime() + plan.conduct().timeoutMillis() * 1_000_000 + 2_000_000_000L;
            while (!underway.isOver() && !control.stop().isStopped() && System.nanoTime() < giveUp) {
                LockSupport.parkNanos(2_000_000);
            }
        } finally {
            sampler.finish();
        }
        return new Ran(started, Math.max(0.001, (System.nanoTime() - from) / 1e9));
    }

    private static void waitUntil(long due, BooleanSupplier enough) {
        while (System.nanoTime() < due && !enough.getAsBoolean()) {
            LockSupport.parkNanos(Math.min(20_000_000, Math.max(1, due - System.nanoTime())));
        }
    }

    /** Opens as many connections as the plan will need at its start, and waits for them a little. */
    static void openAhead(LoadPlan plan, LoadSession session, Field field) {
        List<Lane> lanes = field.lanes();
        if (!plan.conduct().keepsConnections()) {
            return;
        }
        double needed = plan.shape().kind() == Kind.USERS
                ? plan.shape().first()
                : Math.ceil(plan.shape().first() * AHEAD);
        int each = (int) Math.min(2_000, Math.ceil(needed / field.part().allLanes()));
        List<LoadStep> steps = session.course().steps();
        Optional<LoadStep> first =
                steps.stream().filter(s -> s.way() instanceof Way.Http).findFirst();
        CountDownLatch opened = new CountDownLatch(first.isPresent() ? lanes.size() : 0);
        first.ifPresent(step -> lanes.forEach(l -> l.loop().execute(() -> l.openAhead(step, each, opened::countDown))));
        // agreeing upon TLS takes both sides their time, and is waited for: it is no part of what is measured
        long most = first.filter(LoadStep::isSecure).isPresent() ? 10_000 : 2_000;
        long within = Math.min(most, plan.conduct().timeoutMillis());
        try {
            // a target that is not there is found out by the run
            field.queues.openAhead(steps, Math.max(1, each * lanes.size()), within);
            opened.await(within, TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
