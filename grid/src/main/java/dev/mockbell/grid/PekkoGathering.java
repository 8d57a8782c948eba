package dev.mockbell.grid;

import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadRun;
import dev.mockbell.problem.Problem;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import org.apache.pekko.actor.typed.ActorRef;
import org.apache.pekko.actor.typed.ActorSystem;
import org.apache.pekko.actor.typed.Props;
import org.apache.pekko.cluster.typed.Cluster;
import org.apache.pekko.cluster.typed.Join;

/** The place where workers join, as a node of the cluster; it is the first. */
final class PekkoGathering implements Gathering {
    /** The name of what listens there. */
    static final String PLACE = "coordinator";

    private static final int WAIT_SECONDS = 5;

    private final ActorSystem<Void> system;
    private final ActorRef<Coordinator.Heard> coordinator;
    private final AtomicReference<CompletableFuture<LoadRun>> under = new AtomicReference<>(new CompletableFuture<>());

    PekkoGathering(Invitation own, String version, FleetListener listener) {
        this.system = GridSystem.start(new GridTls(own, Instant.now()), own.host(), own.port());
        Cluster cluster = Cluster.get(system);
        cluster.manager().tell(new Join(cluster.selfMember().address()));
        this.coordinator = system.systemActorOf(Coordinator.of(version, listener), PLACE, Props.empty());
    }

    private void locally(Consumer<Coordinator> what) {
        coordinator.tell(new Coordinator.Locally(what));
    }

    @Override
    public List<WorkerNow> workers() {
        CompletableFuture<List<WorkerNow>> answer = new CompletableFuture<>();
        locally(c -> c.tell(answer));
        return answered(answer, List.of());
    }

    private static <T> T answered(CompletableFuture<T> answer, T otherwise) {
        try {
            return answer.get(WAIT_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return otherwise;
        } catch (ExecutionException | TimeoutException e) {
            return otherwise;
        }
    }

    @Override
    public LoadRun run(FleetOrder order, LoadListener listener, LoadControl control) {
        byte[] packed = ProjectFiles.pack(order.folder());
        ProjectFiles.Packed files = new ProjectFiles.Packed(ProjectFiles.digest(packed), Pieces.of(packed));
        CompletableFuture<LoadRun> result = new CompletableFuture<>();
        under.set(result);
        control.onChange(() -> locally(Coordinator::changed));
        control.stop().onStop(() -> locally(Coordinator::changed));
        locally(c -> c.begin(order, files, new FleetRun.Asked(listener, control, result)));
        try {
            return result.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            control.stop().stop();
            throw Problem.stopped();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Problem problem) {
                throw problem;
            }
            throw new IllegalStateException(e.getCause());
        }
    }

    @Override
    public void close() {
        CompletableFuture<Void> said = new CompletableFuture<>();
        locally(c -> c.over(said));
        answered(said, null);
        vanish();
    }

    /** Goes without a word, as a process does that is killed. */
    void vanish() {
        GridSystem.end(system);
        under.get().completeExceptionally(Problem.stopped());
    }
}
