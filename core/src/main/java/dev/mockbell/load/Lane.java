package dev.mockbell.load;

import dev.mockbell.load.Spent.Stage;
import dev.mockbell.wire.EventLoops;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.PooledByteBufAllocator;
import io.netty.channel.EventLoop;
import io.netty.handler.ssl.SslHandler;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.net.ssl.SSLEngine;

/**
 * The part of a load run that one event loop carries: its connections and its tally. Everything here happens on that
 * loop, so nothing is locked.
 */
final class Lane {
    /** A request that has no connection yet. */
    private record Waiting(LoadStep step, Journey journey, ByteBuf request, long since, long deadline) {}

    /**
     * What goes to one place. A request that finds no free connection has one opened, and takes whichever is free first: that
     * one, or one that another request is through with.
     */
    static final class Target {
        private final Deque<Connection> idle = new ArrayDeque<>();
        private final Deque<Waiting> waiting = new ArrayDeque<>();
        private final Agreements agreements = new Agreements();
        private int opening;
        /** So many are to be opened for nobody yet, as for this step. */
        private int ahead;

        private LoadStep opener;

        boolean lacks() {
            return opening < waiting.size() + ahead;
        }
    }

    private final EventLoop loop;
    private final Bootstrap bootstrap;
    private final EventLoops loops;
    private final Conduct conduct;
    private final Queues queues;
    private final int most;
    private final long timeoutNanos;
    private final Tally tally;
    private final Map<String, Target> targets = new LinkedHashMap<>();
    private final Map<LoadStep, Target> byStep = new IdentityHashMap<>();
    private final Set<Connection> all = new HashSet<>();
    private final Map<byte[], ByteBuf> constants = new IdentityHashMap<>();
    private int fresh = 100_000;
    private boolean closed;
    private Runnable openedAhead = () -> {};
    private volatile int open;

    /**
     * @param queues the ways to those, which lanes share
     * @param most how many connections it may have at a time
     */
    Lane(EventLoop loop, Bootstrap bootstrap, EventLoops loops, Conduct conduct, Queues queues, int most, Tally tally) {
        this.loop = loop;
        this.bootstrap = bootstrap;
        this.loops = loops;
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

    SslHandler tls(SSLEngine engine) {
        return loops.tls(engine);
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

    /**
     * Sends a request on a free connection, or on that which is free first, a new one or another; it is {@code now} by the nanosecond
     * clock.
     */
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
        Target target = target(step);
        while (!target.idle.isEmpty()) {
            Connection connection = target.idle.pop();
            if (connection.alive()) {
                connection.send(journey, bytes, deadline, now);
                return;
            }
            remove(connection);
        }
        target.waiting.add(new Waiting(step, journey, bytes, now, deadline));
        openFor(target);
    }

    /** Where a step goes; its name is put together once, not for each request. */
    private Target target(LoadStep step) {
        return byStep.computeIfAbsent(step, s -> targets.computeIfAbsent(s.target(), t -> new Target()));
    }

    /** A connection for each that waits, as far as there is room. */
    private void openFor(Target target) {
        while (!closed && target.lacks()) {
            LoadStep step = target.waiting.isEmpty()
                    ? target.opener
                    : target.waiting.peek().step();
            boolean crowded = step.isSecure() && !target.agreements.admits(target.opening);
            if (crowded || all.size() >= most && !makeRoom(target)) {
                return;
            }
            open(target, step);
        }
    }

    private void openForAll() {
        for (Target target : targets.values()) {
            openFor(target);
        }
    }

    /** Gives up a connection elsewhere that nobody uses. */
    private boolean makeRoom(Target wanted) {
        for (Target target : targets.values()) {
            if (target != wanted && !target.idle.isEmpty()) {
                Connection oldest = target.idle.pollLast();
                oldest.close();
                remove(oldest);
                return true;
            }
        }
        return false;
    }

    private void open(Target target, LoadStep step) {
        Connection connection = new Connection(this, target, step, (Way.Http) step.way());
        all.add(connection);
        open = all.size();
        target.opening++;
        connection.open(bootstrap, System.nanoTime() + timeoutNanos);
    }

    /**
     * Opens connections ahead of those who will need them.
     *
     * @param done hears when they are open, or cannot be
     */
    void openAhead(LoadStep step, int count, Runnable done) {
        Target target = target(step);
        target.opener = step;
        target.ahead = Math.max(0, Math.min(count, most) - all.size());
        if (target.ahead == 0) {
            done.run();
            return;
        }
        openedAhead = done;
        openFor(target);
    }

    /**
     * A connection is open.
     *
     * @param began when that was begun
     * @param connected when TCP had it
     */
    void opened(Connection connection, long began, long connected) {
        Target target = connection.target();
        settled(target, connection, connected);
        Waiting next = target.waiting.poll();
        if (next == null) {
            idle(connection);
        } else {
            long now = System.nanoTime();
            long since = next.since();
            if (next.journey().counts()) {
                spent(Stage.WAITED, since, began);
                spent(Stage.CONNECT, Math.max(since, began), connected);
                if (connection.isSecure()) {
                    spent(Stage.TLS, Math.max(since, connected), now);
                }
            }
            connection.send(next.journey(), next.request(), next.deadline(), now);
        }
        openFor(target);
    }

    /**
     * A connection cannot be opened. Who has waited since before it was begun is told why; who came later has another to wait for.
     *
     * @param began when it was begun
     * @param connected when TCP had it; 0 for never
     */
    void notOpened(Connection connection, String reason, long began, long connected) {
        Target target = connection.target();
        settled(target, connection, connected);
        remove(connection);
        Waiting next = target.waiting.peek();
        if (next != null && next.since() - began <= 0) {
            target.waiting.remove();
            next.request().release();
            next.journey().failed(reason, System.nanoTime());
        }
        openForAll();
    }

    private void settled(Target target, Connection connection, long connected) {
        if (connection.isSecure() && connected > 0) {
            target.agreements.ended(System.nanoTime() - connected, target.opening);
        }
        target.opening--;
        if (target.ahead > 0 && --target.ahead == 0) {
            openedAhead.run();
        }
    }

    private void spent(Stage stage, long from, long until) {
        if (until > from) {
            tally.spent(stage, until - from);
        }
    }

    /** A connection is free for the next request. */
    void idle(Connection connection) {
        Target target = connection.target();
        Waiting next = target.waiting.poll();
        if (next == null) {
            target.idle.push(connection);
            if (targets.size() > 1) {
                // others may wait for room elsewhere
                openForAll();
            }
            return;
        }
        long now = System.nanoTime();
        if (next.journey().counts()) {
            tally.spent(Stage.WAITED, now - next.since());
        }
        connection.send(next.journey(), next.request(), next.deadline(), now);
    }

    private void remove(Connection connection) {
        all.remove(connection);
        open = all.size();
    }

    /** A connection that was open is there no longer. */
    void gone(Connection connection) {
        remove(connection);
        connection.target().idle.remove(connection);
        openForAll();
    }

    /** Ends requests that took too long; called every so often. */
    void sweep() {
        long now = System.nanoTime();
        String within = " in " + timeoutNanos / 1_000_000 + " ms";
        for (Connection connection : Set.copyOf(all)) {
            if (connection.overdue(now)) {
                connection.timeOut(connection.isOpen() ? "no answer" + within : "no connection" + within);
            }
        }
        // who is told so may turn to another place
        for (Target target : List.copyOf(targets.values())) {
            while (!target.waiting.isEmpty() && now > target.waiting.peek().deadline()) {
                Waiting late = target.waiting.remove();
                late.request().release();
                late.journey()
                        .failed(target.opening > 0 ? "no connection" + within : "no free connection in time", now);
            }
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
        for (Target target : targets.values()) {
            target.waiting.forEach(w -> w.request().release());
            target.waiting.clear();
        }
        constants.values().forEach(ByteBuf::release);
        constants.clear();
    }
}
