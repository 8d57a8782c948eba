package dev.mockbell.grid;

import dev.mockbell.expression.Expressions;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.fleet.WorkerListener;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Secrets;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.ProviderJars;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;

/** A gathering and workers of this program, on loopback. */
final class Crew implements AutoCloseable {
    static final String VERSION = "1.0";

    final Authority authority = Authority.made("Northfell", Instant.now());
    final int port;
    final List<String> told = new CopyOnWriteArrayList<>();
    final List<StopSignal> stops = new ArrayList<>();
    final List<List<String>> heard = new ArrayList<>();
    final List<Future<?>> working = new ArrayList<>();
    final PekkoFleet fleet;
    final Gathering gathering;
    private final ExecutorService threads = Executors.newCachedThreadPool();
    private final EventLoops loops = new EventLoops("crew", 1);

    Crew(int workers) {
        fleet = fleet(VERSION);
        FleetListener listener = new FleetListener() {
            @Override
            public void told(String sentence) {
                told.add(sentence);
            }
        };
        Gathering opened = null;
        int at = 0;
        for (int i = 0; opened == null; i++) {
            at = freePort();
            try {
                opened = fleet.open(invitation(Invitation.COORDINATOR, at), listener);
            } catch (Problem taken) {
                // somebody else was quicker
                if (i > 5) {
                    throw taken;
                }
            }
        }
        gathering = opened;
        port = at;
        for (int i = 0; i < workers; i++) {
            worker(fleet, invitation(Invitation.WORKER));
        }
        await(workers);
    }

    /** Its engines begin cold, which is quicker for tests. */
    static PekkoFleet fleet(String version) {
        return new PekkoFleet(version, (l, e) -> new LoadEngine(l, e, Connect.USUAL, ProviderJars.NONE, false));
    }

    /**
     * Below those that the system gives to connections: workers that call a port again and again where nobody listens would
     * once be given that very port as their own end, reach themselves, and hold it.
     */
    static int freePort() {
        return EventLoops.freePort(20_000 + ThreadLocalRandom.current().nextInt(10_000));
    }

    Invitation invitation(URI role) {
        return invitation(role, port);
    }

    private Invitation invitation(URI role, int at) {
        return Invitation.of(authority, role, "127.0.0.1", at, "Northfell", Instant.now(), Duration.ofHours(1));
    }

    /** Starts one more; the future ends with it. */
    Future<?> worker(PekkoFleet by, Invitation invitation) {
        StopSignal stop = new StopSignal();
        List<String> words = new CopyOnWriteArrayList<>();
        stops.add(stop);
        heard.add(words);
        Future<?> work = threads.submit(() -> by.work(
                invitation,
                "127.0.0.1",
                new WorkerListener() {
                    @Override
                    public void ready(String address, int cores, double clockError, String version) {
                        words.add("READY " + address + " " + cores + " " + version);
                    }

                    @Override
                    public void told(String sentence) {
                        words.add(sentence);
                    }
                },
                stop));
        working.add(work);
        return work;
    }

    void await(int workers) {
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
        while (gathering.workers().stream().filter(w -> w.clockError() >= 0).count() < workers) {
            if (System.nanoTime() > until) {
                throw new AssertionError("workers: " + gathering.workers() + " " + heard);
            }
            pause(50);
        }
    }

    static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    List<WorkerNow> workers() {
        return gathering.workers();
    }

    FleetOrder order(Path folder, LoadPlan plan, Map<String, String> secrets, WhenLost whenLost) {
        Project project = new ProjectStore().open(folder);
        ProjectBench bench =
                new ProjectBench(project, LocalProject.UNKNOWN, new Secrets(Path.of("none"), secrets(secrets)));
        LoadEngine.Named named = new LoadEngine(loops, new Expressions())
                .named(plan, bench, host -> true, new LoadControl(new StopSignal()));
        return new FleetOrder(
                plan, folder, project.environment(), named, secrets, Set.of(), Set.copyOf(named.hosts()), whenLost);
    }

    private static Map<String, String> secrets(Map<String, String> values) {
        Map<String, String> all = new java.util.HashMap<>();
        values.forEach((name, value) -> all.put(Expressions.environmentName(name), value));
        return all;
    }

    LoadRun run(Path folder, LoadPlan plan) {
        return run(folder, plan, LoadListener.NONE);
    }

    LoadRun run(Path folder, LoadPlan plan, LoadListener listener) {
        return gathering.run(
                order(folder, plan, Map.of(), WhenLost.SHARE), listener, new LoadControl(new StopSignal()));
    }

    /** A run that something is done to meanwhile. */
    CompletableFuture<LoadRun> start(FleetOrder order, LoadListener listener, LoadControl control) {
        return CompletableFuture.supplyAsync(() -> gathering.run(order, listener, control), threads);
    }

    @Override
    public void close() {
        stops.forEach(StopSignal::stop);
        gathering.close();
        threads.shutdown();
        loops.close();
        try {
            threads.awaitTermination(20, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
