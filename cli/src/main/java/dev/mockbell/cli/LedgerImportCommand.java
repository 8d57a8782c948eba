package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.har.HarReader;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.Semaphore;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Takes a HAR file's entries onto the ledger. */
@Command(
        name = "import",
        mixinStandardHelpOptions = true,
        description = "Takes the entries of a HAR 1.2 file onto the ledger, and tells their operations.")
final class LedgerImportCommand implements Callable<Integer> {
    /** With more on the way than this, bodies would be left out. */
    private static final int ON_THE_WAY = 1_000;

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
            HarReader reader = new HarReader(new OperationFinder(contracts), console::note);
            try (Ledger ledger = core.ledger(project, console);
                    InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
                Semaphore way = new Semaphore(ON_THE_WAY);
                long count = reader.read(in, file.toString(), core.stop(), e -> {
                    way.acquireUninterruptibly();
                    ledger.offer(e, numbered -> way.release());
                });
                ledger.settle();
                console.note("Took in " + count + (count == 1 ? " exchange." : " exchanges."));
                return stopping.ended(0);
            } catch (IOException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        "The file cannot be read: " + Problem.reason(e),
                        file.toString(),
                        "Check the path.",
                        e);
            }
        }
    }
}
