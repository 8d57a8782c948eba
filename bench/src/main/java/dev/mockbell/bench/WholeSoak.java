package dev.mockbell.bench;

import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.ledger.Retention;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javax.management.JMException;
import javax.management.ObjectName;

/**
 * The whole program for a long time: a window that is used, its mock, a tap before it that records, and load by way of the tap, over and
 * over; what heap, threads and open files come to, once a minute. The ledger may keep no more than a few minutes of it.
 */
final class WholeSoak {
    private static final long MINUTE_MILLIS = 60_000;
    private static final int STEP_MILLIS = 1_500;
    private static final int RATE = 60;
    private static final int RUN_SECONDS = 100;
    private static final long KEPT = 20_000;

    private final PrintStream out;
    private final int minutes;
    private final List<long[]> seen = new ArrayList<>();
    private Models models;
    private Hand hand;
    private Path folder;
    private int calls;
    private int suites;
    private int loads;

    WholeSoak(PrintStream out, int minutes) {
        this.out = out;
        this.minutes = minutes;
    }

    void run() throws Exception {
        folder = project();
        MockBellWindow window = BenchWindow.open(folder);
        models = window.models();
        hand = new Hand(window.stage());
        Hand.run(models.mocks()::startOrStop);
        hand.await("the mock", () -> models.mocks().running() == 1);
        String mock = models.mocks().host().orElseThrow().base() + "/stay";
        Hand.run(() -> models.taps().tap(mock));
        hand.await("the tap", () -> models.taps().up().size() == 1);
        String tap = models.taps().up().get(0).address() + "/stay";
        Hand.run(() -> models.desk()
                .change(p -> p.withCase(p.cases()
                        .get(0)
                        .withDelivery(p.cases().get(0).delivery().to(tap)))));
        Hand.run(() -> models.load().open(models.desk().project().loads().get(0)));
        Hand.run(() -> models.load().keep(models.load().planProperty().get().withEndpoint(tap)));
        out.println("minute  live MB  threads  open files  ledger MB  calls  suites  loads");
        long until = System.currentTimeMillis() + minutes * MINUTE_MILLIS;
        long next = System.currentTimeMillis() + MINUTE_MILLIS;
        int step = 0;
        while (System.currentTimeMillis() < until) {
            work(step++);
            Thread.sleep(STEP_MILLIS);
            if (System.currentTimeMillis() >= next) {
                next += MINUTE_MILLIS;
                note();
            }
        }
        verdict();
    }

    /** What a person does: looks here and there, sends, runs the suite, starts the load again when it is over. */
    private void work(int step) {
        Station station = Station.values()[step % Station.values().length];
        Hand.run(() -> models.desk().go(station));
        if (station == Station.CALL) {
            Hand.run(models.call()::sendOrStop);
            calls++;
        }
        if (station == Station.CHECK && !models.check().runningProperty().get()) {
            Hand.run(models.check()::runOrStop);
            suites++;
        }
        if (station == Station.LOAD && !models.load().runningProperty().get()) {
            Hand.run(models.load()::startOrStop);
            loads++;
        }
        hand.picture();
    }

    private void note() throws IOException {
        long heap = live();
        long threads = ManagementFactory.getThreadMXBean().getThreadCount();
        long files = files();
        long ledger = Files.size(ProjectStore.ledger(folder));
        seen.add(new long[] {heap, threads, files, ledger});
        out.printf(
                "%d  %.1f  %d  %d  %.1f  %d  %d  %d%n",
                seen.size(), heap / 1e6, threads, files, ledger / 1e6, calls, suites, loads);
    }

    /** What is reachable, in bytes: what only waits to be collected is no leak, and the window's collector takes its time. */
    private static long live() {
        // a count that comes while native code holds an array is made without a collection; two in a row hardly do
        return Math.min(counted(), counted());
    }

    private static long counted() {
        try {
            Object told = ManagementFactory.getPlatformMBeanServer()
                    .invoke(
                            new ObjectName("com.sun.management:type=DiagnosticCommand"),
                            "gcClassHistogram",
                            new Object[] {new String[0]},
                            new String[] {String[].class.getName()});
            String[] total = String.valueOf(told).strip().split("\\s+");
            return Long.parseLong(total[total.length - 1]);
        } catch (JMException e) {
            throw new IllegalStateException("this Java does not tell what is live", e);
        }
    }

    /** Files and sockets that the process has open; 0 where the system does not tell. */
    private static long files() throws IOException {
        Path open = Path.of("/proc/self/fd");
        if (!Files.isDirectory(open)) {
            return 0;
        }
        try (Stream<Path> all = Files.list(open)) {
            return all.count();
        }
    }

    /** The median of the last third beside that of the second: the first is that of getting under way. */
    private void verdict() {
        String[] of = {"live heap", "threads", "open files", "ledger"};
        int third = seen.size() / 3;
        for (int i = 0; i < of.length && third > 0; i++) {
            long middle = median(seen.subList(third, 2 * third), i);
            long last = median(seen.subList(2 * third, seen.size()), i);
            out.printf(
                    "%s: %,d in the second third, %,d in the last, ratio %.3f%n",
                    of[i], middle, last, (double) last / middle);
        }
    }

    private static long median(List<long[]> rows, int at) {
        List<Long> values = new ArrayList<>(rows.stream().map(r -> r[at]).toList());
        Collections.sort(values);
        return values.get(values.size() / 2);
    }

    private static Path project() throws IOException {
        Path folder = Scratch.folder().resolve("project");
        ProjectStore store = new ProjectStore();
        Contract stay = Stay.contract();
        Project made = store.create(folder, "soak");
        store.saveSettings(made.with(made.settings().with(new Retention(KEPT, 1L << 30, Optional.empty()))));
        store.saveContract(folder, "stay", "Stay", stay, Instant.EPOCH);
        Case kept = Stay.kept().withChecks(List.of(new Check.Valid(), new Check.NoFault(), new Check.Within(5_000)));
        store.saveCase(folder, kept);
        store.saveSuite(folder, new Suite("s", "S", Collections.nCopies(20, Step.call("Book", kept.reference()))));
        store.saveLoad(folder, LoadPlan.of("l", "L", "s", LoadShape.arrivals(RATE, RUN_SECONDS)));
        return folder;
    }
}
