package dev.mockbell.task;

import dev.mockbell.problem.Problem;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;

/** A request to stop, set once from any thread. Long work asks {@link #check()} often enough to end within a second. */
public final class StopSignal {
    private final AtomicBoolean stopped = new AtomicBoolean();
    private final List<Runnable> actions = new CopyOnWriteArrayList<>();

    /** Asks for the work to stop; runs the registered actions on this thread, once. */
    public void stop() {
        if (stopped.compareAndSet(false, true)) {
            actions.forEach(Runnable::run);
        }
    }

    public boolean isStopped() {
        return stopped.get();
    }

    /** Runs {@code action} when the stop comes, at once if it has come; the action must not block or throw. */
    public void onStop(Runnable action) {
        actions.add(action);
        if (stopped.get()) {
            action.run();
        }
    }

    /** Throws {@link Problem#stopped()} once a stop was asked for. */
    public void check() {
        if (stopped.get()) {
            throw Problem.stopped();
        }
    }
}
