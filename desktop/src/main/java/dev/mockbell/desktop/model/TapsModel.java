package dev.mockbell.desktop.model;

import dev.mockbell.contract.Port;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalKeys;
import dev.mockbell.project.LocalProject;
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
                        up::add,
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

    /** Ends a relay and the connections that go through it. */
    public void stop(TapHost host) {
        up.remove(host);
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
