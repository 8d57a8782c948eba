package dev.mockbell.bench;

import dev.mockbell.assembly.Core;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.expression.Scope;
import dev.mockbell.file.UserFolders;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Proxies;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Two thousand steps of five checks each, recorded on a ledger, beside the same calls alone; and memory over many runs. */
final class CheckBench {
    private static final int STEPS = 2_000;
    private static final int TURNS = 6;
    private static final Contract STAY = Stay.contract();

    private final PrintStream out;

    CheckBench(PrintStream out) {
        this.out = out;
    }

    void run() throws Exception {
        byte[] answer = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                        + Stay.ANSWER.length() + "\r\n\r\n" + Stay.ANSWER)
                .getBytes(StandardCharsets.UTF_8);
        Path home = Scratch.folder();
        try (ServerSocket server = PlainPeer.serve(answer);
                Core core = new Core(UserFolders.of(Map.of(), home), Map.of(), Proxies.none());
                Ledger ledger = Ledger.open(home.resolve("ledger.db"))) {
            String address = "http://127.0.0.1:" + server.getLocalPort() + "/stay";
            Case kept = Stay.kept()
                    .withChecks(List.of(
                            new Check.Valid(),
                            new Check.NoFault(),
                            new Check.Value("/BookResponse/total", "184.5"),
                            new Check.Condition("starts-with(//code, 'R-')"),
                            new Check.Within(5_000)));
            SuiteRunner runner = core.runner(new Bench(Stay.bench(address), kept), ledger, Clock.systemUTC());
            Suite suite = new Suite("s", "S", Collections.nCopies(STEPS, Step.call("Book", kept.reference())));
            CaseCaller caller = core.caller();
            BoundOperation bound = STAY.operation("Book", null).orElseThrow();
            CallSetup setup = CallSetup.plain(STAY, bound, kept, Optional.of(address));
            double steps = 0;
            double bare = 0;
            // in turns, so that both see the same machine; the first turns warm both up
            for (int turn = 0; turn < TURNS; turn++) {
                boolean counted = turn >= 2;
                long from = System.nanoTime();
                Run run = runner.run(suite, RunListener.NONE, new StopSignal());
                long between = System.nanoTime();
                for (int i = 0; i < STEPS; i++) {
                    caller.send(caller.prepare(setup), "bench", new StopSignal());
                }
                long end = System.nanoTime();
                if (!run.passed()) {
                    throw new IllegalStateException(
                            run.steps().get(0).failures().toString());
                }
                steps += counted ? between - from : 0;
                bare += counted ? end - between : 0;
            }
            double perStep = steps / (TURNS - 2) / STEPS / 1e6;
            double perCall = bare / (TURNS - 2) / STEPS / 1e6;
            out.printf(
                    "a step of five checks, validity among them, on the ledger %.3f ms, its call alone %.3f ms: %.3f ms more, ratio %.2f%n",
                    perStep, perCall, perStep - perCall, perStep / perCall);
            memory(runner, suite);
            window(address, kept);
        }
    }

    /** The same suite in the window, with what its interface thread has to do meanwhile. */
    private void window(String address, Case kept) throws Exception {
        Path folder = Scratch.folder().resolve("project");
        ProjectStore store = new ProjectStore();
        store.create(folder, "bench");
        store.saveContract(folder, "stay", "Stay", STAY, Instant.EPOCH);
        Case there = kept.withDelivery(kept.delivery().to(address));
        store.saveCase(folder, there);
        store.saveSuite(folder, new Suite("s", "S", Collections.nCopies(STEPS, Step.call("Book", there.reference()))));
        MockBellWindow window = BenchWindow.open(folder);
        CheckModel check = window.models().check();
        Hand hand = new Hand(window.stage());
        Hand.run(() -> window.models().desk().go(Station.CHECK));
        // the station stands before its steps are run
        hand.await("the steps", () -> hand.shows("Book"));
        Thread.sleep(1_000);
        for (String which : List.of("the first time", "the second time", "the third time")) {
            Beat beat = Beat.start();
            long from = System.nanoTime();
            Hand.run(check::runOrStop);
            hand.await("the run", () -> !check.runningProperty().get());
            double took = (System.nanoTime() - from) / 1e6;
            out.printf("%,d steps in the window %s: %.0f ms; %s%n", STEPS, which, took, beat.stop());
        }
    }

    private void memory(SuiteRunner runner, Suite suite) {
        StringBuilder live = new StringBuilder();
        for (int i = 0; i < 5; i++) {
            runner.run(suite, RunListener.NONE, new StopSignal());
            System.gc();
            Runtime runtime = Runtime.getRuntime();
            live.append((runtime.totalMemory() - runtime.freeMemory()) >> 20).append(' ');
        }
        out.printf(
                "live heap after each of five more runs of %,d steps, in MB: %s%n",
                STEPS, live.toString().strip());
    }

    /** The stay's workbench with one case of its own. */
    private record Bench(Workbench of, Case own) implements Workbench {
        @Override
        public Contract contract(String name) {
            return of.contract(name);
        }

        @Override
        public Case kept(String reference) {
            return own;
        }

        @Override
        public Optional<String> endpoint(String contract, String port) {
            return of.endpoint(contract, port);
        }

        @Override
        public Scope variables() {
            return of.variables();
        }

        @Override
        public String environment() {
            return of.environment();
        }
    }
}
