package dev.mockbell.grid;

import dev.mockbell.expression.SecretHosts;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WorkerListener;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.jms.ProviderJars;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.apache.pekko.actor.typed.ActorRef;
import org.apache.pekko.actor.typed.ActorSystem;
import org.apache.pekko.actor.typed.Props;

/** Load from many machines over a cluster of Apache Pekko. */
public final class PekkoFleet implements Fleet {
    /** So often it is looked why a worker is not in yet, in seconds. */
    private static final int LOOK_SECONDS = 5;

    private final String version;
    private final WorkerShift.Engines engines;

    /**
     * @param version of this program; workers of another are refused
     * @param providers of queues that workers here send to, besides those that are in the program
     */
    public PekkoFleet(String version, ProviderJars providers) {
        this(version, (loops, expressions) -> new LoadEngine(loops, expressions, providers));
    }

    /** @param engines makes the engines of workers */
    PekkoFleet(String version, WorkerShift.Engines engines) {
        this.version = version;
        this.engines = engines;
    }

    @Override
    public Gathering open(Invitation own, FleetListener listener) {
        return new PekkoGathering(own, version, listener);
    }

    @Override
    public void work(Invitation invitation, String host, WorkerListener listener, StopSignal stop) {
        if (SecretHosts.isLoopback(host) && !SecretHosts.isLoopback(invitation.host())) {
            throw Problem.input(
                    "The coordinator is at " + invitation.host() + " and could not reach this machine at " + host,
                    null,
                    "Give this machine's address in the network (on the command line: --host).");
        }
        try (FilesHere files = new FilesHere()) {
            listener.told("Waiting for a run at " + invitation.host() + ":" + invitation.port() + "…");
            while (!stop.isStopped()) {
                WorkerPost.End end = member(invitation, host, listener, files, stop);
                switch (end.kind()) {
                    case REFUSED -> throw Problem.input(end.why().replaceAll("\\.$", ""), null, null);
                    case SILENT ->
                        listener.told("The coordinator is not heard of any more: whatever load there was is stopped."
                                + " Waiting for it…");
                    case OVER -> listener.told("The coordinator is done. Waiting for the next run…");
                    case STOPPED -> listener.told("Stopped.");
                }
            }
        }
    }

    /** Is a member once. A node that was given up cannot come back as it is, so each time it is a new one. */
    private WorkerPost.End member(
            Invitation invitation, String host, WorkerListener listener, FilesHere files, StopSignal stop) {
        GridTls tls = new GridTls(invitation, Instant.now());
        ActorSystem<Void> system = GridSystem.start(tls, host, 0);
        try {
            CompletableFuture<WorkerPost.End> ended = new CompletableFuture<>();
            ActorRef<WorkerPost.Heard> post = system.systemActorOf(
                    WorkerPost.of(invitation, version, listener, files, engines, ended), "worker", Props.empty());
            stop.onStop(() -> post.tell(new WorkerPost.Locally(WorkerPost::leave)));
            while (true) {
                try {
                    return ended.get(LOOK_SECONDS, TimeUnit.SECONDS);
                } catch (TimeoutException notYet) {
                    if (!isIn(post)) {
                        explain(invitation, tls);
                    }
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new WorkerPost.End(WorkerPost.End.Kind.STOPPED, "interrupted");
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } finally {
            GridSystem.end(system);
        }
    }

    private static boolean isIn(ActorRef<WorkerPost.Heard> post) throws InterruptedException, ExecutionException {
        CompletableFuture<Boolean> answer = new CompletableFuture<>();
        post.tell(new WorkerPost.Locally(p -> p.isWelcome(answer)));
        try {
            return answer.get(LOOK_SECONDS, TimeUnit.SECONDS);
        } catch (TimeoutException busy) {
            return true;
        }
    }

    /**
     * Why it is not taken in.
     *
     * @throws Problem when that will not change by waiting
     */
    private static void explain(Invitation invitation, GridTls tls) {
        if (!Instant.now().isBefore(invitation.expires())) {
            invitation.key(Instant.now());
        }
        Optional<String> refused = tls.tryOut(invitation.host(), invitation.port());
        if (refused.isPresent()) {
            throw Problem.input(
                    "The coordinator at " + invitation.host() + ":" + invitation.port()
                            + " does not take this invitation: " + refused.get(),
                    null,
                    "Have a new one written on its machine by “mockbell grid invite”.");
        }
    }
}
