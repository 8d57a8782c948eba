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
import java.util.function.Consumer;
import java.util.function.Supplier;
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
    private final boolean remembers;
    private LoadSession.Last last;
    /** What legs that are come to again keep: how many rounds were begun, when, and what is taken back. */
    private Map<Integer, Object> kept = Map.of();

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
        this.remembers = passage.remembers();
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
            if (leg instanceof Leg.Edge edge) {
                at++;
                edge(edge);
            } else if (turns(leg)) {
                return;
            }
        }
        atEnd.ended(true, latest);
    }

    private void edge(Leg.Edge edge) {
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

    /**
     * Does what decides where it goes on.
     *
     * @return whether that takes time, after which it goes on by itself
     */
    private boolean turns(Leg leg) {
        int here = at++;
        if (leg instanceof Leg.Rest rest) {
            return rests(rest.nanos());
        } else if (leg instanceof Leg.Jump jump) {
            at = jump.to();
        } else if (leg instanceof Leg.Rows rows) {
            row(rows, here);
        } else if (leg instanceof Leg.Round) {
            Rounds rounds = kept(here) instanceof Rounds known ? known : new Rounds();
            rounds.begun++;
            rounds.at = intended;
            keep(here, rounds);
        } else if (leg instanceof Leg.TakeBack taken) {
            takeBack(taken.given());
        } else if (leg instanceof Leg.Unless unless) {
            ask(unless.asking(), false, holds -> {
                at = holds ? at : unless.to();
                go();
            });
            return true;
        } else if (leg instanceof Leg.Again again) {
            ask(again.asking(), true, holds -> round(again, holds));
            return true;
        } else if (leg instanceof Leg.Give give) {
            elsewhere(() -> session.filled(give, last, values), filled -> {
                give(filled, here);
                go();
            });
            return true;
        }
        return false;
    }

    /** How many rounds of steps were begun, and when the last one was due. */
    private static final class Rounds {
        private int begun;
        private long at;
    }

    private Object kept(int leg) {
        return kept.get(leg);
    }

    private void keep(int leg, Object what) {
        kept = kept.isEmpty() ? new HashMap<>(4) : kept;
        kept.put(leg, what);
    }

    private void forget(int leg) {
        if (!kept.isEmpty()) {
            kept.remove(leg);
        }
    }

    private void row(Leg.Rows rows, int here) {
        int next = kept(here) instanceof Integer known ? known : 0;
        if (next < rows.rows().size()) {
            values.putAll(rows.rows().get(next));
            keep(here, next + 1);
        } else {
            forget(here);
            at = rows.past();
        }
    }

    private void give(Map<String, String> filled, int here) {
        Map<String, String> before = new HashMap<>();
        filled.keySet().forEach(name -> before.put(name, values.get(name)));
        keep(here, new Given(filled, before));
        values.putAll(filled);
    }

    /** @param before null for those that had no value */
    private record Given(Map<String, String> values, Map<String, String> before) {}

    /** What was captured under such a name meanwhile is carried on. */
    private void takeBack(int given) {
        Given had = (Given) kept(given);
        forget(given);
        had.values().forEach((name, value) -> {
            if (value.equals(values.get(name))) {
                String before = had.before().get(name);
                values.compute(name, (n, v) -> before);
            }
        });
    }

    private void round(Leg.Again again, boolean holds) {
        Rounds rounds = (Rounds) kept(again.from());
        if (holds) {
            forget(again.from());
            go();
        } else if (rounds.begun < again.times()) {
            at = again.from();
            rest(Math.max(0, rounds.at + again.everyNanos() - intended));
        } else {
            // whatever came last, which was fine by itself, is not what the steps were repeated for
            unmet(again, last == null ? 0 : last.nanos());
        }
    }

    private void unmet(Leg.Again again, long nanos) {
        String reason = "“" + again.asking().condition() + "” did not hold, tried "
                + (again.times() == 1 ? "once" : again.times() + " times");
        if (counts && last != null) {
            session.keep(last, reason);
        }
        miss(nanos, reason, true);
    }

    /** Whether the step at hand is the last one of the last round, so that it fails if that does not bring what is waited for. */
    private boolean decides() {
        return at + 1 < legs.size()
                && legs.get(at + 1) instanceof Leg.Again again
                && ((Rounds) kept(again.from())).begun >= again.times();
    }

    private void fine(long nanos, long now) {
        if (!decides()) {
            done(nanos);
            next(now);
            return;
        }
        Leg.Again again = (Leg.Again) legs.get(at + 1);
        ask(again.asking(), true, holds -> {
            if (holds) {
                forget(again.from());
                done(nanos);
                at++;
                next(now);
            } else {
                unmet(again, nanos);
            }
        });
    }

    /** One that cannot be told does not hold where steps are repeated; elsewhere that is a failure. */
    private void ask(Passage.Asking asking, boolean repeats, Consumer<Boolean> then) {
        elsewhere(
                () -> {
                    try {
                        return session.holds(asking, last, values);
                    } catch (Problem problem) {
                        if (repeats) {
                            return false;
                        }
                        throw problem;
                    }
                },
                then);
    }

    /** Works something out on a worker and goes on with it here. */
    private <T> void elsewhere(Supplier<T> work, Consumer<T> then) {
        work(() -> {
            T found = work.get();
            lane.loop().execute(() -> then.accept(found));
        });
    }

    /** Goes on after a while; a timer that is late counts as lateness of the generator. */
    private void rest(long nanos) {
        if (!rests(nanos)) {
            go();
        }
    }

    /** @return false when that while is over already, and it is to go on at once */
    private boolean rests(long nanos) {
        intended += nanos;
        long left = intended - System.nanoTime();
        if (left <= 0) {
            return false;
        }
        lane.loop().schedule(this::go, left, TimeUnit.NANOSECONDS);
        return true;
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
        return !well || validating || remembers || step.looksInside();
    }

    void answered(Reply reply, long now) {
        lane.tally().received();
        long nanos = now - intended;
        byte[] body = reply.body();
        if (remembers && body != null) {
            last = new LoadSession.Last(step, request, reply, nanos);
        }
        if (body == null || isSurelyGood(reply, body, nanos)) {
            String slow = session.lateness(step, nanos);
            if (slow == null) {
                fine(nanos, now);
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
            fine(nanos, now);
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
            int own = step == null ? first().index() : step.index();
            lane.tally().failed(own, nanos, Math.min(late, nanos), reason, byCheck);
            groups.forEach((row, began) -> lane.tally().failed(row, intended + nanos - began, 0, null, byCheck));
        }
        atEnd.ended(false, intended + nanos);
    }

    /** The first step that sends: it answers for what fails before it. */
    private LoadStep first() {
        return legs.stream()
                .filter(Leg.Send.class::isInstance)
                .map(l -> ((Leg.Send) l).step())
                .findFirst()
                .orElseThrow();
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
