package dev.mockbell.grid;

import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.ConnectException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.function.Consumer;
import org.apache.pekko.actor.Address;
import org.apache.pekko.actor.AddressFromURIString;
import org.apache.pekko.actor.typed.Behavior;
import org.apache.pekko.actor.typed.javadsl.AbstractBehavior;
import org.apache.pekko.actor.typed.javadsl.ActorContext;
import org.apache.pekko.actor.typed.javadsl.Behaviors;
import org.apache.pekko.actor.typed.javadsl.Receive;
import org.apache.pekko.actor.typed.javadsl.TimerScheduler;
import org.apache.pekko.cluster.ClusterEvent;
import org.apache.pekko.cluster.typed.Cluster;
import org.apache.pekko.cluster.typed.Down;
import org.apache.pekko.cluster.typed.Subscribe;

/**
 * Takes workers in, keeps an eye on them, and has them carry out runs. Who is silent is slow first, and lost once its machine
 * says that the program is gone, once it cannot be reached, or after a long while.
 */
final class Coordinator extends AbstractBehavior<Coordinator.Heard> {
    private static final Duration TICK = Duration.ofMillis(200);

    /** While load is measured, one tick of so many has a sign of life asked for: on a shared machine each takes from the load. */
    private static final int QUIET_TICKS = 3;

    private static final long SLOW_NANOS = 1_200_000_000;
    private static final long CUT_OFF_NANOS = 3_000_000_000L;
    private static final long LOST_NANOS = 15_000_000_000L;
    private static final long PROBE_NANOS = 800_000_000;
    private static final int PROBE_MILLIS = 700;

    /** What it hears, from others and from this program. */
    interface Heard {}

    private enum Tick implements Heard {
        TICK
    }

    /** Something of this program's, done by its thread. */
    record Locally(Consumer<Coordinator> what) implements Heard {}

    private record Missed(String address) implements Heard {}

    private enum Reached {
        YES,
        /** The machine is there, and the program is not. */
        GONE,
        NO
    }

    private final String version;
    private final FleetListener listener;
    private final Map<String, Member> members = new LinkedHashMap<>();
    private long runs;
    private FleetRun run;
    private long published;
    private long ticks;

    static Behavior<Heard> of(String version, FleetListener listener) {
        return GridSystem.surviving(Behaviors.setup(
                context -> Behaviors.withTimers(timers -> new Coordinator(context, timers, version, listener))));
    }

    private Coordinator(
            ActorContext<Heard> context, TimerScheduler<Heard> timers, String version, FleetListener listener) {
        super(context);
        this.version = version;
        this.listener = listener;
        timers.startTimerAtFixedRate(Tick.TICK, TICK);
        Cluster.get(context.getSystem())
                .subscriptions()
                .tell(Subscribe.create(
                        context.messageAdapter(
                                ClusterEvent.UnreachableMember.class,
                                e -> new Missed(hostAndPort(e.member().address()))),
                        ClusterEvent.UnreachableMember.class));
    }

    static String hostAndPort(Address address) {
        return address.getHost().orElse("") + ":" + address.getPort().orElse(0);
    }

    @Override
    public Receive<Heard> createReceive() {
        return newReceiveBuilder()
                .onMessage(Spoken.Hello.class, h -> then(() -> hello(h)))
                .onMessage(Spoken.Pong.class, p -> then(() -> pong(p)))
                .onMessage(Spoken.Wanted.class, w -> from(w, m -> ofRun(r -> r.wanted(m, w.index()))))
                .onMessage(Spoken.Doing.class, d -> from(d, m -> doing(m, d)))
                .onMessage(Spoken.Prepared.class, p -> inRun(p, p.run(), (r, m) -> r.prepared(m, now())))
                .onMessage(Spoken.Parcel.class, p -> inRun(p, p.run(), (r, m) -> r.parcel(m, p)))
                .onMessage(
                        Spoken.SecondOver.class, s -> inRun(s, s.run(), (r, m) -> r.secondOver(m, s.second(), now())))
                .onMessage(Spoken.Finished.class, f -> inRun(f, f.run(), (r, m) -> r.finished(m, f.seconds(), now())))
                .onMessage(Spoken.Failed.class, f -> inRun(f, f.run(), (r, m) -> r.failed(m, f.why(), now())))
                .onMessage(Spoken.Leaving.class, l -> from(l, m -> lost(m, "it was stopped at its machine")))
                .onMessage(Missed.class, m -> then(() -> missed(m.address())))
                .onMessage(Locally.class, l -> then(() -> l.what().accept(this)))
                .onMessageEquals(Tick.TICK, () -> then(this::tick))
                .build();
    }

    private static long now() {
        return System.nanoTime();
    }

    private Behavior<Heard> then(Runnable what) {
        what.run();
        return this;
    }

    private Behavior<Heard> from(Spoken.ToCoordinator said, Consumer<Member> what) {
        Member member = members.get(said.id());
        if (member != null && !member.isLost()) {
            heard(member);
            what.accept(member);
        } else if (member == null) {
            // one that was given up and does not know it
            getContext().getLog().info("word from somebody unknown");
        }
        return this;
    }

    /** What is done with a run and a member of it. */
    private interface InRun {
        void act(FleetRun run, Member member);
    }

    private Behavior<Heard> inRun(Spoken.ToCoordinator said, long number, InRun what) {
        return from(
                said,
                m -> ofRun(r -> {
                    if (r.has(m, number)) {
                        what.act(r, m);
                        afterwards();
                    }
                }));
    }

    private void ofRun(Consumer<FleetRun> what) {
        if (run != null) {
            what.accept(run);
        }
    }

    private void hello(Spoken.Hello hello) {
        Member known = members.get(hello.id());
        if (!hello.version().equals(version)) {
            hello.worker()
                    .tell(new Spoken.Refused("This worker is version " + hello.version()
                            + ", and the run is led by version " + version + ": use the same on all machines."));
            listener.told("A worker at " + hello.address() + " was refused: it is version " + hello.version()
                    + ", and this is " + version + ".");
            return;
        }
        if (hello.lanes() < 1 || hello.lanes() > 4_096) {
            hello.worker().tell(new Spoken.Refused("A worker with " + hello.lanes() + " lanes cannot be used."));
            return;
        }
        if (known == null) {
            known = new Member(free(), hello, now());
            members.put(hello.id(), known);
            publish();
        }
        hello.worker().tell(new Spoken.Welcome(known.name()));
    }

    /** The first number that nobody has. */
    private String free() {
        Set<String> taken = new TreeSet<>();
        members.values().forEach(m -> taken.add(m.name()));
        int number = 1;
        while (taken.contains("worker " + number)) {
            number++;
        }
        return "worker " + number;
    }

    private void pong(Spoken.Pong pong) {
        Member member = members.get(pong.id());
        if (member != null && !member.isLost()) {
            boolean known = member.tie().isKnown();
            member.tie().heard(pong.sent(), pong.here(), now());
            heard(member);
            if (!known) {
                publish();
            }
        }
    }

    private void heard(Member member) {
        long silence = member.heard(now());
        if (member.state() == State.SLOW) {
            member.state(State.AT_WORK);
            ofRun(r -> r.back(member, silence));
            publish();
        }
    }

    private void doing(Member member, Spoken.Doing doing) {
        ofRun(r -> {
            if (r.has(member, doing.run())) {
                member.doing(doing.what());
                publish();
            }
        });
    }

    private void missed(String address) {
        members.values().stream()
                .filter(m -> m.hello().address().equals(address) && !m.isLost())
                .forEach(this::probe);
    }

    private void slow(Member member) {
        if (member.state() == State.AT_WORK) {
            member.state(State.SLOW);
            publish();
        }
        probe(member);
    }

    private void probe(Member member) {
        if (member.probeIsDue(now(), PROBE_NANOS)) {
            var self = getContext().getSelf();
            CompletableFuture.supplyAsync(() -> reach(member.host(), member.port()))
                    .thenAccept(r -> self.tell(new Locally(c -> c.probed(member, r))));
        }
    }

    /** Whether a program listens there. One that is paused still does: its machine takes connections for it. */
    private static Reached reach(String host, int port) {
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress(host, port), PROBE_MILLIS);
            return Reached.YES;
        } catch (ConnectException e) {
            // only a machine that is there refuses; a network that is not has the same exception
            return Problem.reason(e).contains("refused") ? Reached.GONE : Reached.NO;
        } catch (IOException e) {
            return Reached.NO;
        }
    }

    private void probed(Member member, Reached reached) {
        long silence = member.silence(now());
        if (member.isLost() || silence < SLOW_NANOS) {
            return;
        }
        if (reached == Reached.GONE) {
            lost(member, "its program ended");
        } else if (reached == Reached.NO && silence > CUT_OFF_NANOS) {
            lost(member, "its machine could not be reached any more");
        }
    }

    private void lost(Member member, String why) {
        boolean told = run != null && run.lost(member, why, now());
        member.state(State.LOST);
        if (!told) {
            listener.told(member.name() + " (" + member.hello().address() + ") left: " + why + ".");
        }
        // it may think otherwise
        member.ref().tell(new Spoken.EndNow());
        Cluster.get(getContext().getSystem())
                .manager()
                .tell(new Down(AddressFromURIString.parse(
                        "pekko://" + GridSystem.NAME + "@" + member.hello().address())));
        if (run == null || !run.has(member)) {
            members.remove(member.id());
        }
        afterwards();
        publish();
    }

    private void tick() {
        ticks++;
        boolean asks = run == null || !run.isBegun() || ticks % QUIET_TICKS == 0;
        for (Member member : List.copyOf(members.values())) {
            if (member.isLost()) {
                continue;
            }
            if (asks) {
                member.ref().tell(new Spoken.Ping(now(), member.tie().error()));
            }
            long silence = member.silence(now());
            if (silence > LOST_NANOS) {
                lost(member, "it said nothing for " + LOST_NANOS / 1_000_000_000L + " s");
            } else if (silence > SLOW_NANOS) {
                slow(member);
            }
        }
        ofRun(r -> r.tick(now()));
        afterwards();
        if (now() - published > 1_000_000_000L && run != null) {
            publish();
        }
    }

    private void afterwards() {
        if (run != null && run.isOver()) {
            run = null;
            members.values().removeIf(Member::isLost);
            members.values().forEach(m -> {
                m.state(State.AT_WORK);
                m.doing("waits");
            });
            publish();
        }
    }

    private void publish() {
        published = now();
        listener.workers(all());
    }

    private List<WorkerNow> all() {
        return members.values().stream().map(Member::now).toList();
    }

    /** Those that are there. */
    void tell(CompletableFuture<List<WorkerNow>> answer) {
        answer.complete(all());
    }

    /** Begins a run with all that are there; the result is told to who asked. */
    void begin(FleetOrder order, ProjectFiles.Packed files, FleetRun.Asked asked) {
        List<Member> crew = members.values().stream()
                .filter(m -> m.state() == State.AT_WORK && m.tie().isKnown())
                .toList();
        try {
            if (run != null) {
                throw Problem.input("Another run is under way", null, "Wait for its end.");
            }
            if (crew.isEmpty()) {
                throw Problem.of(
                        Problem.Kind.NO_ANSWER,
                        "There is no worker",
                        null,
                        "Start one by “mockbell worker --invitation FILE”.",
                        null);
            }
            order.check(crew.stream().map(Member::host).toList());
        } catch (Problem problem) {
            asked.result().completeExceptionally(problem);
            return;
        }
        run = new FleetRun(++runs, order, files, crew, asked, listener::told, now());
        run.order();
        publish();
    }

    /** The rate of the run was changed, or it is to end. */
    void changed() {
        ofRun(r -> r.changed(now()));
    }

    /** Says to all that there will be no more runs. */
    void over(CompletableFuture<Void> said) {
        members.values().forEach(m -> m.ref().tell(new Spoken.Over()));
        members.clear();
        said.complete(null);
    }
}
