package dev.mockbell.load;

import io.netty.bootstrap.Bootstrap;
import io.netty.channel.EventLoop;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * The part of a load run that one event loop carries: its connections and its tally. Everything here happens on that
 * loop, so nothing is locked.
 */
final class Lane {
    private static final int MOST_CONNECTIONS = 5_000;

    private record Waiting(LoadStep step, Journey journey, byte[] request, long deadline) {}

    private final EventLoop loop;
    private final Bootstrap bootstrap;
    private final long timeoutNanos;
    private final Tally tally;
    private final Map<String, Deque<Connection>> idle = new HashMap<>();
    private final Set<Connection> all = new HashSet<>();
    private final Deque<Waiting> waiting = new ArrayDeque<>();
    private boolean closed;

    Lane(EventLoop loop, Bootstrap bootstrap, long timeoutNanos, Tally tally) {
        this.loop = loop;
        this.bootstrap = bootstrap;
        this.timeoutNanos = timeoutNanos;
        this.tally = tally;
    }

    EventLoop loop() {
        return loop;
    }

    Tally tally() {
        return tally;
    }

    void send(LoadStep step, Journey journey, byte[] request) {
        if (closed) {
            journey.failed("stopped", System.nanoTime());
            return;
        }
        long deadline = System.nanoTime() + timeoutNanos;
        Deque<Connection> free = idle.get(step.target());
        while (free != null && !free.isEmpty()) {
            Connection connection = free.pop();
            if (connection.alive()) {
                connection.send(journey, request, deadline);
                return;
            }
            all.remove(connection);
        }
        if (all.size() >= MOST_CONNECTIONS) {
            waiting.add(new Waiting(step, journey, request, deadline));
            return;
        }
        Connection connection = new Connection(this, step.target());
        all.add(connection);
        connection.open(bootstrap, step, journey, request, deadline);
    }

    void idle(Connection connection) {
        Waiting next = waiting.peek();
        if (next != null && next.step().target().equals(connection.target())) {
            waiting.remove();
            connection.send(next.journey(), next.request(), next.deadline());
            return;
        }
        idle.computeIfAbsent(connection.target(), t -> new ArrayDeque<>()).push(connection);
    }

    void gone(Connection connection) {
        all.remove(connection);
        Deque<Connection> free = idle.get(connection.target());
        if (free != null) {
            free.remove(connection);
        }
    }

    /** Ends requests that took too long; called every so often. */
    void sweep() {
        long now = System.nanoTime();
        String reason = "no answer in " + timeoutNanos / 1_000_000 + " ms";
        for (Connection connection : Set.copyOf(all)) {
            if (connection.overdue(now)) {
                connection.timeOut(reason);
            }
        }
        while (!waiting.isEmpty() && now > waiting.peek().deadline()) {
            waiting.remove().journey().failed("no free connection in time", now);
        }
    }

    void close() {
        closed = true;
        Set.copyOf(all).forEach(Connection::close);
        all.clear();
        waiting.clear();
    }
}
