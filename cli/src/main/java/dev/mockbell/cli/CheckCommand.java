package dev.mockbell.cli;

import dev.mockbell.check.Verdict;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.RunHistory;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.report.RunJson;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.RunPlan;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.suite.Workbench;
import dev.mockbell.xml.TextFile;
import java.io.IOException;
import java.io.Writer;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Runs suites. */
@Command(
        name = "check",
        mixinStandardHelpOptions = true,
        description =
                "Runs the suites of a project. Exit code 0 when all checks passed, 1 when one failed or a step was not run, 4 when nobody answered.")
final class CheckCommand implements Callable<Integer> {
    private static final int LONGEST_TABLE = 16 << 20;

    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "The project's folder.")
    private Path folder;

    @Option(names = "--suite", paramLabel = "NAME", description = "Only this suite; may be repeated.")
    private List<String> names = List.of();

    @Option(names = "--env", paramLabel = "NAME", description = "The environment to use.")
    private String environment;

    @Option(
            names = "--set",
            paramLabel = "PATH=VALUE",
            description = "Sets a value in every request that has that path; may be repeated.")
    private List<String> settings = List.of();

    @Option(names = "--var", paramLabel = "NAME=VALUE", description = "Gives a variable a value; may be repeated.")
    private Map<String, String> variables = new LinkedHashMap<>();

    @Option(
            names = "--data",
            paramLabel = "FILE",
            description = "Runs each suite once for each row of a CSV file, whose columns are variables.")
    private Path data;

    @Option(
            names = "--step",
            paramLabel = "NUMBER",
            description = "Only this step, such as 2 or 2.1, beside set-up and clean-up; may be repeated.")
    private List<String> steps = List.of();

    @Option(names = "--fail-fast", description = "Goes no further after the first step that fails, but to clean up.")
    private boolean failFast;

    @Option(
            names = "--parallel",
            paramLabel = "N",
            defaultValue = "1",
            description = "Runs so many suites side by side; one when it is left out.")
    private int parallel;

    @Option(
            names = "--rerun-failed",
            description = "Only the steps that failed in the newest run, with what was captured then.")
    private boolean rerun;

    @Option(names = "--junit", paramLabel = "FILE", description = "Writes JUnit XML.")
    private Path junit;

    @Option(names = "--html", paramLabel = "FILE", description = "Writes a report as one HTML file.")
    private Path html;

    @Option(names = "--json", paramLabel = "FILE", description = "Writes what happens as JSON, an object a line.")
    private Path json;

    @Mixin
    private SecretsTo secretsTo = new SecretsTo();

    private final AtomicLong calls = new AtomicLong();
    private final AtomicLong answers = new AtomicLong();
    private final AtomicBoolean unkept = new AtomicBoolean();

    CheckCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws IOException {
        if (parallel < 1 || parallel > 64) {
            throw Problem.input("The suites that run side by side must be 1 to 64", "--parallel", null);
        }
        try (CommandCore core = new CommandCore();
                Stopping stopping = new Stopping(core.stop())) {
            return stopping.ended(checked(core));
        }
    }

    private int checked(CommandCore core) throws IOException {
        CompletableFuture<Void> warm = core.parts().warmUp();
        Project opened = core.parts().store().open(folder);
        Project project = environment == null ? opened : opened.in(environment);
        project.troubles().forEach(console::note);
        RunHistory history = new RunHistory(project.folder());
        ProjectBench bench = core.bench(project, secretsTo);
        Workbench changed = settings.isEmpty() ? bench : new SetWorkbench(bench, settings);
        List<Planned> planned = planned(project, history);
        if (changed instanceof SetWorkbench set) {
            set.tell(planned.stream().map(Planned::suite).toList());
        }
        List<Run> runs;
        try (Ledger ledger = core.recording(project, console);
                Writer events = json == null ? Writer.nullWriter() : events()) {
            SuiteRunner runner = core.parts().runner(changed, ledger, Clock.systemUTC());
            warm.join();
            core.parts()
                    .warmUpBefore(
                            URI.create(project.mayGoOverTls(List.of(project.current())) ? "https:///" : "http:///"));
            runs = run(planned, runner, history, events, core);
            ExchangeTexts exchanges = ExchangeTexts.on(ledger, bench.variables().redactor());
            write(project, runs, exchanges);
        }
        return told(project, runs);
    }

    private Writer events() throws IOException {
        Path parent = json.toAbsolutePath().getParent();
        Files.createDirectories(parent);
        return Files.newBufferedWriter(json, StandardCharsets.UTF_8);
    }

    /**
     * A run that is to be made.
     *
     * @param title with the row of data, where there is one
     */
    private record Planned(Suite suite, String title, RunPlan plan) {
        Suite titled() {
            return new Suite(suite.id(), title, suite.setUp(), suite.steps(), suite.cleanUp());
        }
    }

    private List<Planned> planned(Project project, RunHistory history) {
        List<Planned> all = new ArrayList<>();
        for (Suite suite : suites(project)) {
            RunPlan plan = plan(project, suite, history);
            if (plan == null) {
                console.line(suite.title() + ": nothing failed in its newest run");
            } else if (data == null) {
                all.add(new Planned(suite, suite.title(), plan));
            } else {
                DataTable table =
                        DataTable.parse(data.toString(), TextFile.read(data, "The table's file", LONGEST_TABLE));
                KnownValues rows = new KnownValues(table, List.of());
                for (int i = 0; i < table.rows().size(); i++) {
                    Map<String, String> values = new HashMap<>(plan.values());
                    values.putAll(rows.variables(i));
                    all.add(new Planned(suite, suite.title() + " · row " + (i + 1), plan.with(values)));
                }
            }
        }
        return all;
    }

    /** Null when there is nothing to run again. */
    private RunPlan plan(Project project, Suite suite, RunHistory history) {
        RunPlan plan = RunPlan.ALL;
        Map<String, String> values = new HashMap<>();
        if (rerun) {
            List<Run> latest = history.latest(suite.id(), 1);
            Set<StepPath> failed = latest.isEmpty() ? Set.of() : latest.get(0).failed(suite);
            if (failed.isEmpty()) {
                return null;
            }
            values.putAll(latest.get(0).given(suite, project::kept));
            plan = RunPlan.only(failed);
        } else if (!steps.isEmpty()) {
            Set<StepPath> paths = new LinkedHashSet<>();
            steps.forEach(s -> paths.add(StepPath.parse(s)));
            for (StepPath path : paths) {
                if (suite.at(path).isEmpty()) {
                    throw Problem.input(
                            "The suite has no step " + path.text(),
                            suite.title(),
                            "It has " + suite.steps().size() + ".");
                }
            }
            plan = RunPlan.only(paths);
        }
        values.putAll(variables);
        return plan.with(values).failingFast(failFast);
    }

    private List<Run> run(
            List<Planned> planned, SuiteRunner runner, RunHistory history, Writer events, CommandCore core) {
        if (parallel == 1 || planned.size() < 2) {
            List<Run> runs = new ArrayList<>();
            for (Planned one : planned) {
                runs.add(run(one, runner, history, events, core, new Printing(console::line, console.isTerminal())));
            }
            return runs;
        }
        ExecutorService workers = Executors.newFixedThreadPool(Math.min(parallel, planned.size()));
        try {
            List<Future<Run>> all = planned.stream()
                    .map(one -> workers.submit(() -> {
                        List<String> lines = new ArrayList<>();
                        Run run = run(one, runner, history, events, core, new Printing(lines::add, false));
                        synchronized (console) {
                            // what belongs together stands together
                            lines.forEach(console::line);
                        }
                        return run;
                    }))
                    .toList();
            List<Run> runs = new ArrayList<>();
            for (Future<Run> one : all) {
                runs.add(one.get());
            }
            return runs;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException cause ? cause : new IllegalStateException(e.getCause());
        } finally {
            workers.shutdown();
        }
    }

    private Run run(
            Planned one, SuiteRunner runner, RunHistory history, Writer events, CommandCore core, Printing printing) {
        List<RunListener> listeners = new ArrayList<>();
        listeners.add(printing);
        listeners.add(this::count);
        if (json != null) {
            listeners.add(new RunJson(one.suite().id(), events));
        }
        Run run = runner.run(one.titled(), one.plan(), RunListener.all(listeners), core.stop());
        try {
            history.add(run);
        } catch (Problem notKept) {
            // how it went is what was asked for
            if (!unkept.getAndSet(true)) {
                console.note("The runs cannot be kept: " + notKept.what() + ".");
            }
        }
        return run;
    }

    private void count(RunEvent event) {
        if (event instanceof RunEvent.Called called) {
            calls.incrementAndGet();
            if (called.exchange().response().isPresent()) {
                answers.incrementAndGet();
            }
        }
    }

    private void write(Project project, List<Run> runs, ExchangeTexts exchanges) {
        if (junit != null) {
            Map<String, String> properties = new LinkedHashMap<>();
            properties.put("project", project.name());
            properties.put(
                    "contracts", project.contracts().stream().map(c -> c.name()).collect(Collectors.joining(", ")));
            AtomicFile.write(junit, JUnitXml.of(runs, properties, exchanges));
        }
        if (html != null) {
            AtomicFile.write(html, HtmlReport.of(project.name(), runs, List.of(), ZoneId.systemDefault(), exchanges));
        }
    }

    private int told(Project project, List<Run> runs) {
        boolean passed = runs.stream().allMatch(Run::passed);
        long checks = runs.stream().mapToLong(Run::checks).sum();
        long good = runs.stream().mapToLong(Run::checksPassed).sum();
        console.line(good + " of " + checks + " checks passed");
        if (!passed) {
            return calls.get() > 0 && answers.get() == 0 ? 4 : 1;
        }
        // what could be run passed, but a file that nobody could read must not look like success
        return project.troubles().isEmpty() ? 0 : 2;
    }

    private List<Suite> suites(Project project) {
        if (names.isEmpty()) {
            if (project.suites().isEmpty()) {
                throw Problem.input("The project has no suites", folder.toString(), "Make one in the window.");
            }
            return project.suites();
        }
        Set<String> seen = new HashSet<>();
        return names.stream()
                .filter(seen::add)
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

    /**
     * Prints a line a step, and what failed below it; on a terminal also the step that is under way.
     *
     * @param out hears each line
     */
    private final class Printing implements RunListener {
        private final java.util.function.Consumer<String> out;
        private final boolean terminal;

        Printing(java.util.function.Consumer<String> out, boolean terminal) {
            this.out = out;
            this.terminal = terminal;
        }

        @Override
        public void heard(RunEvent event) {
            if (event instanceof RunEvent.Started started) {
                out.accept(started.suite().title());
            } else if (event instanceof RunEvent.StepStarted step) {
                under(step.path(), step.name(), step.round());
            } else if (event instanceof RunEvent.RowFinished row) {
                clear();
                line(row.path(), row.result(), row.result().name());
            } else if (event instanceof RunEvent.StepFinished step) {
                clear();
                String round = step.round().isEmpty() ? "" : " (" + step.round() + ")";
                line(step.path(), step.result(), step.result().name() + round);
            }
        }

        private void under(StepPath path, String name, String round) {
            if (terminal) {
                console.under("  …        " + path.text() + "  " + name + (round.isEmpty() ? "" : " (" + round + ")"));
            }
        }

        private void clear() {
            if (terminal) {
                console.under("");
            }
        }

        private void line(StepPath path, StepResult result, String name) {
            String verdict = switch (result.verdict()) {
                case PASSED -> "passed ";
                case FAILED -> "FAILED ";
                case NOT_RUN -> "not run";
                case OFF -> "off    ";
            };
            out.accept("  " + verdict + "  " + path.text() + "  " + name + "  " + Math.round(result.millis()) + " ms");
            boolean own = result.inner().isEmpty() || !result.problem().isEmpty();
            if (result.verdict() != Verdict.PASSED && result.verdict() != Verdict.OFF && own) {
                result.failures().forEach(f -> out.accept("           " + f));
            }
        }
    }
}
