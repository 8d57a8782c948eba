package dev.mockbell.bench;

import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.project.ProjectStore;
import java.io.IOException;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;

/**
 * A run at a high rate in the real window, drawn offscreen, against a plain server in a process of its own: what of the rate is reached,
 * and for how long the interface thread is held while the run is looked at. Beside it the same for a run of ten a second.
 */
final class LiveBench {
    private static final int SECONDS = 20;
    private static final int FEW = 10;
    private static final int CONNECTIONS = 64;
    private static final long READY_MILLIS = 60_000;

    private final PrintStream out;
    private final int rate;

    /** @param rate arrivals a second */
    LiveBench(PrintStream out, int rate) {
        this.out = out;
        this.rate = rate;
    }

    void run() throws IOException {
        Process peer = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx256m",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Peer.class.getName())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        try {
            String port = peer.inputReader(StandardCharsets.US_ASCII).readLine();
            Path folder = project("http://127.0.0.1:" + port + "/stay");
            MockBellWindow window = BenchWindow.open(folder);
            LoadModel load = window.models().load();
            Hand hand = new Hand(window.stage());
            Hand.run(() -> window.models().desk().go(Station.LOAD));
            BenchWindow.settle();
            for (int each : List.of(FEW, rate, FEW, rate)) {
                watched(hand, load, each);
            }
        } finally {
            peer.destroy();
        }
    }

    private void watched(Hand hand, LoadModel load, int each) {
        Hand.run(() -> load.keep(load.planProperty().get().with(LoadShape.arrivals(each, SECONDS))));
        Beat ready = Beat.start();
        Hand.run(load::startOrStop);
        long until = System.currentTimeMillis() + READY_MILLIS;
        while (Hand.on(() -> load.seconds().isEmpty()) && System.currentTimeMillis() < until) {
            pause(100);
        }
        String readying = ready.stop();
        Beat beat = Beat.start();
        pause((SECONDS - 2) * 1_000L);
        String running = beat.stop();
        Beat after = Beat.start();
        hand.await("the end", () -> !load.runningProperty().get());
        pause(1_000);
        List<LoadSecond> seconds = Hand.on(() -> List.copyOf(load.seconds()));
        LoadSecond last = seconds.get(seconds.size() - 1);
        out.printf(
                "%,d a second: %,d of %,d done a second, %,d failed, median %.2f ms, p99 %.2f ms%n",
                each,
                Math.round(
                        seconds.stream().mapToLong(LoadSecond::done).average().orElse(0)),
                Math.round(seconds.stream()
                        .mapToLong(LoadSecond::intended)
                        .average()
                        .orElse(0)),
                seconds.stream().mapToLong(LoadSecond::failed).sum(),
                last.total().p50(),
                last.total().p99());
        out.printf("  getting ready: %s%n  running: %s%n  the end: %s%n", readying, running, after.stop());
        Hand.on(() -> load.resultProperty().get().reasons())
                .forEach((why, count) -> out.printf("  %,d failed: %s%n", count, why));
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static Path project(String endpoint) throws IOException {
        Path folder = Scratch.folder().resolve("project");
        ProjectStore store = new ProjectStore();
        store.create(folder, "live");
        store.saveContract(folder, "stay", "Stay", Stay.contract(), Instant.EPOCH);
        store.saveCase(folder, Stay.kept());
        store.saveSuite(folder, Stay.suite());
        store.saveLoad(
                folder,
                LoadPlan.of("l", "L", "s", LoadShape.arrivals(FEW, SECONDS))
                        .with(Conduct.USUAL.withConnections(true, CONNECTIONS))
                        .withEndpoint(endpoint));
        return folder;
    }

    /** The server. */
    static final class Peer {
        private Peer() {}

        public static void main(String[] args) throws Exception {
            byte[] body = Stay.ANSWER.getBytes(StandardCharsets.UTF_8);
            String head = "HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: " + body.length
                    + "\r\n\r\n";
            byte[] answer = (head + Stay.ANSWER).getBytes(StandardCharsets.UTF_8);
            try (ServerSocket server = PlainPeer.serve(answer)) {
                System.out.println(server.getLocalPort());
                // until it is destroyed
                Thread.currentThread().join();
            }
        }
    }
}
