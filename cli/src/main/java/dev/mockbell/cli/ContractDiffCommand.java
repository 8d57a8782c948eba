package dev.mockbell.cli;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Effect;
import dev.mockbell.change.Side;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.report.ChangesReport;
import dev.mockbell.upkeep.Touched;
import dev.mockbell.upkeep.Upkeep;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Holds a contract against another, or what a project keeps against its source now. */
@Command(
        name = "diff",
        mixinStandardHelpOptions = true,
        description = {
            "Says what changed from one contract to another, and whom it breaks.",
            "Exit code 1 when a change breaks callers, or those that --for names."
        })
final class ContractDiffCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(
            index = "0",
            paramLabel = "OLD",
            description =
                    "A WSDL's address or file, or a project, whose cases, checks and mock answers are looked at too.")
    private String old;

    @Parameters(
            index = "1",
            arity = "0..1",
            paramLabel = "NEW",
            description = "Likewise; where it is left out, the address that the project's contract came from.")
    private String now;

    @Option(names = "--contract", paramLabel = "NAME", description = "Which contract of a project.")
    private String name;

    @Option(
            names = "--for",
            paramLabel = "WHOM",
            description = "Whom changes must not break: callers, service or both (callers).")
    private Whom whom = Whom.CALLERS;

    @Option(names = "--json", description = "As JSON.")
    private boolean json;

    @Option(names = "--html", paramLabel = "FILE", description = "Writes a page to read.")
    private Path html;

    @Mixin
    private Reading reading = new Reading();

    ContractDiffCommand(Console console) {
        this.console = console;
    }

    /** Whom changes must not break. */
    enum Whom {
        CALLERS(Side.CALLERS),
        SERVICE(Side.SERVICE),
        BOTH(Side.CALLERS, Side.SERVICE);

        private final List<Side> sides;

        Whom(Side... sides) {
            this.sides = List.of(sides);
        }
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Optional<Project> project = core.project(old);
            project.ifPresent(p -> p.troubles().forEach(console::note));
            Optional<KeptContract> kept = project.map(p -> Kept.of(p, name));
            if (now == null && kept.isEmpty()) {
                throw Problem.input(
                        "There is nothing to hold it against", old, "Give the other WSDL too, or a project's folder.");
            }
            Contract was = kept.map(KeptContract::contract).orElseGet(() -> core.contract(old));
            String other = now == null ? was.source() : now;
            Contract is =
                    core.project(other).map(p -> Kept.of(p, name).contract()).orElseGet(() -> core.contract(other));
            ContractChanges changes = ContractChanges.between(was, is, core.stop());
            Optional<Upkeep> upkeep = kept.map(k -> Upkeep.of(project.orElseThrow(), k, changes, core.stop()));
            tell(changes, upkeep);
            return whom.sides.stream().anyMatch(changes::breaks) ? 1 : 0;
        }
    }

    private void tell(ContractChanges changes, Optional<Upkeep> upkeep) {
        ChangesReport report = new ChangesReport(changes, upkeep);
        if (html != null) {
            AtomicFile.write(
                    html, report.html("What changed in " + changes.was().title()));
            console.note("Wrote " + html + ".");
        }
        if (json) {
            console.json(report.json());
            return;
        }
        changes.byOperation().forEach((operation, all) -> {
            console.line(operation.isEmpty() ? "endpoints" : operation);
            all.forEach(c -> print(c, upkeep));
        });
        upkeep.ifPresent(u -> print(u.touched()));
        changes.documents().forEach(d -> console.line("document " + d.name() + ": " + ChangesReport.words(d)));
        whom.sides.forEach(s -> console.line(ChangesReport.summary(changes, s)));
    }

    private void print(ContractChange change, Optional<Upkeep> upkeep) {
        Effect effect = whom.sides.stream()
                .map(change::on)
                .min(java.util.Comparator.naturalOrder())
                .orElseThrow();
        List<String> words = new ArrayList<>();
        words.add(change.before() + " before, " + change.after() + " now");
        upkeep.filter(u -> !u.by(change).isEmpty()).ifPresent(u -> words.add("touches " + u.words(change)));
        console.line("  " + ChangesReport.mark(effect) + " " + change.where() + ": " + String.join("; ", words));
    }

    private void print(List<Touched> touched) {
        if (!touched.isEmpty()) {
            console.line("touched");
        }
        for (Touched t : touched) {
            String proposal = t.proposal()
                    .map(w -> " (" + w.title() + ": " + w.does() + ")")
                    .orElse("");
            console.line("  " + t.kind().noun() + " " + t.name() + ": " + t.words() + proposal);
        }
    }
}
