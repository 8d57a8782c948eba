package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.har.HarTransfer;
import dev.mockbell.har.HarWriter;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.project.Project;
import dev.mockbell.redact.Redactor;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
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
                HarTransfer.Written[] written = {null};
                if ("-".equals(file)) {
                    written[0] = write(core, ledger, filter, console.out(), redactor);
                } else {
                    // a file is whole or as it was
                    AtomicFile.write(Path.of(file), out -> written[0] = write(core, ledger, filter, out, redactor));
                }
                console.note("Wrote " + written[0].words() + ".");
                return stopping.ended(0);
            }
        }
    }

    private HarTransfer.Written write(
            CommandCore core, Ledger ledger, LedgerFilter filter, OutputStream out, Optional<Redactor> redactor)
            throws IOException {
        try (HarWriter writer = new HarWriter(out, Core.VERSION, redactor, most == 0 ? Long.MAX_VALUE : most)) {
            return new HarTransfer(ledger, core.stop(), count -> {})
                    .write(filter, core.parts().expressions(), writer);
        }
    }
}
