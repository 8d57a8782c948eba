package dev.mockbell.load;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.Handshakes;
import dev.mockbell.wire.SelfIssued;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Function;
import javax.net.ssl.SSLContext;
import org.HdrHistogram.Histogram;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Brings the engine to speed before a run: the plan's own requests go to a peer on loopback that answers them with samples, as
 * fast as they can until that gets no faster, then at the plan's pace, begun anew until the beginning is as good as the rest.
 * What a program does the first thousand times is slow, and must not be taken for the service's time.
 */
final class Readiness {
    private static final Logger LOG = LoggerFactory.getLogger(Readiness.class);
    private static final int USERS_A_LANE = 32;
    private static final long WINDOW_NANOS = 120_000_000;
    private static final int LEAST_WINDOWS = 5;
    private static final int MOST_WINDOWS = 36;

    /** It has got no faster when the last windows are within this of the best. */
    private static final double STEADY = 0.06;

    private static final double PACED_SECONDS = 0.5;
    private static final double LEAST_PACED = 100;
    private static final double MOST_PACED = 5_000;
    private static final int MOST_REHEARSALS = 10;

    private static final double LEAST_BY_QUEUE = 20;

    /** A beginning by way of a broker is better when its slowest take less than this part of the best before. */
    private static final double BETTER = 0.8;

    /** A beginning is good when so few are slower than this, on a peer that answers at once. */
    private static final long GOOD_MICROS = 2_000;

    private static final double GOOD_LATE_MILLIS = 8;
    private static final int MOST_PEERS = 16;

    /** For agreeing upon TLS, where the target asks for it. */
    private static final long TLS_NANOS = 1_500_000_000L;

    /** For what is under way, in seconds. */
    private static final int MOST_WAIT = 3;

    private final LoadEngine engine;
    private final EventLoops loops;
    private final Expressions expressions;
    private final ExecutorService workers;

    Readiness(LoadEngine engine, EventLoops loops, Expressions expressions, ExecutorService workers) {
        this.engine = engine;
        this.loops = loops;
        this.expressions = expressions;
        this.workers = workers;
    }

    /**
     * Does so; what the session will need to know of it, it learns. Returns early when the run is stopped.
     *
     * @param trial the run's course, made by expressions that move nothing on
     */
    void bring(LoadPlan plan, Passage.Course trial, LoadSession session, Rows rows, LoadControl control) {
        List<LoopbackPeer> peers = new ArrayList<>();
        try {
            if (speaksTls(trial)) {
                // a flood over connections that are kept agrees upon TLS but a few times
                long end = System.nanoTime() + TLS_NANOS;
                Handshakes.practise(() -> control.stop().isStopped() || System.nanoTime() > end);
            }
            Passage.Course course = against(trial, peers, Way.Queue.Peer.Nobody::new);
            Conduct conduct = plan.conduct().withTimeout(2_000).withWarmUp(0);
            LoadPlan flat = plan.with(Pauses.NONE).with(conduct);
            LoadSession own = new LoadSession(flat, course, expressions, workers, failure -> {});
            own.countFrom(System.nanoTime());
            try (LoadEngine.Field field = engine.new Field(flat, own)) {
                flood(flat, own, rows.again(), field, control);
            }
            // what was left behind is collected now rather than in the run
            System.gc();
            session.learnFrom(own);
            boolean queued = trial.steps().stream().anyMatch(s -> s.way() instanceof Way.Queue);
            if (!queued) {
                rehearse(flat, own, rows.again(), control);
                session.learnFrom(own);
                return;
            }
            Passage.Course queues = against(trial, peers, Way.Queue.Peer.Ourselves::new);
            LoadSession byQueue = new LoadSession(flat, queues, expressions, workers, failure -> {});
            byQueue.learnFrom(own);
            byQueue.countFrom(System.nanoTime());
            rehearseByQueue(flat, byQueue, rows.again(), control);
            session.learnFrom(byQueue);
        } finally {
            peers.forEach(LoopbackPeer::close);
        }
    }

    private Passage.Course against(
            Passage.Course course, List<LoopbackPeer> peers, Function<Content, Way.Queue.Peer> queued) {
        // a target that speaks TLS is rehearsed for by a peer that does
        Optional<SelfIssued> key = speaksTls(course) ? key() : Optional.empty();
        SSLContext trusting = key.map(k -> Connect.USUAL.with(k.trust()).tls()).orElse(null);
        Map<Integer, LoadStep> steps = new HashMap<>();
        for (LoadStep step : course.steps()) {
            if (step.way() instanceof Way.Queue way) {
                Content sample = Content.of(sample(step).getBytes(StandardCharsets.UTF_8));
                steps.put(step.index(), step.to(way.answeredBy(queued.apply(sample))));
                continue;
            }
            boolean secure = step.isSecure();
            if (peers.size() < MOST_PEERS) {
                Optional<SSLContext> tls = key.filter(k -> secure).map(SelfIssued::server);
                peers.add(new LoopbackPeer(loops, sample(step), fault(step), tls));
            }
            URI peer = peers.get(peers.size() - 1).address();
            steps.put(step.index(), step.to(peer, Way.Http.isSecure(peer) ? trusting : null));
        }
        List<Passage> passages = course.passages().stream()
                .map(p -> p.hurried(step -> steps.get(step.index())))
                .toList();
        return new Passage.Course(
                passages, course.steps().stream().map(s -> steps.get(s.index())).toList(), course.groups());
    }

    private static boolean speaksTls(Passage.Course course) {
        return course.steps().stream().anyMatch(LoadStep::isSecure);
    }

    private static Optional<SelfIssued> key() {
        try {
            return Optional.of(SelfIssued.made());
        } catch (GeneralSecurityException e) {
            LOG.info("no getting up to speed by TLS: {}", e.toString());
            return Optional.empty();
        }
    }

    private static String fault(LoadStep step) {
        SoapVersion version = SoapVersion.of(step.bound());
        return Envelope.around(version, SoapFault.xml(version, SoapFault.Code.RECEIVER, "a trial", ""), List.of());
    }

    private static String sample(LoadStep step) {
        SoapVersion version = SoapVersion.of(step.bound());
        String payload;
        try {
            payload = step.outline()
                    .map(o -> SampleBuilder.text(o, SampleBuilder.Detail.FULL))
                    .orElse("");
        } catch (Problem none) {
            payload = "";
        }
        return Envelope.around(version, payload, List.of());
    }

    private void flood(LoadPlan plan, LoadSession session, Rows rows, LoadEngine.Field field, LoadControl control) {
        List<Lane> lanes = field.lanes();
        LoadControl own = new LoadControl(control.stop());
        LoadShape shape = LoadShape.users(USERS_A_LANE * lanes.size(), 60);
        Underway underway = engine.new Driving(plan, shape, session, field, rows, own, System.nanoTime()).start();
        double best = 0;
        int steady = 0;
        long before = lanes.stream().mapToLong(l -> l.tally().sentSoFar()).sum();
        for (int i = 0; i < MOST_WINDOWS && steady < 3 && !control.isEnding(); i++) {
            long began = System.nanoTime();
            while (System.nanoTime() - began < WINDOW_NANOS && !control.isEnding()) {
                LockSupport.parkNanos(10_000_000);
            }
            long now = lanes.stream().mapToLong(l -> l.tally().sentSoFar()).sum();
            double rate = (now - before) / (double) (System.nanoTime() - began);
            before = now;
            steady = i >= LEAST_WINDOWS && rate < best * (1 + STEADY) ? steady + 1 : 0;
            best = Math.max(best, rate);
        }
        own.stopGently();
        underway.await(MOST_WAIT, TimeUnit.SECONDS);
    }

    /** Begins as the run will, over and over, until a beginning is as good as what follows it. */
    private void rehearse(LoadPlan plan, LoadSession session, Rows rows, LoadControl control) {
        boolean arrivals = plan.shape().kind() == LoadShape.Kind.ARRIVALS;
        double level = Math.max(
                arrivals ? LEAST_PACED : 1, Math.min(MOST_PACED, plan.shape().first()));
        int good = 0;
        for (int i = 0; i < MOST_REHEARSALS && good < 2 && !control.isEnding(); i++) {
            double micros = slowest(plan, session, rows, control, level);
            double latest = session.clock().takeLatestMillis();
            boolean fine = !arrivals || micros < GOOD_MICROS && latest < GOOD_LATE_MILLIS;
            good = fine ? good + 1 : 0;
        }
    }

    /**
     * As {@link #rehearse}, by way of a broker, which has its own pace: until a beginning is no better than those before it. The
     * broker is never asked for more than it will be.
     */
    private void rehearseByQueue(LoadPlan plan, LoadSession session, Rows rows, LoadControl control) {
        double least = Math.min(LEAST_BY_QUEUE, plan.shape().most());
        double level = Math.max(least, Math.min(MOST_PACED, plan.shape().first()));
        double best = Double.MAX_VALUE;
        int steady = 0;
        for (int i = 0; i < MOST_REHEARSALS && steady < 2 && !control.isEnding(); i++) {
            double micros = slowest(plan, session, rows, control, level);
            steady = micros > best * BETTER ? steady + 1 : 0;
            best = Math.min(best, micros);
        }
    }

    /** Makes a beginning of the run. Gives what only a hundredth of the answers were slower than, in microseconds. */
    private double slowest(LoadPlan plan, LoadSession session, Rows rows, LoadControl control, double level) {
        try (LoadEngine.Field field = engine.new Field(plan, session)) {
            List<Lane> lanes = field.lanes();
            LoadEngine.openAhead(plan, session, field);
            session.clock().takeLatestMillis();
            LoadShape shape = LoadShape.constant(plan.shape().kind(), level, PACED_SECONDS);
            LoadControl own = new LoadControl(control.stop());
            engine.new Driving(plan, shape, session, field, rows, own, System.nanoTime())
                    .start()
                    .await(MOST_WAIT, TimeUnit.SECONDS);
            Histogram times = Tally.histogram();
            for (Lane lane : lanes) {
                Tally.Counts counts = lane.tally().take(lane.loop());
                for (int row = 0; row < session.course().steps().size(); row++) {
                    times.add(counts.times[row]);
                }
            }
            return times.getValueAtPercentile(99);
        }
    }
}
