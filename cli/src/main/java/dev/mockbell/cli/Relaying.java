package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.har.HarWriter;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptTap;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.redact.Redactor;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.Connect;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.function.Supplier;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What a tap and a forward proxy have in common on the command line. */
final class Relaying {
    /** So many exchanges may wait to be written to a file. */
    private static final int WAITING = 4_096;

    @Parameters(
            paramLabel = "PROJECT",
            arity = "0..1",
            description = "The project whose ledger records, and whose contracts tell operations.")
    private String source;

    @Option(names = "--host", paramLabel = "H", description = "The address to listen on; loopback unless given.")
    private String host;

    @Option(names = "--har", paramLabel = "FILE", description = "Writes what passes to a HAR file, secrets masked.")
    private Path har;

    @Option(names = "--keep", paramLabel = "NAME", description = "Keeps it in the project under that short name.")
    private String keep;

    @Option(names = "--quiet", description = "Says nothing of what passes.")
    private boolean quiet;

    @Option(
            names = "--hold",
            paramLabel = "XPATH",
            description = {
                "Holds requests for which this holds, over $request and $operation; true() for all. Each is a line",
                "HELD NUMBER OPERATION. Lines on standard input decide: go N, drop N, answer N FILE, show N, go all, off.",
                "When there is no more input, nothing is held any more."
            })
    private String hold;

    @Mixin
    private Reading reading = new Reading();

    @Mixin
    private Reaching reaching = new Reaching();

    private final BlockingQueue<Supplier<Exchange>> toFile = new ArrayBlockingQueue<>(WAITING);
    private Aloud aloud;
    private volatile boolean ending;
    private Thread writing;
    private volatile Problem failure;
    private volatile boolean missed;

    /** Relays until the process is to end. */
    int run(Function<Optional<Project>, TapPlan> planned, Console console) throws InterruptedException {
        CommandCore core = new CommandCore(reading);
        Optional<Project> project = source == null ? Optional.empty() : core.project(source);
        if (source != null && project.isEmpty()) {
            throw Problem.input("There is no project there", source, "Give the folder of one.");
        }
        TapPlan said = planned.apply(project);
        TapPlan plan = host == null ? said : said.withHost(host);
        if (host == null && project.isPresent()) {
            // what a project's file says is not what the user said
            core.parts().locals().of(project.get().folder()).checkListening(plan.host());
        }
        if (keep != null) {
            Project of = project.orElseThrow(
                    () -> Problem.input("--keep needs a project", null, "Give its folder before the options."));
            core.parts().store().saveTap(of.folder(), new KeptTap(Names.of(keep), plan));
        }
        Optional<Ledger> ledger = project.map(p -> core.recording(p, console));
        Connect by = reaching.by(Connect.USUAL, reading);
        TapSurroundings around = core.parts().taps(project, made -> record(made, ledger), by::tls);
        OutputStream file = har == null ? null : opened();
        Redactor redactor = project.map(core.parts()::redactor).orElseGet(() -> Redactor.of(Map.of()));
        if (file != null) {
            writing = new Thread(() -> write(file, redactor), "har");
            writing.start();
        }
        aloud = new Aloud(console::note);
        TapHost relay;
        try {
            relay = TapHost.start(plan, around, quiet ? t -> {} : t -> aloud.say(() -> t));
        } catch (Problem problem) {
            ended(ledger, core);
            throw problem;
        }
        console.line("READY " + relay.address());
        if (hold != null) {
            new Holding(relay.holds(), console).begin(hold);
        }
        CountDownLatch stopped = new CountDownLatch(1);
        try (Stopping stopping = new Stopping(core.stop())) {
            core.stop().onStop(stopped::countDown);
            try {
                stopped.await();
            } finally {
                relay.close();
                ledger.map(Ledger::state)
                        .filter(l -> l.bare() > 0)
                        .ifPresent(l -> console.note(l.bare()
                                + " exchanges are recorded without their bodies: more came than could be written."));
                ended(ledger, core);
            }
            if (failure != null) {
                throw failure;
            }
            return stopping.ended(0);
        }
    }

    /** Nobody who wants it, and nobody who makes it for them, is waited for: what passes is not to be later for it. */
    private boolean record(Supplier<Exchange> made, Optional<Ledger> ledger) {
        Once<Exchange> shared = new Once<>(made);
        if (har != null && !toFile.offer(shared)) {
            missed = true;
        }
        if (!quiet) {
            aloud.say(() -> line(shared.get()));
        }
        return ledger.isEmpty() || ledger.get().offerMade(shared);
    }

    /** What several threads want is made by the first of them. */
    private static final class Once<T> implements Supplier<T> {
        /** Null once it has made what it makes: it holds all that passed. */
        private Supplier<T> source;

        private T made;

        Once(Supplier<T> source) {
            this.source = source;
        }

        @Override
        public synchronized T get() {
            if (source != null) {
                made = source.get();
                source = null;
            }
            return made;
        }
    }

    private static String line(Exchange e) {
        String what = e.operation().isEmpty() ? e.request().title() : e.operation();
        String status = e.status() == 0 ? "no answer" : String.valueOf(e.status());
        return what + " → " + status + ", " + e.timing().totalMillis() + " ms"
                + (e.note().isEmpty() ? "" : ", " + e.note());
    }

    private OutputStream opened() {
        try {
            return new BufferedOutputStream(Files.newOutputStream(har), 1 << 16);
        } catch (IOException e) {
            throw unwritable(e);
        }
    }

    private Problem unwritable(IOException e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The HAR file cannot be written: " + Problem.reason(e),
                har.toString(),
                "Check the path and the room on the disk.",
                e);
    }

    private void write(OutputStream file, Redactor redactor) {
        try (file;
                HarWriter writer = new HarWriter(file, Core.VERSION, Optional.of(redactor), Long.MAX_VALUE)) {
            while (!ending || !toFile.isEmpty()) {
                Supplier<Exchange> e = toFile.poll(100, TimeUnit.MILLISECONDS);
                if (e != null) {
                    writer.write(e.get());
                }
            }
        } catch (IOException e) {
            failure = unwritable(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void ended(Optional<Ledger> ledger, CommandCore core) throws InterruptedException {
        ledger.ifPresent(Ledger::close);
        aloud.close();
        ending = true;
        boolean interrupted = Thread.interrupted();
        if (writing != null) {
            writing.join();
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
        core.close();
        if (missed && failure == null) {
            failure = Problem.input(
                    "More passed than could be written to the HAR file", har.toString(), "The ledger has more.");
        }
    }
}
