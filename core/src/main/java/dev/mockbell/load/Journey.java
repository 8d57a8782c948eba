package dev.mockbell.load;

import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Expressions.MoreEffort;
import dev.mockbell.load.Passage.Leg;
import dev.mockbell.load.RequestTemplate.Cost;
import dev.mockbell.load.Spent.Stage;
import dev.mockbell.problem.Problem;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.random.RandomGenerator;

/**
 * One way through a passage, with the values captured on it. It moves on its lane's event loop; only what takes more than a
 * moment, looking into answers above all, happens on a worker, which then hands back.
 */
final class Journey {
    /** Larger answers are looked into elsewhere. */
    private static final int SMALL = 64 << 10;

    private final LoadSession session;
    private final Lane lane;
    private final List<Leg> legs;
    private final RandomGenerator chance;
    private final End atEnd;
    private final Map<String, String> values;
    private final boolean counts;
    private long intended;
    private long late;
    private long latest;
    private int at;
    private LoadStep step;
    private byte[] request;
    private boolean validating;
    /** When each group that is open began; none for most. */
    private Map<Integer, Long> groups = Map.of();

    /** Hears when a journey is over, on its event loop. */
    interface End {
        void ended(boolean well, long now);
    }

    /**
     * @param row values of variables
     * @param intended when it should start, by {@link System#nanoTime()}
     */
    Journey(
            LoadSession session,
            Lane lane,
            Passage passage,
            Map<String, String> row,
            RandomGenerator chance,
            long intended,
            End atEnd) {
        this.session = session;
        this.lane = lane;
        this.legs = passage.legs();
        this.values = session.hasValues() ? new HashMap<>(row) : row;
        this.chance = chance;
        this.intended = intended;
        this.counts = session.counts(intended);
        this.atEnd = atEnd;
    }

    /** Whether what it does is measured; during the warm-up it is not. */
    boolean counts() {
        return counts;
    }

    /** Goes on with the next leg that takes time. */
    void go() {
        while (at < legs.size()) {
            Leg leg = legs.get(at);
            if (leg instanceof Leg.Send send) {
                step = send.step();
                make();
                return;
            }
            at++;
            if (leg instanceof Leg.Rest rest) {
                rest(rest.nanos());
                return;
            }
            Leg.Edge edge = (Leg.Edge) leg;
            if (edge.begins()) {
                groups = groups.isEmpty() ? new HashMap<>(4) : groups;
                groups.put(edge.row(), intended);
            } else {
                long began = groups.remove(edge.row());
                if (counts) {
                    lane.tally().done(edge.row(), intended - began, 0);
                }
            }
        }
        atEnd.ended(true, latest);
    }

    /** Goes on after a while; a timer that is late counts as lateness of the generator. */
    private void rest(long nanos) {
        intended += nanos;
        long left = intended - System.nanoTime();
        if (left <= 0) {
            go();
        } else {
            lane.loop().schedule(this::go, left, TimeUnit.NANOSECONDS);
        }
    }

    private void make() {
        late = 0;
        RequestTemplate template = step.template();
        if (template.cost() == Cost.WHOLE) {
            makeElsewhere();
            return;
        }
        try {
            send(template.bytes(values, Effort.LITTLE));
        } catch (MoreEffort more) {
            makeElsewhere();
        } catch (Problem problem) {
            // nothing went out
            fail(problem.what(), System.nanoTime());
        }
    }

    private void makeElsewhere() {
        work(() -> {
            byte[] made = step.template().bytes(values, Effort.USUAL);
            lane.loop().execute(() -> send(made));
        });
    }

    private void send(byte[] bytes) {
        request = bytes;
        long now = System.nanoTime();
        lane.tally().sent();
        late = Math.max(0, now - intended);
        if (counts) {
            lane.tally().spent(Stage.LATE, late);
            session.clock().started(late);
        }
        lane.send(step, this, bytes, step.template().cost() == Cost.CONSTANT, now);
    }

    /**
     * Whether an answer is looked into.
     *
     * @param well whether the transport says nothing against it
     */
    boolean wants(boolean well) {
        validating = well && session.validates();
        return !well || validating || step.looksInside();
    }

    void answered(Reply reply, long now) {
        lane.tally().received();
        long nanos = now - intended;
        byte[] body = reply.body();
        if (body == null || isSurelyGood(reply, body, nanos)) {
            String slow = session.lateness(step, nanos);
            if (slow == null) {
                done(nanos);
                next(now);
            } else {
                miss(nanos, slow, true);
            }
            return;
        }
        if (session.looksAtOnce(step) && !validating && body.length < SMALL) {
            looked(look(reply, nanos), nanos, now);
            return;
        }
        work(() -> {
            LoadSession.Look look = look(reply, nanos);
            lane.loop().execute(() -> looked(look, nanos, System.nanoTime()));
        });
    }

    private boolean isSurelyGood(Reply reply, byte[] body, long nanos) {
        if (!reply.isWell() || validating || body.length >= SMALL) {
            return false;
        }
        try {
            return step.quick().isPresent()
                    && step.quick().get().isGood(reply.status(), reply.head(), body, nanos, values);
        } catch (MoreEffort more) {
            return false;
        }
    }

    private LoadSession.Look look(Reply reply, long nanos) {
        try {
            return session.look(step, request, reply, nanos, values, validating, counts);
        } catch (Problem problem) {
            return new LoadSession.Look(problem.what(), false);
        }
    }

    private void looked(LoadSession.Look look, long nanos, long now) {
        if (look.reason() == null) {
            done(nanos);
            next(now);
        } else {
            miss(nanos, look.reason(), look.byCheck());
        }
    }

    private void done(long nanos) {
        if (counts) {
            lane.tally().done(step.index(), nanos, Math.min(late, nanos));
        }
    }

    private void work(Runnable task) {
        try {
            session.workers().execute(() -> {
                try {
                    task.run();
                } catch (RuntimeException e) {
                    String reason = e instanceof Problem p ? p.what() : Problem.reason(e);
                    lane.loop().execute(() -> fail(reason, System.nanoTime()));
                }
            });
        } catch (RejectedExecutionException full) {
            fail("the generator has too much to look into", System.nanoTime());
        }
    }

    /** The connection failed while the step's request was under way. */
    void failed(String reason, long now) {
        lane.tally().received();
        if (counts) {
            session.keep(step, request, reason, now - intended);
        }
        fail(reason, now);
    }

    private void fail(String reason, long now) {
        miss(now - intended, reason, false);
    }

    private void miss(long nanos, String reason, boolean byCheck) {
        if (counts) {
            lane.tally().failed(step.index(), nanos, Math.min(late, nanos), reason, byCheck);
            groups.forEach((row, began) -> lane.tally().failed(row, intended + nanos - began, 0, null, byCheck));
        }
        atEnd.ended(false, intended + nanos);
    }

    private void next(long now) {
        at++;
        latest = now;
        intended = now;
        long nanos = session.pauses().nanos(chance);
        if (nanos > 0 && at < legs.size()) {
            rest(nanos);
        } else {
            go();
        }
    }
}
