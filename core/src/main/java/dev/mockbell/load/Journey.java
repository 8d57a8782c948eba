package dev.mockbell.load;

import dev.mockbell.problem.Problem;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.RejectedExecutionException;

/**
 * One passage through the steps of a suite, with the values captured on the way. It moves on its lane's event loop; only
 * looking into answers happens on a worker, which then hands back.
 */
final class Journey {
    private final LoadSession session;
    private final Lane lane;
    private final Runnable atEnd;
    private final Map<String, String> captured = new HashMap<>(4);
    private long intended;
    private int at;
    private byte[] request;

    /** @param intended when it should have started, by {@link System#nanoTime()} */
    Journey(LoadSession session, Lane lane, long intended, Runnable atEnd) {
        this.session = session;
        this.lane = lane;
        this.intended = intended;
        this.atEnd = atEnd;
    }

    /** Sends the current step's request. */
    void go() {
        LoadStep step = step();
        if (step.template().cost() == RequestTemplate.Cost.EXPRESSIONS) {
            work(() -> {
                byte[] made = step.template().bytes(captured);
                lane.loop().execute(() -> send(made));
            });
            return;
        }
        try {
            send(step.template().bytes(captured));
        } catch (Problem problem) {
            failed(problem.what(), System.nanoTime());
        }
    }

    private void send(byte[] bytes) {
        request = bytes;
        session.sent();
        lane.send(step(), this, bytes);
    }

    private LoadStep step() {
        return session.steps().get(at);
    }

    boolean wants(int status) {
        return status / 100 != 2 || step().looksInside() || session.samples();
    }

    void answered(int status, String head, byte[] body, long now) {
        session.received();
        long nanos = now - intended;
        LoadStep step = step();
        if (body == null || (status / 100 == 2 && !step.looksInside())) {
            String late = session.lateness(step, nanos);
            if (late != null) {
                lane.tally().failed(at, nanos, late);
            } else {
                lane.tally().done(at, nanos);
            }
            next(now);
            return;
        }
        work(() -> {
            String reason = session.look(step, request, head, body, nanos, captured);
            lane.loop().execute(() -> {
                if (reason == null) {
                    lane.tally().done(at, nanos);
                    next(System.nanoTime());
                } else {
                    lane.tally().failed(at, nanos, reason);
                    end();
                }
            });
        });
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
        session.received();
        session.keep(step(), request, null, null, now - intended, reason);
        fail(reason, now);
    }

    private void fail(String reason, long now) {
        lane.tally().failed(at, now - intended, reason);
        end();
    }

    private void next(long now) {
        at++;
        if (at >= session.steps().size()) {
            end();
        } else {
            intended = now;
            go();
        }
    }

    private void end() {
        atEnd.run();
    }
}
