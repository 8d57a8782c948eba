package dev.mockbell.cli;

import dev.mockbell.ledger.Condition;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Retention;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Lets old exchanges go. */
@Command(
        name = "prune",
        mixinStandardHelpOptions = true,
        description = {
            "Lets old exchanges go and gives their room back.",
            "What is pinned, or belongs to a run that is kept, stays."
        })
final class LedgerPruneCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "Project folder.")
    private String source;

    @Option(names = "--keep", paramLabel = "N", description = "Keeps so many of the newest.")
    private Long keep;

    @Option(names = "--older-than", paramLabel = "TIME", description = "Lets go what is older: 12h, 30d.")
    private String age;

    @Option(names = "--megabytes", paramLabel = "N", description = "Until the ledger is no larger, about.")
    private Long megabytes;

    LedgerPruneCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        if (keep == null && age == null && megabytes == null) {
            throw Problem.input(
                    "It is not said what may go", source, "Give --keep N, --older-than TIME or --megabytes N.");
        }
        if (keep != null && keep < 0 || megabytes != null && megabytes < 0) {
            throw Problem.input("A limit cannot be less than nothing", source, "Give 0 or more.");
        }
        Optional<Duration> past = Optional.ofNullable(age)
                .map(a -> LedgerFilter.typed("since:" + a).terms().get(0).condition())
                .map(c -> ((Condition.Since) c).past());
        Retention retention = new Retention(
                keep == null ? Long.MAX_VALUE : keep, megabytes == null ? Long.MAX_VALUE : megabytes << 20, past);
        try (CommandCore core = new CommandCore()) {
            Project project = core.recorded(source);
            try (Ledger ledger = core.ledger(project, console)) {
                long gone = ledger.prune(retention);
                console.note("Let " + gone + (gone == 1 ? " exchange go." : " exchanges go."));
                return 0;
            }
        }
    }
}
