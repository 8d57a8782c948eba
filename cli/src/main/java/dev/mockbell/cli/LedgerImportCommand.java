package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.har.HarTransfer;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.project.Project;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Takes a HAR file's entries onto the ledger. */
@Command(
        name = "import",
        mixinStandardHelpOptions = true,
        description = "Takes the entries of a HAR 1.2 file onto the ledger, and tells their operations.")
final class LedgerImportCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(index = "0", paramLabel = "PROJECT", description = "Project folder.")
    private String source;

    @Parameters(index = "1", paramLabel = "FILE", description = "The HAR file.")
    private Path file;

    LedgerImportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore();
                Stopping stopping = new Stopping(core.stop())) {
            Project project = core.project(source).orElseThrow(() -> CommandCore.noProject(source, null));
            Map<String, Contract> contracts = new LinkedHashMap<>();
            project.contracts().forEach(k -> contracts.put(k.name(), k.contract()));
            try (Ledger ledger = core.ledger(project, console)) {
                long count = new HarTransfer(ledger, core.stop(), n -> {}).read(file, contracts, console::note);
                console.note("Took in " + count + (count == 1 ? " exchange." : " exchanges."));
                return stopping.ended(0);
            }
        }
    }
}
