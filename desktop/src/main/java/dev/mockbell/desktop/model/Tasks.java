package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Carries work off the interface thread and brings its outcome back to it. */
public final class Tasks implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Tasks.class);

    /** How long the interface thread may take for what came back, before a window is closed without it. */
    private static final int TAKEN_SECONDS = 10;

    private final ExecutorService workers = Executors.newCachedThreadPool(task -> {
        Thread thread = new Thread(task, "desk-work");
        thread.setDaemon(true);
        return thread;
    });
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "desk-clock");
        thread.setDaemon(true);
        return thread;
    });
    private final Map<Object, ScheduledFuture<?>> put = new ConcurrentHashMap<>();
    private final Executor back;
    private final AtomicInteger running = new AtomicInteger();

    /** @param back runs a task on the interface thread */
    public Tasks(Executor back) {
        this.back = back;
    }

    /**
     * Does {@code work} elsewhere, then {@code done} or {@code failed} on the interface thread.
     *
     * @param failed gets a problem for people; anything else that went wrong is logged and comes as one too
     */
    public <T> void run(Callable<T> work, Consumer<T> done, Consumer<Problem> failed) {
        running.incrementAndGet();
        try {
            workers.execute(() -> {
                T result;
                try {
                    result = work.call();
                } catch (Exception | StackOverflowError | OutOfMemoryError e) {
                    // whoever waits hears of it, also when a structure was deeper than the stack or larger than the
                    // memory
                    Problem problem = problem(e);
                    back.execute(() -> {
                        running.decrementAndGet();
                        failed.accept(problem);
                    });
                    return;
                }
                back.execute(() -> {
                    running.decrementAndGet();
                    done.accept(result);
                });
            });
        } catch (RejectedExecutionException closed) {
            running.decrementAndGet();
        }
    }

    private static Problem problem(Throwable e) {
        if (e instanceof Problem problem) {
            return problem;
        }
        if (e instanceof ExecutionException && e.getCause() != null) {
            return problem(e.getCause());
        }
        if (e instanceof OutOfMemoryError) {
            return Problem.of(
                    Problem.Kind.INPUT,
                    "There is not enough memory for that",
                    null,
                    "Close what is large, or give the program more by MOCKBELL_OPTS=-Xmx4g.",
                    e);
        }
        LOG.error("work failed", e);
        return Problem.of(
                Problem.Kind.INPUT, "That did not work: " + Problem.reason(e), null, "The log has the details.", e);
    }

    /** Brings the outcome of work that somebody else does to the interface thread; as for {@link #run}. */
    public <T> void await(CompletableFuture<T> work, Consumer<T> done, Consumer<Problem> failed) {
        running.incrementAndGet();
        work.whenComplete((result, failure) -> back.execute(() -> {
            running.decrementAndGet();
            if (failure == null) {
                done.accept(result);
            } else {
                failed.accept(problem(failure));
            }
        }));
    }

    /** Does something on the interface thread after a while; another call with the same key puts it off. */
    public void after(long millis, Object key, Runnable action) {
        try {
            put.compute(key, (k, before) -> {
                if (before != null) {
                    before.cancel(false);
                }
                ScheduledFuture<?>[] own = new ScheduledFuture<?>[1];
                own[0] = clock.schedule(
                        () -> {
                            // the key is not held for longer than it is waited for
                            put.computeIfPresent(key, (same, now) -> now == own[0] ? null : now);
                            back.execute(action);
                        },
                        millis,
                        TimeUnit.MILLISECONDS);
                return own[0];
            });
        } catch (RejectedExecutionException closed) {
            LOG.debug("nothing is put off any more", closed);
        }
    }

    /** How many pieces of work are under way or have yet to report back. */
    public int running() {
        return running.get();
    }

    /** Runs something on the interface thread. */
    public void later(Runnable action) {
        back.execute(action);
    }

    /** Waits until what came back of work so far has been taken, some seconds at most. Not for the interface thread. */
    void taken() {
        CountDownLatch done = new CountDownLatch(1);
        try {
            back.execute(done::countDown);
            if (!done.await(TAKEN_SECONDS, TimeUnit.SECONDS)) {
                LOG.warn("what came back of the last work was not taken in time");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (IllegalStateException over) {
            LOG.debug("there is no interface thread any more", over);
        }
    }

    @Override
    public void close() {
        clock.shutdownNow();
        workers.shutdownNow();
    }
}
