package dev.mockbell.grid;

import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WorkerListener;
import dev.mockbell.load.LoadEngine;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.apache.pekko.actor.ActorSelection;
import org.apache.pekko.actor.Address;
import org.apache.pekko.actor.typed.Behavior;
import org.apache.pekko.actor.typed.javadsl.AbstractBehavior;
import org.apache.pekko.actor.typed.javadsl.ActorContext;
import org.apache.pekko.actor.typed.javadsl.Adapter;
import org.apache.pekko.actor.typed.javadsl.Behaviors;
import org.apache.pekko.actor.typed.javadsl.Receive;
import org.apache.pekko.actor.typed.javadsl.TimerScheduler;
import org.apache.pekko.cluster.MemberStatus;
import org.apache.pekko.cluster.typed.Cluster;
import org.apache.pekko.cluster.typed.JoinSeedNodes;

/**
 * What a worker hears and answers, from joining to the end of its membership. Load stops when the coordinator has been silent
 * for two and a half seconds.
 */
final class WorkerPost extends AbstractBehavior<WorkerPost.Heard> {
    private static final Duration KNOCK = Duration.ofMillis(500);

    /** Load must not go on without who leads it; where there is none, a busy machine is given time. */
    private static final long SILENCE_AT_WORK = 2_500_000_000L;

    private static final long SILENCE = 12_000_000_000L;

    private static final Set<MemberStatus> JOINED =
            Set.of(MemberStatus.joining(), MemberStatus.weaklyUp(), MemberStatus.up());

    /** So many pieces of the project's files are on their way at a time. */
    private static final int WINDOW = 8;

    /** After so many signs of life the clocks are known well enough to be told. */
    private static final int ACQUAINTED = 5;

    /** What it hears, from the coordinator and from this program. */
    interface Heard {}

    private enum Knock implements Heard {
        KNOCK
    }

    /** Something of this program's, done by its thread. */
    record Locally(Consumer<WorkerPost> what) implements Heard {}

    /** How membership ended. */
    record End(Kind kind, String why) {
        enum Kind {
            OVER,
            REFUSED,
            SILENT,
            STOPPED
        }
    }

    private final String id = UUID.randomUUID().toString();
    private final String version;
    private final String address;
    private final ActorSelection coordinator;
    private final WorkerListener listener;
    private final FilesHere files;
    private final WorkerShift.Engines engines;
    private final CompletableFuture<End> ended;
    private final Lifeline lifeline;
    private final Cluster cluster;
    private boolean welcome;
    private boolean ready;
    private int pings;
    private Spoken.Order order;
    private Pieces pieces;
    private int asked;
    private WorkerShift shift;

    /**
     * @param ended hears once how membership ended; nothing is under way then
     */
    static Behavior<Heard> of(
            Invitation invitation,
            String version,
            WorkerListener listener,
            FilesHere files,
            WorkerShift.Engines engines,
            CompletableFuture<End> ended) {
        return GridSystem.surviving(Behaviors.setup(context -> Behaviors.withTimers(
                timers -> new WorkerPost(context, timers, invitation, version, listener, files, engines, ended))));
    }

    private WorkerPost(
            ActorContext<Heard> context,
            TimerScheduler<Heard> timers,
            Invitation invitation,
            String version,
            WorkerListener listener,
            FilesHere files,
            WorkerShift.Engines engines,
            CompletableFuture<End> ended) {
        super(context);
        this.version = version;
        this.listener = listener;
        this.files = files;
        this.engines = engines;
        this.ended = ended;
        this.cluster = Cluster.get(context.getSystem());
        this.address = Coordinator.hostAndPort(cluster.selfMember().address());
        Address there = new Address("pekko", GridSystem.NAME, invitation.host(), invitation.port());
        this.coordinator =
                Adapter.toClassic(context.getSystem()).actorSelection(there + "/system/" + PekkoGathering.PLACE);
        cluster.manager().tell(new JoinSeedNodes(List.of(there)));
        timers.startTimerAtFixedRate(Knock.KNOCK, KNOCK);
        var self = context.getSelf();
        this.lifeline = new Lifeline(SILENCE, () -> {
            // at once, whatever else is going on
            endShift();
            self.tell(new Locally(p -> p.end(End.Kind.SILENT, "the coordinator was silent")));
        });
    }

    @Override
    public Receive<Heard> createReceive() {
        return newReceiveBuilder()
                .onMessageEquals(Knock.KNOCK, () -> then(this::knock))
                .onMessage(Spoken.Welcome.class, w -> then(() -> welcome(w.name())))
                .onMessage(Spoken.Refused.class, r -> then(() -> end(End.Kind.REFUSED, r.why())))
                .onMessage(Spoken.Ping.class, p -> then(() -> ping(p)))
                .onMessage(Spoken.Order.class, o -> then(() -> order(o)))
                .onMessage(Spoken.Piece.class, p -> then(() -> piece(p)))
                .onMessage(Spoken.Begin.class, b -> inShift(s -> begin(s, b)))
                .onMessage(Spoken.Factor.class, f -> inShift(s -> s.control().factor(f.factor())))
                .onMessage(Spoken.EndGently.class, e -> inShift(s -> s.control().stopGently()))
                .onMessage(
                        Spoken.EndNow.class,
                        e -> inShift(s -> s.control().stop().stop()))
                .onMessage(Spoken.TakeOver.class, t -> inShift(s -> s.control().takeOver(t.lanes())))
                .onMessage(Spoken.Over.class, o -> then(() -> end(End.Kind.OVER, "the coordinator is done")))
                .onMessage(Locally.class, l -> then(() -> l.what().accept(this)))
                .build();
    }

    private Behavior<Heard> then(Runnable what) {
        what.run();
        return this;
    }

    private Behavior<Heard> inShift(Consumer<WorkerShift> what) {
        lifeline.heard();
        if (shift != null) {
            what.accept(shift);
        }
        return this;
    }

    private void say(Spoken.ToCoordinator what) {
        coordinator.tell(what, org.apache.pekko.actor.ActorRef.noSender());
    }

    private void knock() {
        // where machines are busy it takes a while until all agree that one is up; to have joined is enough
        if (!welcome && JOINED.contains(cluster.selfMember().status())) {
            say(new Spoken.Hello(
                    id,
                    getContext().getSelf().narrow(),
                    version,
                    address,
                    Runtime.getRuntime().availableProcessors(),
                    LoadEngine.lanes()));
        }
    }

    private void welcome(String name) {
        if (!welcome) {
            welcome = true;
            lifeline.arm();
            listener.told("Joined as " + name + ".");
        }
    }

    private void ping(Spoken.Ping ping) {
        say(new Spoken.Pong(id, ping.sent(), System.nanoTime()));
        lifeline.heard();
        pings++;
        if (welcome && !ready && pings >= ACQUAINTED && ping.clockError() >= 0) {
            ready = true;
            listener.ready(address, Runtime.getRuntime().availableProcessors(), ping.clockError() / 1e6, version);
        }
    }

    private void order(Spoken.Order given) {
        lifeline.heard();
        endShift();
        order = given;
        if (files.has(given.files())) {
            work(files::folder);
            return;
        }
        pieces = new Pieces(Math.max(1, given.pieces()));
        asked = 0;
        while (asked < Math.min(WINDOW, given.pieces())) {
            say(new Spoken.Wanted(id, asked++));
        }
    }

    private void piece(Spoken.Piece piece) {
        lifeline.heard();
        if (pieces == null) {
            return;
        }
        if (asked < order.pieces()) {
            say(new Spoken.Wanted(id, asked++));
        }
        String digest = order.files();
        pieces.add(piece.index(), piece.bytes()).ifPresent(whole -> {
            pieces = null;
            work(() -> files.put(digest, whole));
        });
    }

    /** @param laidOut gives the project's folder, which may take a while */
    private void work(Supplier<Path> laidOut) {
        listener.told("Run " + order.run() + ", part " + (order.part() + 1) + " of " + order.parts() + ".");
        shift = new WorkerShift(id, order, laidOut, engines, this::saidByShift);
    }

    private void begin(WorkerShift now, Spoken.Begin begin) {
        lifeline.patience(SILENCE_AT_WORK);
        now.begin(begin.run(), begin.at());
    }

    /** What a shift says. */
    private void saidByShift(Spoken.ToCoordinator what) {
        say(what);
        if (what instanceof Spoken.Finished || what instanceof Spoken.Failed) {
            lifeline.patience(SILENCE);
        }
    }

    private void endShift() {
        WorkerShift now = shift;
        if (now != null) {
            now.end();
        }
    }

    private void end(End.Kind kind, String why) {
        lifeline.close();
        endShift();
        ended.complete(new End(kind, why));
    }

    /** Whether it was taken in. */
    void isWelcome(CompletableFuture<Boolean> answer) {
        answer.complete(welcome);
    }

    /** Leaves, because its user wants so. */
    void leave() {
        if (welcome) {
            say(new Spoken.Leaving(id));
        }
        end(End.Kind.STOPPED, "stopped");
    }
}
