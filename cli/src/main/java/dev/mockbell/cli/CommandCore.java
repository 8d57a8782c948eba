package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.UserFolders;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerListener;
import dev.mockbell.ledger.LedgerState;
import dev.mockbell.ledger.Listing;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;

/** The core as a command uses it, with the command's options and its stop. */
final class CommandCore implements AutoCloseable {
    private final StopSignal stop = new StopSignal();
    private final Reading reading;
    private final Core core;

    /** The folder of a ledger that goes with the command; null for none. */
    private Path passing;

    CommandCore() {
        this(new Reading());
    }

    CommandCore(Reading reading) {
        this.reading = reading;
        this.core = new Core(UserFolders.ofProcess(), System.getenv(), reading.proxies());
    }

    StopSignal stop() {
        return stop;
    }

    Core parts() {
        return core;
    }

    /** A project as runs see it. */
    ProjectBench bench(Project project, SecretsTo secretsTo) {
        LocalProject local = core.locals().of(project.folder());
        return core.bench(project, local, secretsTo.and(core.hosts(local)));
    }

    /**
     * What a command records on: the project's ledger, or one that goes with the command where the project's folder cannot be
     * written, as it may be where others only run it. Then that is said.
     */
    Ledger recording(Project project, Console console) {
        if (isWritable(project.folder())) {
            return ledger(project, console);
        }
        console.note("Nothing is recorded: the project's folder cannot be written.");
        try {
            passing = Files.createTempDirectory("mockbell-");
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "There is no room for what is sent and comes: " + Problem.reason(e),
                    System.getProperty("java.io.tmpdir"),
                    "Let the project's folder or this one be written.",
                    e);
        }
        return heard(Ledger.open(passing.resolve("ledger.db")), console);
    }

    private static boolean isWritable(Path project) {
        Path ledger = project.resolve(".mockbell").resolve("ledger.db");
        Path at = ledger;
        while (at != null && !Files.exists(at)) {
            at = at.getParent();
        }
        return at == null || Files.isWritable(at) && (at.equals(ledger) || Files.isDirectory(at));
    }

    /** The ledger of a project, as the window has it. */
    Ledger ledger(Project project, Console console) {
        return heard(ProjectStore.openLedger(project, console::note), console);
    }

    private static Ledger heard(Ledger ledger, Console console) {
        ledger.listen(new LedgerListener() {
            private long told;

            @Override
            public void added(Listing listing) {
                // each command says itself what it does
            }

            @Override
            public void fares(LedgerState state) {
                if (state.trouble().isPresent()) {
                    console.note(state.trouble().get());
                } else if (state.lost() > told) {
                    console.note(state.lost() - told + " exchanges could not be recorded.");
                    told = state.lost();
                }
            }
        });
        return ledger;
    }

    /** Reads a contract from an address or a file. */
    Contract contract(String address) {
        return core.reader(reading.limits(), reading.asker()).read(address, Progress.NONE, stop);
    }

    /** The project in a folder, when the text names one. */
    Optional<Project> project(String text) {
        try {
            Path folder = Path.of(text);
            boolean there = Files.isDirectory(folder);
            return there ? Optional.of(core.store().open(folder)) : Optional.empty();
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    /**
     * The project in a folder, without its contracts.
     *
     * @throws Problem when there is none
     */
    Project recorded(String text) {
        try {
            Path folder = Path.of(text);
            if (Files.isDirectory(folder)) {
                return core.store().openWithoutContracts(folder);
            }
        } catch (InvalidPathException e) {
            throw noProject(text, e);
        }
        throw noProject(text, null);
    }

    static Problem noProject(String text, Exception cause) {
        return Problem.of(Problem.Kind.INPUT, "There is no project there", text, "Give the folder of one.", cause);
    }

    @Override
    public void close() {
        core.close();
        if (passing != null) {
            try (Stream<Path> files = Files.list(passing)) {
                for (Path file : files.toList()) {
                    Files.delete(file);
                }
                Files.delete(passing);
            } catch (IOException e) {
                // it lies where the system clears up
                return;
            }
        }
    }
}
