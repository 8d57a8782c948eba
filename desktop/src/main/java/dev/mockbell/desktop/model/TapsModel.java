package dev.mockbell.desktop.model;

import dev.mockbell.contract.Port;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Trial;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalKeys;
import dev.mockbell.project.LocalProject;
import dev.mockbell.tap.Held;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.EventLoops;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The relays that are up: taps on endpoints, and forward proxies. They end with the window. */
public final class TapsModel {
    private static final int COUNT_MILLIS = 300;

    private final Desk desk;
    private final ObservableList<TapHost> up = FXCollections.observableArrayList();
    private final ObservableList<Waiting> waiting = FXCollections.observableArrayList();
    private final IntegerProperty counts = new SimpleIntegerProperty();
    private final AtomicBoolean due = new AtomicBoolean();

    public TapsModel(Desk desk) {
        this.desk = desk;
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

    private void add(List<String> found, KeptContract kept, Port port) {
        String endpoint = desk.endpoint(kept, port);
        if (endpoint.startsWith("http") && !found.contains(endpoint)) {
            found.add(endpoint);
        }
    }

    /** A port for the next one, the usual one if it is free. */
    public int freePort(int usual) {
        return EventLoops.freePort(usual);
    }

    /** Starts a relay; a taken port is explained with the next free one. */
    public void start(TapPlan plan) {
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
                            up.add(host);
                        },
                        problem -> failed(plan, problem));
    }

    private void failed(TapPlan plan, Problem problem) {
        if (problem.kind() != Problem.Kind.PORT_TAKEN) {
            desk.tell(problem, () -> start(plan));
            return;
        }
        desk.tasks()
                .run(
                        () -> EventLoops.freePort(plan.port() + 1),
                        free -> desk.tell(
                                Notice.bad(problem.what() + ".", "Use " + free, () -> start(plan.withPort(free)))),
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

    /** What the mock of its contract would answer to a request that waits, as text to start from; status, then head and body. */
    public void mocked(Held held, Consumer<Mocked> then) {
        Optional<KeptContract> kept = desk.project().contracts().stream()
                .filter(k -> k.contract().httpOperations().containsKey(held.operation()))
                .findFirst();
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
