package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import java.nio.file.Path;
import java.time.Instant;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Keeps a contract in a project. */
@Command(
        name = "import",
        mixinStandardHelpOptions = true,
        description = "Fetches a WSDL with all that it imports and keeps a snapshot in a project.")
final class ContractImportCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL", description = "Address or file.")
    private String wsdl;

    @Option(names = "--project", paramLabel = "DIR", description = "The project's folder; made when it is not there.")
    private Path project = Path.of(".");

    @Option(names = "--name", paramLabel = "NAME", description = "Short name within the project.")
    private String name;

    @Mixin
    private Reading reading = new Reading();

    ContractImportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Contract contract = core.contract(wsdl);
            ProjectStore store = core.parts().store();
            Path folder = project.toAbsolutePath().normalize();
            String title = folder.getFileName() == null
                    ? "project"
                    : folder.getFileName().toString();
            Project opened = store.create(folder, title);
            String chosen = name == null ? Names.of(contract.title()) : Names.of(name);
            KeptContract kept = store.saveContract(folder, chosen, contract.title(), contract, Instant.now());
            long errors = kept.contract().findings().stream()
                    .filter(f -> f.severity() == Finding.Severity.ERROR)
                    .count();
            console.line("Kept " + chosen + " in " + opened.folder() + ": "
                    + Counted.of(contract.documents().size(), "document") + ", "
                    + Counted.of(contract.operations().size(), "operation") + ", "
                    + Counted.of(contract.findings().size(), "finding")
                    + (errors > 0 ? ", " + errors + " of them errors" : "") + ".");
            return 0;
        }
    }
}
