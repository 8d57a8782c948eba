package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.PooledByteBufAllocator;
import io.netty.channel.EventLoop;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Set;

/**
 * The part of a load run that one event loop carries: its connections and its tally. Everything here happens on that
 * loop, so nothing is locked.
 */
final class Lane {
    private record Waiting(LoadStep step, Journey journey, ByteBuf request, long since, long deadline) {}

    private final EventLoop loop;
    private final Bootstrap bootstrap;
    private final Conduct conduct;
    private final Queues queues;
    private final int most;
    private final long timeoutNanos;
    private final Tally tally;
    private final Map<String, Deque<Connection>> idle = new HashMap<>();
    private final Set<Connection> all = new HashSet<>();
    private final Deque<Waiting> waiting = new ArrayDeque<>();
    private final Map<byte[], ByteBuf> constants = new IdentityHashMap<>();
    private int fresh = 100_000;
    private boolean closed;
    private int opening;
    private Runnable ahead = () -> {};
    private volatile int open;

    /**
     * @param queues the ways to those, which lanes share
     * @param most how many connections it may have at a time
     */
    Lane(EventLoop loop, Bootstrap bootstrap, Conduct conduct, Queues queues, int most, Tally tally) {
        this.loop = loop;
        this.bootstrap = bootstrap;
        this.conduct = conduct;
        this.queues = queues;
        this.most = most;
        this.timeoutNanos = conduct.timeoutMillis() * 1_000_000;
        this.tally = tally;
    }

    EventLoop loop() {
        return loop;
    }

    Tally tally() {
        return tally;
    }

    boolean keeps() {
        return conduct.keepsConnections();
    }

    boolean resumesTls() {
        return conduct.resumesTls();
    }

    /** A number that was not given before. */
    int freshNumber() {
        return fresh++;
    }

    /** How many connections there are; for other threads. */
    int connections() {
        return open;
    }

    /** @param constant whether the same bytes are sent again and again */
    private ByteBuf buffer(byte[] request, boolean constant) {
        if (!constant) {
            return PooledByteBufAllocator.DEFAULT.directBuffer(request.length).writeBytes(request);
        }
        ByteBuf known = constants.get(request);
        if (known == null) {
            known = PooledByteBufAllocator.DEFAULT.directBuffer(request.length).writeBytes(request);
            constants.put(request, known);
        }
        return known.retainedDuplicate();
    }

    /** Sends a request on a free connection, on a new one, or when one comes free; it is {@code now} by the nanosecond clock. */
    void send(LoadStep step, Journey journey, byte[] request, boolean constant, long now) {
        if (closed) {
            journey.failed("stopped", now);
            return;
        }
        if (step.way() instanceof Way.Queue way) {
            queues.send(step, way, journey, request, this, now);
            return;
        }
        long deadline = now + timeoutNanos;
        ByteBuf bytes = buffer(request, constant);
        Deque<Connection> free = idle.get(step.target());
        while (free != null && !free.isEmpty()) {
            Connection connection = free.pop();
            if (connection.alive()) {
                connection.send(journey, bytes, deadline, now);
                return;
            }
            remove(connection);
        }
        if (all.size() >= most) {
            waiting.add(new Waiting(step, journey, bytes, now, deadline));
            return;
        }
        open(step, journey, bytes, deadline);
    }

    private void open(LoadStep step, Journey journey, ByteBuf bytes, long deadline) {
        Connection connection = new Connection(this, step, (Way.Http) step.way());
        all.add(connection);
        open = all.size();
        connection.open(bootstrap, journey, bytes, deadline);
    }

    /**
     * Opens connections ahead of those who will need them.
     *
     * @param done hears when they are open, or cannot be
     */
    void openAhead(LoadStep step, int count, Runnable done) {
        ahead = done;
        opening = Math.min(count, most) - all.size();
        if (opening <= 0) {
            opening = 0;
            done.run();
            return;
        }
        for (int i = opening; i > 0; i--) {
            open(step, null, null, System.nanoTime() + timeoutNanos);
        }
    }

    /** One that was opened ahead is open, or cannot be. */
    void openedAhead() {
        if (opening > 0 && --opening == 0) {
            ahead.run();
        }
    }

    void idle(Connection connection) {
        Waiting next = waiting.peek();
        if (next != null && next.step().target().equals(connection.target())) {
            waiting.remove();
            hand(next, connection);
            return;
        }
        idle.computeIfAbsent(connection.target(), t -> new ArrayDeque<>()).push(connection);
        if (next != null) {
            // others wait for a connection elsewhere, and this one takes the room
            Connection oldest = idle.get(connection.target()).pollLast();
            oldest.close();
            remove(oldest);
            serve();
        }
    }

    private void hand(Waiting next, Connection connection) {
        long now = System.nanoTime();
        if (next.journey().counts()) {
            tally.spent(Stage.WAITED, now - next.since());
        }
        connection.send(next.journey(), next.request(), next.deadline(), now);
    }

    /** The next that waits is given a connection of its own, when there is room. */
    private void serve() {
        while (!closed && !waiting.isEmpty() && all.size() < most) {
            Waiting next = waiting.remove();
            if (next.journey().counts()) {
                tally.spent(Stage.WAITED, System.nanoTime() - next.since());
            }
            open(next.step(), next.journey(), next.request(), next.deadline());
        }
    }

    private void remove(Connection connection) {
        all.remove(connection);
        open = all.size();
    }

    void gone(Connection connection) {
        remove(connection);
        Deque<Connection> free = idle.get(connection.target());
        if (free != null) {
            free.remove(connection);
        }
        serve();
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
            Waiting late = waiting.remove();
            late.request().release();
            late.journey().failed("no free connection in time", now);
        }
    }

    /** Whether what was under way is given up. */
    boolean isClosed() {
        return closed;
    }

    void close() {
        closed = true;
        Set.copyOf(all).forEach(Connection::close);
        all.clear();
        open = 0;
        waiting.forEach(w -> w.request().release());
        waiting.clear();
        constants.values().forEach(ByteBuf::release);
        constants.clear();
    }
}
