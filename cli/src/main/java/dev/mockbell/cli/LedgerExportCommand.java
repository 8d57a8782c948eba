package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.har.HarWriter;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Order;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.redact.Redactor;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Writes exchanges to a HAR file. */
@Command(
        name = "export",
        mixinStandardHelpOptions = true,
        description = "Writes exchanges to a HAR 1.2 file, the oldest first, credentials and secrets masked.")
final class LedgerExportCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "Project folder.")
    private String source;

    @Option(names = "--har", paramLabel = "FILE", required = true, description = "The file; - for standard output.")
    private String file;

    @Option(
            names = "--bodies-up-to",
            paramLabel = "BYTES",
            description = "Leaves larger bodies out, and says so there; 0 for all bodies.")
    private long most = Long.MAX_VALUE;

    @Option(names = "--unmasked", description = "With credentials and secrets.")
    private boolean unmasked;

    @Mixin
    private Filtering filtering = new Filtering();

    LedgerExportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws IOException {
        LedgerFilter filter = filtering.filter();
        try (CommandCore core = new CommandCore();
                Stopping stopping = new Stopping(core.stop())) {
            Project project = core.recorded(source);
            Optional<Redactor> redactor =
                    unmasked ? Optional.empty() : Optional.of(core.parts().redactor(project));
            try (Ledger ledger = core.ledger(project, console)) {
                long count;
                if ("-".equals(file)) {
                    count = write(core, ledger, filter, console.out(), redactor);
                } else {
                    count = toFile(core, ledger, filter, redactor);
                }
                console.note("Wrote " + count + (count == 1 ? " exchange." : " exchanges."));
                return stopping.ended(0);
            }
        }
    }

    /** Beside the file and then in its place, so that a file is whole or as it was. */
    private long toFile(CommandCore core, Ledger ledger, LedgerFilter filter, Optional<Redactor> redactor) {
        Path to = Path.of(file).toAbsolutePath();
        Path beside = to.resolveSibling(to.getFileName() + ".part");
        try {
            AtomicFile.privateFile(beside);
            long count;
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(beside), 1 << 16)) {
                count = write(core, ledger, filter, out, redactor);
            }
            Files.move(beside, to, StandardCopyOption.REPLACE_EXISTING);
            return count;
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The HAR file cannot be written: " + Problem.reason(e),
                    file,
                    "Check the path and the room on the disk.",
                    e);
        } finally {
            try {
                Files.deleteIfExists(beside);
            } catch (IOException e) {
                console.note(beside + " is left over and cannot be deleted.");
            }
        }
    }

    private long write(
            CommandCore core, Ledger ledger, LedgerFilter filter, OutputStream out, Optional<Redactor> redactor)
            throws IOException {
        long[] count = {0};
        try (HarWriter writer = new HarWriter(out, Core.VERSION, redactor, most == 0 ? Long.MAX_VALUE : most)) {
            Order oldest = new Order(Order.Column.NUMBER, false);
            ledger.search(filter, oldest, Long.MAX_VALUE, core.parts().expressions(), core.stop(), line -> {
                ledger.get(line.id()).ifPresent(e -> {
                    try {
                        writer.write(e);
                        count[0]++;
                    } catch (IOException io) {
                        throw new UncheckedIOException(io);
                    }
                });
                return true;
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        return count[0];
    }
}
