package dev.mockbell.bench;

import dev.mockbell.assembly.Core;
import dev.mockbell.expression.Expressions;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.grid.PekkoFleet;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.ProviderJars;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.HdrHistogram.Histogram;

/**
 * Load by workers, each a process on this machine: how long until the first arrival, what leading costs, and whether the figures
 * are those of one engine at the same rate.
 */
final class GridBench {
    private static final int SECONDS = 10;
    private static final double RATE = 120;

    private final PrintStream out;

    private final List<Integer> counts;

    /** @param counts of workers */
    GridBench(PrintStream out, List<Integer> counts) {
        this.out = out;
        this.counts = counts;
    }

    void run() throws Exception {
        byte[] body = Stay.ANSWER.getBytes(StandardCharsets.UTF_8);
        byte[] response = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: " + body.length
                        + "\r\n\r\n" + Stay.ANSWER)
                .getBytes(StandardCharsets.UTF_8);
        Path folder = Scratch.folder();
        try (ServerSocket server = PlainPeer.serve(response)) {
            ProjectStore store = new ProjectStore();
            store.create(folder, "Stay");
            store.saveContract(folder, "stay", "Stay", Stay.contract(), Instant.EPOCH);
            store.saveCase(folder, Stay.kept());
            store.saveSuite(folder, Stay.suite());
            LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.arrivals(RATE, SECONDS))
                    .withEndpoint("http://127.0.0.1:" + server.getLocalPort() + "/stay");
            out.println(String.format(
                    Locale.ROOT,
                    "load of %.0f a second for %d s, by workers that are processes of this machine",
                    RATE,
                    SECONDS));
            alone(folder, plan);
            for (int workers : counts) {
                unled(folder, plan.endpoint(), workers);
                together(folder, plan, workers);
            }
        }
    }

    private void unled(Path folder, String url, int count) throws IOException {
        try (Unled engines = new Unled(folder, url, RATE / count, SECONDS, count)) {
            for (int turn = 0; turn < 2; turn++) {
                Histogram times = engines.turn();
                out.println(String.format(
                        Locale.ROOT,
                        "  %d engines that nobody leads, %s: %d done, p50 %.2f, p95 %.2f, p99 %.2f ms",
                        count,
                        turn == 0 ? "cold" : "again",
                        times.getTotalCount(),
                        times.getValueAtPercentile(50) / 1_000.0,
                        times.getValueAtPercentile(95) / 1_000.0,
                        times.getValueAtPercentile(99) / 1_000.0));
            }
        }
    }

    private void alone(Path folder, LoadPlan plan) {
        try (EventLoops loops = new EventLoops("bench", Runtime.getRuntime().availableProcessors())) {
            LoadEngine engine = new LoadEngine(loops, new Expressions());
            ProjectBench bench = ProjectBench.unknown(new ProjectStore().open(folder));
            for (int turn = 0; turn < 2; turn++) {
                LoadRun run =
                        engine.run(plan, bench, host -> true, LoadListener.NONE, new LoadControl(new StopSignal()));
                if (turn > 0) {
                    out.println("  one engine: " + figures(run));
                }
            }
        }
    }

    private static String figures(LoadRun run) {
        return String.format(
                Locale.ROOT,
                "%d done, p50 %.2f, p95 %.2f, p99 %.2f ms",
                run.total().done(),
                run.total().p50(),
                run.total().p95(),
                run.total().p99());
    }

    private void together(Path folder, LoadPlan plan, int count) throws Exception {
        Authority authority = Authority.made("bench", Instant.now());
        int port;
        try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            port = free.getLocalPort();
        }
        Path invitation = folder.resolveSibling(folder.getFileName() + "-" + count + ".json");
        Invitation.of(authority, Invitation.WORKER, "127.0.0.1", port, "bench", Instant.now(), Duration.ofHours(1))
                .write(invitation);
        Invitation own = Invitation.of(
                authority, Invitation.COORDINATOR, "127.0.0.1", port, "bench", Instant.now(), Duration.ofHours(1));
        List<Process> processes = new ArrayList<>();
        try (Gathering gathering = new PekkoFleet(Core.VERSION, ProviderJars.NONE).open(own, FleetListener.NONE);
                EventLoops loops = new EventLoops("bench", 1)) {
            long began = System.nanoTime();
            for (int i = 0; i < count; i++) {
                processes.add(worker(invitation));
            }
            while (gathering.workers().stream().filter(w -> w.clockError() >= 0).count() < count) {
                Thread.sleep(50);
            }
            double joined = (System.nanoTime() - began) / 1e9;
            Project project = new ProjectStore().open(folder);
            LoadEngine.Named named = new LoadEngine(loops, new Expressions())
                    .named(plan, ProjectBench.unknown(project), host -> true, new LoadControl(new StopSignal()));
            FleetOrder order = new FleetOrder(
                    plan, folder, "", named, Map.of(), Set.of(), Set.copyOf(named.hosts()), WhenLost.SHARE);
            for (int turn = 0; turn < 2; turn++) {
                Watching watching = new Watching();
                long ordered = System.nanoTime();
                LoadRun run;
                try {
                    run = gathering.run(order, watching, new LoadControl(new StopSignal()));
                } catch (Problem problem) {
                    out.println("  " + count + " workers: " + problem.getMessage());
                    return;
                }
                double cost = (cluster() - watching.cpu) / (count * run.seconds());
                double error = run.workers().stream()
                        .mapToDouble(w -> w.clockError())
                        .max()
                        .orElse(0);
                out.println(String.format(
                        Locale.ROOT,
                        "  %d workers, %s: %sfirst arrival %.1f s after the order; %s; leading costs %.2f ms of CPU for each"
                                + " worker and second; clocks within %.2f ms",
                        count,
                        turn == 0 ? "cold" : "again",
                        turn == 0 ? String.format(Locale.ROOT, "joined after %.1f s, ", joined) : "",
                        (watching.first - ordered) / 1e9,
                        figures(run),
                        cost * 1_000,
                        error));
            }
        } finally {
            processes.forEach(Process::destroy);
            for (Process process : processes) {
                process.waitFor(10, TimeUnit.SECONDS);
            }
            Files.deleteIfExists(invitation);
        }
    }

    /** Java with the settings that the program starts workers with, and this one's archive. */
    static List<String> java() {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        ManagementFactory.getRuntimeMXBean().getInputArguments().stream()
                .filter(a -> a.startsWith("-XX:"))
                .forEach(command::add);
        command.addAll(List.of(
                "-Xms512m",
                "-Xmx512m",
                "-Xmn256m",
                "-XX:MaxTenuringThreshold=2",
                "-cp",
                System.getProperty("java.class.path")));
        return command;
    }

    private static Process worker(Path invitation) throws IOException {
        List<String> command = new ArrayList<>(java());
        command.addAll(List.of(
                "dev.mockbell.app.Main",
                "worker",
                "--invitation",
                invitation.toString(),
                "--as-long-as",
                String.valueOf(ProcessHandle.current().pid())));
        return new ProcessBuilder(command)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
    }

    /** CPU of the threads that lead, in seconds. */
    private static double cluster() {
        ThreadMXBean threads = ManagementFactory.getThreadMXBean();
        double sum = 0;
        for (Thread thread : Thread.getAllStackTraces().keySet()) {
            if (thread.getName().startsWith("mockbell-")) {
                sum += Math.max(0, threads.getThreadCpuTime(thread.getId())) / 1e9;
            }
        }
        return sum;
    }

    private static final class Watching implements LoadListener {
        private volatile long first;
        private volatile double cpu;

        @Override
        public void phase(Phase phase) {
            if (phase == Phase.MEASURING) {
                first = System.nanoTime();
                cpu = cluster();
            }
        }
    }
}
