package dev.mockbell.cli;

import dev.mockbell.check.Verdict;
import dev.mockbell.exchange.Ledger;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.project.RunHistory;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.SuiteRunner;
import java.net.URI;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Runs suites. */
@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        description = "Runs the suites of a project. Exit code 0 when all checks passed, 1 when one failed.")
final class CheckCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "The project's folder.")
    private Path folder;

    @Option(names = "--suite", paramLabel = "NAME", description = "Only this suite; may be repeated.")
    private List<String> names = List.of();

    @Option(names = "--env", paramLabel = "NAME", description = "The environment to use.")
    private String environment;

    @Option(names = "--junit", paramLabel = "FILE", description = "Writes JUnit XML.")
    private Path junit;

    @Option(names = "--html", paramLabel = "FILE", description = "Writes a report as one HTML file.")
    private Path html;

    @Mixin
    private SecretsTo secretsTo = new SecretsTo();

    CheckCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore()) {
            CompletableFuture<Void> warm = core.parts().warmUp();
            Project opened = core.parts().store().open(folder);
            Project project = environment == null ? opened : opened.in(environment);
            project.troubles().forEach(console::note);
            List<Suite> suites = suites(project);
            RunHistory history = new RunHistory(project.folder());
            List<Run> runs = new ArrayList<>();
            Thread stopping = new Thread(core.stop()::stop);
            Runtime.getRuntime().addShutdownHook(stopping);
            try (Ledger ledger = core.ledger(project, console)) {
                SuiteRunner runner = core.parts().runner(core.bench(project, secretsTo), ledger, Clock.systemUTC());
                warm.join();
                core.parts()
                        .warmUpBefore(URI.create(
                                project.mayGoOverTls(List.of(project.current())) ? "https:///" : "http:///"));
                for (Suite suite : suites) {
                    console.line(suite.title());
                    Run run = runner.run(suite, new Printing(), core.stop());
                    history.add(run);
                    runs.add(run);
                }
            }
            if (junit != null) {
                AtomicFile.write(junit, JUnitXml.of(runs));
            }
            if (html != null) {
                AtomicFile.write(html, HtmlReport.of(project.name(), runs, List.of(), ZoneId.systemDefault()));
            }
            boolean passed = runs.stream().allMatch(Run::passed);
            long checks = runs.stream().mapToLong(Run::checks).sum();
            long good = runs.stream().mapToLong(Run::checksPassed).sum();
            console.line(good + " of " + checks + " checks passed");
            if (!passed) {
                return 1;
            }
            // what could be run passed, but a file that nobody could read must not look like success
            return project.troubles().isEmpty() ? 0 : 2;
        }
    }

    private List<Suite> suites(Project project) {
        if (names.isEmpty()) {
            if (project.suites().isEmpty()) {
                throw Problem.input("The project has no suites", folder.toString(), "Make one in the window.");
            }
            return project.suites();
        }
        return names.stream()
                .map(n -> project.suite(n)
                        .orElseThrow(() -> Problem.input(
                                "The project has no suite “" + n + "”",
                                folder.toString(),
                                "It has "
                                        + String.join(
                                                ", ",
                                                project.suites().stream()
                                                        .map(Suite::id)
                                                        .toList()) + ".")))
                .toList();
    }

    private final class Printing implements RunListener {
        @Override
        public void stepFinished(int index, StepResult result) {
            String verdict = switch (result.verdict()) {
                case PASSED -> "passed ";
                case FAILED -> "FAILED ";
                case NOT_RUN -> "not run";
            };
            console.line("  " + verdict + "  " + result.name() + "  " + Math.round(result.millis()) + " ms");
            if (result.verdict() != Verdict.PASSED) {
                result.failures().forEach(f -> console.line("           " + f));
            }
        }
    }
}
