package dev.mockbell.load;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.load.Spent.Stage;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.jms.JmsLine;
import dev.mockbell.wire.jms.ProviderJars;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The ways to queues that the lanes of a field share. What a broker's client does may block, and so none of it happens on an
 * event loop; what is heard of it comes back to the lane's.
 */
final class Queues implements AutoCloseable {
    private final ProviderJars jars;
    private final Conduct conduct;
    private final int most;
    private final Map<String, JmsLine> lines = new ConcurrentHashMap<>();
    private volatile boolean closed;

    /** @param most how many connections there may be at a time */
    Queues(ProviderJars jars, Conduct conduct, int most) {
        this.jars = jars;
        this.conduct = conduct;
        this.most = most;
    }

    private JmsLine line(LoadStep step, Way.Queue way) {
        return lines.computeIfAbsent(step.target(), t -> new JmsLine(way.to(), manner(way), jars));
    }

    private JmsLine.Manner manner(Way.Queue way) {
        Duration wait = Duration.ofMillis(conduct.timeoutMillis());
        Duration connect = way.by().timeouts().within(wait).connect();
        return new JmsLine.Manner(
                way.by().with(new Connect.Timeouts(connect, wait, wait)),
                most,
                conduct.keepsConnections(),
                way.peer() instanceof Way.Queue.Peer.Ourselves own ? Optional.of(own.answer()) : Optional.empty());
    }

    /** Connects to what the steps' requests go to, and waits for that a little. */
    void openAhead(List<LoadStep> steps, int each, long millis) {
        Set<JmsLine> opened = new HashSet<>();
        for (LoadStep step : steps) {
            boolean there = step.way() instanceof Way.Queue way && !(way.peer() instanceof Way.Queue.Peer.Nobody);
            if (there) {
                JmsLine line = line(step, (Way.Queue) step.way());
                if (opened.add(line)) {
                    line.openAhead(each, millis);
                }
            }
        }
    }

    /** Sends a request; it is {@code now} by the nanosecond clock. */
    void send(LoadStep step, Way.Queue way, Journey journey, byte[] request, Lane lane, long now) {
        if (closed) {
            // the lane hears of it a moment later
            return;
        }
        JmsMessage message = way.message(step.address(), Content.of(request));
        if (way.peer() instanceof Way.Queue.Peer.Nobody nobody) {
            JmsMessage answer = answer(nobody.answer());
            lane.loop().execute(() -> answered(journey, lane, answer));
            return;
        }
        line(step, way).send(message, way.answered(), new Heard(journey, way.answered(), lane, now));
    }

    private static JmsMessage answer(Content body) {
        return new JmsMessage(
                "FROM queue trial", List.of(new Header(JmsMessage.CONTENT_TYPE, "text/xml; charset=utf-8")), body);
    }

    private static void answered(Journey journey, Lane lane, JmsMessage answer) {
        if (!lane.isClosed()) {
            // nothing but the body says whether it is a fault
            journey.wants(true);
            journey.answered(new Reply.Queued(answer, true), System.nanoTime());
        }
    }

    /** Brings what is heard to the lane's event loop. */
    private record Heard(Journey journey, boolean answered, Lane lane, long sent) implements JmsLine.Hearer {
        @Override
        public void answered(JmsLine.Came came) {
            lane.loop().execute(() -> {
                if (lane.isClosed()) {
                    return;
                }
                if (journey.counts()) {
                    lane.tally().spent(Stage.WAITED, came.taken() - sent);
                    lane.tally().spent(Stage.GIVEN, came.accepted() - came.taken());
                    if (answered) {
                        lane.tally().spent(Stage.SERVER, came.at() - came.accepted());
                    }
                }
                if (!came.envelope()) {
                    journey.failed("the answer is neither a text nor a bytes message", came.at());
                    return;
                }
                boolean wanted = journey.wants(true) || answered;
                journey.answered(new Reply.Queued(came.answer(), wanted), came.at());
            });
        }

        @Override
        public void failed(String reason, long at) {
            lane.loop().execute(() -> {
                if (!lane.isClosed()) {
                    journey.failed(reason, at);
                }
            });
        }
    }

    /** How many connections to brokers there are. */
    int connections() {
        return lines.values().stream().mapToInt(JmsLine::connections).sum();
    }

    /** Ends requests that took too long; to be called every so often. */
    void sweep() {
        lines.values().forEach(JmsLine::sweep);
    }

    /** Returns at once: a broker may take its time over it. */
    @Override
    public void close() {
        closed = true;
        if (lines.isEmpty()) {
            return;
        }
        Thread closing = new Thread(() -> lines.values().forEach(JmsLine::close), "queues-closing");
        closing.setDaemon(true);
        closing.start();
    }
}
