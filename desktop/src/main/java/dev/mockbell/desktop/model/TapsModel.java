package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Port;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Trial;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ChangedPart;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.KeptTap;
import dev.mockbell.project.LocalKeys;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Names;
import dev.mockbell.tap.Held;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.EventLoops;
import java.net.URI;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The relays that are up: taps on endpoints, and forward proxies. They end with the window. */
public final class TapsModel {
    private static final int COUNT_MILLIS = 300;

    private final Desk desk;
    private final ObservableList<TapHost> up = FXCollections.observableArrayList();
    private final Map<TapHost, String> names = new IdentityHashMap<>();
    private final ObservableList<Waiting> waiting = FXCollections.observableArrayList();
    private final IntegerProperty counts = new SimpleIntegerProperty();
    private final AtomicBoolean due = new AtomicBoolean();

    public TapsModel(Desk desk) {
        this.desk = desk;
        desk.onTook(this::took);
        desk.ledger().listen(listing -> soon());
        desk.onEnd(() -> List.copyOf(up).forEach(TapHost::close));
    }

    /** Counts are shown anew a few times a second, however much passes. */
    private void soon() {
        if (!up.isEmpty() && due.compareAndSet(false, true)) {
            desk.tasks()
                    .later(() -> desk.tasks().after(COUNT_MILLIS, this, () -> {
                        due.set(false);
                        counts.set(counts.get() + 1);
                    }));
        }
    }

    /** Those that listen, in the order in which they were started. */
    public ObservableList<TapHost> up() {
        return up;
    }

    /** Grows when more has passed. */
    public IntegerProperty countsProperty() {
        return counts;
    }

    /** The endpoints of the project's contracts as the environment has them, that of the operation looked at first. */
    public List<String> endpoints() {
        List<String> found = new ArrayList<>();
        Optional.ofNullable(desk.placeProperty().get())
                .ifPresent(p -> p.ports().forEach(port -> add(found, p.contract(), port)));
        for (KeptContract kept : desk.project().contracts()) {
            kept.contract().httpPorts().forEach(port -> add(found, kept, port));
        }
        return found;
    }

    /** A tap that is kept is there again, or is not. */
    private void took(List<ChangedPart> parts) {
        if (parts.stream().anyMatch(p -> p.part().value() instanceof KeptTap)) {
            counts.set(counts.get() + 1);
        }
    }

    private void add(List<String> found, KeptContract kept, Port port) {
        String endpoint = desk.endpoint(kept, port);
        if (endpoint.startsWith("http") && !found.contains(endpoint)) {
            found.add(endpoint);
        }
    }

    /** Finds a port for the next one, the usual one if it is free. */
    public void freePort(int usual, IntConsumer then) {
        desk.tasks().run(() -> EventLoops.freePort(usual), then::accept, desk::tell);
    }

    /** The relays that the project keeps and that are not up. */
    public List<KeptTap> resting() {
        return desk.project().taps().stream()
                .filter(t -> !names.containsValue(t.id()))
                .toList();
    }

    /** Starts one that the project keeps. */
    public void start(KeptTap kept) {
        start(kept.plan(), Optional.of(kept.id()), host -> {});
    }

    /** Starts a relay, which the project keeps from then on; a taken port is explained with the next free one. */
    public void start(TapPlan plan) {
        start(plan, named(plan), host -> {});
    }

    private Optional<String> named(TapPlan plan) {
        return resting().stream()
                .filter(t -> t.plan().equals(plan))
                .map(KeptTap::id)
                .findFirst();
    }

    /** Forgets one that the project keeps; it can be brought back. */
    public void forget(KeptTap kept) {
        desk.steps().tells("The tap “" + kept.id() + "” is forgotten.", p -> p.withoutTap(kept.id()));
        counts.set(counts.get() + 1);
    }

    /**
     * Taps an endpoint, on a port that is free: the one that is up, or that the project keeps, or a new one. Tells where to
     * call.
     */
    public void tap(String endpoint) {
        URI target;
        try {
            target = TapPlan.target(endpoint);
        } catch (Problem problem) {
            desk.tell(problem);
            return;
        }
        Optional<TapHost> there = up.stream()
                .filter(h -> h.plan().target().filter(target::equals).isPresent())
                .findFirst();
        if (there.isPresent()) {
            tellOf(there.get());
            return;
        }
        Optional<KeptTap> kept = resting().stream()
                .filter(t -> t.plan().target().filter(target::equals).isPresent())
                .findFirst();
        if (kept.isPresent()) {
            start(kept.get().plan(), Optional.of(kept.get().id()), this::tellOf);
        } else {
            freePort(TapPlan.USUAL_PORT, port -> start(TapPlan.to(target, port), Optional.empty(), this::tellOf));
        }
    }

    private void tellOf(TapHost host) {
        desk.tell(new Notice(
                "What is called at " + host.address() + " is passed on and recorded.",
                false,
                Optional.of(new Notice.Action("See it", () -> desk.go(Station.TRAFFIC)))));
    }

    private void start(TapPlan plan, Optional<String> kept, Consumer<TapHost> then) {
        LocalProject local = desk.local();
        TapSurroundings around = desk.taps();
        desk.tasks()
                .run(
                        () -> {
                            local.checkListening(plan.host());
                            return TapHost.start(
                                    plan, around, words -> desk.tasks().later(() -> desk.tell(Notice.bad(words))));
                        },
                        host -> {
                            host.holds().listen(() -> desk.tasks().later(this::holding));
                            keep(host, kept);
                            up.add(host);
                            then.accept(host);
                        },
                        problem -> failed(plan, kept, then, problem));
    }

    private void keep(TapHost host, Optional<String> kept) {
        TapPlan plan = host.plan();
        String name = kept.orElseGet(() -> Names.free(
                plan.target().map(TapsModel::title).orElse("proxy"),
                n -> desk.project().taps().stream().anyMatch(t -> t.id().equals(n))));
        names.put(host, name);
        desk.change(p -> p.withTap(new KeptTap(name, plan)));
    }

    private static String title(URI target) {
        String path = target.getPath() == null ? "" : target.getPath().replaceAll("/+$", "");
        String last = path.substring(path.lastIndexOf('/') + 1);
        return last.isEmpty() ? target.getHost() : last;
    }

    private void failed(TapPlan plan, Optional<String> kept, Consumer<TapHost> then, Problem problem) {
        if (problem.kind() != Problem.Kind.PORT_TAKEN) {
            desk.tell(problem, () -> start(plan, kept, then));
            return;
        }
        desk.tasks()
                .run(
                        () -> EventLoops.freePort(plan.port() + 1),
                        free -> desk.tell(Notice.bad(
                                problem.what() + ".", "Use " + free, () -> start(plan.withPort(free), kept, then))),
                        desk::tell);
    }

    private void holding() {
        List<Waiting> now = new ArrayList<>();
        for (TapHost host : up) {
            host.holds().waiting().forEach(h -> now.add(new Waiting(host, h)));
        }
        waiting.setAll(now);
    }

    /** A message that waits at a relay. */
    public record Waiting(TapHost host, Held held) {}

    /** What waits for somebody to decide, by relay, the longest first. */
    public ObservableList<Waiting> waiting() {
        return waiting;
    }

    /** Sets what is to wait at a relay from now on; empty for nothing, which lets through what waits. */
    public void hold(TapHost host, Optional<Holds.Rule> rule) {
        host.holds().set(rule);
        counts.set(counts.get() + 1);
    }

    /** The text of a message that waits, which may be long; made off the interface thread. */
    public void text(Held held, Consumer<String> then) {
        desk.tasks().run(() -> held.message().text(), then, desk::tell);
    }

    /** The parts of a message that waits, or of what is to be answered, to be edited; none where no contract knows it. */
    public Optional<HeldEdit> edit(Held held, boolean answer) {
        Optional<MessageOutline> outline = contractOf(held)
                .flatMap(kept -> desk.place(kept.name(), held.operation()))
                .flatMap(place -> {
                    Contract contract = place.contract().contract();
                    return answer
                            ? MessageOutline.ofAnswer(contract, place.operation())
                            : Optional.of(MessageOutline.ofRequest(contract, place.operation()));
                });
        return outline.map(o -> new HeldEdit(o, desk.tasks(), desk.expressions()));
    }

    private Optional<KeptContract> contractOf(Held held) {
        return desk.project().contracts().stream()
                .filter(k -> k.contract().httpOperations().containsKey(held.operation()))
                .findFirst();
    }

    /** What the mock of its contract would answer to a request that waits, as text to start from; status, then head and body. */
    public void mocked(Held held, Consumer<Mocked> then) {
        Optional<KeptContract> kept = contractOf(held);
        if (kept.isEmpty()) {
            then.accept(new Mocked("HTTP/1.1 200 OK\nContent-Type: text/xml; charset=utf-8", ""));
            return;
        }
        KeptContract of = kept.get();
        MockPlan plan = desk.project().mock(of.name()).orElseGet(() -> MockPlan.sampling(of.name(), 0));
        var around = desk.mocks(null, e -> {});
        String type = held.request().header("Content-Type").orElse("text/xml");
        MockEvent.Kept request = new MockEvent.Kept(
                "",
                type,
                held.request().header("SOAPAction").orElse(""),
                held.request().body());
        desk.tasks()
                .run(
                        () -> Trial.of(of.contract(), plan, around, request),
                        trial -> then.accept(new Mocked(
                                "HTTP/1.1 " + trial.status()
                                        + (trial.status() == 200 ? " OK" : " Internal Server Error")
                                        + "\nContent-Type: " + type,
                                trial.body())),
                        desk::tell);
    }

    /** An answer to start from. */
    public record Mocked(String head, String body) {}

    /** Ends a relay and the connections that go through it. */
    public void stop(TapHost host) {
        names.remove(host);
        up.remove(host);
        holding();
        desk.tasks()
                .run(
                        () -> {
                            host.close();
                            return null;
                        },
                        nothing -> {},
                        desk::tell);
    }

    /** The certificate that clients are to trust, as PEM; made when there is none yet, which takes a while. */
    public void certificate(Consumer<String> then) {
        LocalKeys keys = desk.keys();
        desk.tasks().run(() -> keys.authority().pem(), then, desk::tell);
    }
}
