package dev.mockbell.cli;

import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Side;
import dev.mockbell.contract.Contract;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.Change;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.report.ChangesReport;
import dev.mockbell.upkeep.Touched;
import dev.mockbell.upkeep.Upkeep;
import dev.mockbell.upkeep.Way;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Takes a contract over as its source has it now. */
@Command(
        name = "update",
        mixinStandardHelpOptions = true,
        description = "Takes a project's contract over as its source has it now; the kept one is set aside.")
final class ContractUpdateCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "The project's folder.")
    private String folder;

    @Option(names = "--contract", paramLabel = "NAME", description = "Which contract of the project.")
    private String name;

    @Option(names = "--from", paramLabel = "WSDL", description = "Another address or file than it came from.")
    private String from;

    @Option(names = "--mend", description = "Does what is proposed for cases, checks and mock answers that it touches.")
    private boolean mend;

    @Mixin
    private Reading reading = new Reading();

    ContractUpdateCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Project project = core.project(folder).orElseThrow(() -> CommandCore.noProject(folder, null));
            if (!ProjectStore.isProject(project.folder())) {
                throw CommandCore.noProject(folder, null);
            }
            KeptContract kept = Kept.of(project, name);
            Contract now = core.contract(from == null ? kept.contract().source() : from);
            ContractChanges changes = ContractChanges.between(kept.contract(), now, core.stop());
            Upkeep upkeep = Upkeep.of(project, kept, changes, core.stop());
            if (changes.documents().isEmpty() && changes.isEmpty()) {
                console.line("Nothing changed in " + kept.title() + ".");
                return 0;
            }
            ProjectStore store = core.parts().store();
            ProjectStore.Replaced replaced = store.replaceContract(project.folder(), kept, now, Instant.now());
            Map<Touched, Way> chosen = mend ? upkeep.proposals() : Map.of();
            Project after = upkeep.taken(project, replaced.fresh(), chosen);
            for (Change change : Change.between(project.withContract(replaced.fresh()), after)) {
                change.writing().write(store, project.folder());
            }
            console.line("Took " + kept.title() + " over. " + ChangesReport.summary(changes, Side.CALLERS));
            chosen.forEach((t, way) ->
                    console.line("  " + t.kind().noun() + " " + t.name() + ": " + way.title() + ", " + way.does()));
            long left = upkeep.touched().size() - chosen.size();
            if (left > 0) {
                console.line(Counted.of(left, "thing") + " that it touches " + (left == 1 ? "is" : "are")
                        + " left as " + (left == 1 ? "it is" : "they are")
                        + (mend ? "." : "; --mend does what is proposed."));
            }
            console.note("What was kept lies in " + replaced.setAside() + ".");
            return 0;
        }
    }
}
