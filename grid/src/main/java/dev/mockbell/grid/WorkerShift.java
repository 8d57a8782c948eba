package dev.mockbell.grid;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener.Phase;
import dev.mockbell.load.LoadPart;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.PartListener;
import dev.mockbell.load.Portion;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LoadFile;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Secrets;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One run as a worker makes its part of it, by a thread of its own. */
final class WorkerShift {
    private static final Logger LOG = LoggerFactory.getLogger(WorkerShift.class);

    /** Makes the engine of a shift. */
    interface Engines {
        LoadEngine engine(EventLoops loops, Expressions expressions);
    }

    private final String id;
    private final Spoken.Order order;
    private final Consumer<Spoken.ToCoordinator> say;
    private final Engines engines;
    private final LoadControl control = new LoadControl(new StopSignal());
    private final CompletableFuture<Long> begin = new CompletableFuture<>();
    private final Thread thread;

    /**
     * @param laidOut lays the project out and gives its folder
     * @param say may be used by any thread
     */
    WorkerShift(
            String id,
            Spoken.Order order,
            Supplier<Path> laidOut,
            Engines engines,
            Consumer<Spoken.ToCoordinator> say) {
        this.id = id;
        this.order = order;
        this.say = say;
        this.engines = engines;
        this.thread = new Thread(() -> work(laidOut), "worker-shift");
        thread.setDaemon(true);
        control.stop().onStop(() -> begin.complete(System.nanoTime()));
        thread.start();
    }

    void begin(long run, long at) {
        if (run == order.run()) {
            begin.complete(at);
        }
    }

    LoadControl control() {
        return control;
    }

    /** Ends it at once, and waits for that a little. */
    void end() {
        control.stop().stop();
        try {
            thread.join(5_000);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void work(Supplier<Path> laidOut) {
        try (EventLoops loops =
                new EventLoops("worker", Math.max(1, Runtime.getRuntime().availableProcessors()))) {
            LoadPlan plan = LoadFile.plan(order.plan());
            Project opened = new ProjectStore().open(laidOut.get());
            Project project = order.environment().isEmpty() ? opened : opened.in(order.environment());
            Map<String, String> values = new HashMap<>();
            order.secrets().forEach((name, value) -> values.put(Expressions.environmentName(name), value));
            ProjectBench bench = new ProjectBench(
                    project,
                    LocalProject.UNKNOWN,
                    new Secrets(Path.of("none"), values),
                    new SecretHosts(order.secretHosts()));
            Set<String> loadable = new HashSet<>(order.loadable());
            LoadPart part = new LoadPart(order.part(), order.parts(), order.firstLane(), order.allLanes());
            LoadEngine engine = engines.engine(loops, new Expressions(order.part(), order.parts()));
            LoadEngine.Ran ran = engine.take(
                    part,
                    plan,
                    bench,
                    host -> SecretHosts.isLoopback(host) || loadable.contains(SecretHosts.plain(host)),
                    new Home(),
                    control);
            say.accept(new Spoken.Finished(id, order.run(), ran.seconds()));
        } catch (Problem problem) {
            say.accept(new Spoken.Failed(id, order.run(), problem.getMessage()));
        } catch (RuntimeException | OutOfMemoryError e) {
            LOG.error("a shift failed", e);
            say.accept(new Spoken.Failed(id, order.run(), "a defect of Mock Bell: " + Problem.reason(e)));
        }
    }

    /** Sends home what is counted. */
    private final class Home implements PartListener {
        private final AtomicLong portions = new AtomicLong();
        private final AtomicLong failures = new AtomicLong();
        private int seconds;

        @Override
        public void phase(Phase phase) {
            say.accept(new Spoken.Doing(id, order.run(), phase.title()));
        }

        @Override
        public long ready() {
            say.accept(new Spoken.Prepared(id, order.run()));
            try {
                return begin.join();
            } catch (CompletionException e) {
                throw new IllegalStateException(e);
            }
        }

        @Override
        public void portion(Portion portion) {
            send(Spoken.Of.PORTION, portions.getAndIncrement(), PortionBytes.of(portion));
        }

        @Override
        public void second(double elapsed) {
            say.accept(new Spoken.SecondOver(id, order.run(), ++seconds));
        }

        @Override
        public void failure(Exchange exchange) {
            send(Spoken.Of.FAILURE, failures.getAndIncrement(), FailureBytes.of(exchange));
        }

        private void send(Spoken.Of of, long number, byte[] bytes) {
            List<byte[]> pieces = Pieces.of(bytes);
            for (int i = 0; i < pieces.size(); i++) {
                say.accept(new Spoken.Parcel(id, order.run(), of, number, i, pieces.size(), pieces.get(i)));
            }
        }
    }
}
