package dev.mockbell.cli;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.StepFigures;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LoadHistory;
import dev.mockbell.project.LoadRunFile;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.Project;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.report.LoadFiles;
import dev.mockbell.report.LoadLog;
import dev.mockbell.report.LoadMetrics;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.HdrHistogram.Histogram;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Makes load. */
@Command(
        name = "load",
        mixinStandardHelpOptions = true,
        description = "Carries out a load plan. Exit code 0 when its limits were kept, 1 when one was not.")
final class LoadCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "The project's folder.")
    private Path folder;

    @Option(names = "--plan", paramLabel = "NAME", required = true, description = "The load plan.")
    private String name;

    @Option(
            names = "--out",
            paramLabel = "DIR",
            description = {
                "Where to write steps.csv, seconds.csv, limits.xml (JUnit), report.html, run.json and times.hlog",
                "(HdrHistogram); workers.csv and worker-seconds.csv too when workers make it."
            })
    private Path out;

    @Option(names = "--json", description = "Prints the figures as JSON.")
    private boolean json;

    @Option(names = "--junit", paramLabel = "FILE", description = "Writes the limits as JUnit XML.")
    private Path junit;

    @Option(
            names = "--metrics",
            paramLabel = "PORT",
            description = "While it runs, figures at http://127.0.0.1:PORT/metrics, as Prometheus text or OpenMetrics.")
    private Integer metrics;

    @Option(
            names = "--compare",
            arity = "0..1",
            fallbackValue = "1",
            paramLabel = "N",
            description = "Says how the run compares with the plan's last one, or with its last N.")
    private int compare;

    @Option(names = "--env", paramLabel = "NAME", description = "The environment to use.")
    private String environment;

    @Option(names = "--endpoint", paramLabel = "URL", description = "Where to send, in place of where the plan says.")
    private String endpoint;

    @Option(names = "--rate", paramLabel = "N", description = "Arrivals a second, in place of the plan's shape.")
    private Double rate;

    @Option(
            names = "--seconds",
            paramLabel = "N",
            description = "How long, in place of the plan's; its curve is drawn out.")
    private Double seconds;

    @Option(
            names = "--confirm",
            paramLabel = "HOST",
            description = "This host may be put under load; it is remembered on this machine for the project.")
    private List<String> confirmed = List.of();

    @Option(
            names = "--workers",
            paramLabel = "N",
            description = "Made by so many workers together, which join by an invitation; waits for them.")
    private Integer workers;

    @Option(
            names = "--wait",
            paramLabel = "SECONDS",
            defaultValue = "120",
            description = "For how long workers are waited for; 120 unless given.")
    private int wait;

    @Option(
            names = "--when-lost",
            paramLabel = "SHARE|END",
            defaultValue = "SHARE",
            description = "When a worker is lost, the others take over its part (share), or the run ends (end).")
    private WhenLost whenLost;

    @Mixin
    private SecretsTo secretsTo = new SecretsTo();

    private final Supplier<Fleet> fleet;

    LoadCommand(Console console, Supplier<Fleet> fleet) {
        this.console = console;
        this.fleet = fleet;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore();
                Stopping stopping = new Stopping(core.stop())) {
            Project opened = core.parts().store().open(folder);
            opened.troubles().forEach(console::note);
            Project project = environment == null ? opened : opened.in(environment);
            LoadPlan plan = plan(project);
            LocalProjects locals = core.parts().locals();
            for (String host : confirmed) {
                locals.confirmLoad(folder, host);
            }
            LocalProject local = locals.of(project.folder());
            LoadControl control = new LoadControl(core.stop());
            LoadRun run;
            LoadHistory history = new LoadHistory(project.folder());
            List<LoadRun> before = compare > 0 ? history.latest(plan.id(), compare) : List.of();
            try (Ledger ledger = core.recording(project, console);
                    Printing printing = new Printing(ledger, plan.title())) {
                LoadEngine engine = new LoadEngine(
                        core.parts().loops(),
                        core.parts().expressions(),
                        core.parts().providers());
                run = workers == null
                        ? engine.run(plan, core.bench(project, secretsTo), local::mayLoad, printing, control)
                        : new Gathered(console, fleet, core, secretsTo)
                                .run(project, plan, engine, workers, wait, whenLost, printing, control);
            }
            try {
                history.save(run);
            } catch (Problem notKept) {
                // its figures are what was asked for
                console.note("The run cannot be kept: " + notKept.what() + ".");
            }
            write(project, run);
            if (json) {
                console.line(LoadRunFile.figures(run));
            } else {
                print(run);
            }
            before.forEach(b -> print(LoadComparison.of(b, List.of(run))));
            return stopping.ended(run.passed() ? 0 : 1);
        }
    }

    private LoadPlan plan(Project project) {
        LoadPlan plan = project.load(name)
                .orElseThrow(() -> Problem.input(
                        "The project has no load plan “" + name + "”",
                        folder.toString(),
                        "It has "
                                + String.join(
                                        ", ",
                                        project.loads().stream()
                                                .map(LoadPlan::id)
                                                .toList()) + "."));
        if (rate != null) {
            if (!(rate > 0)) {
                throw Problem.input("The rate must be more than 0", "--rate", null);
            }
            plan = plan.with(LoadShape.arrivals(rate, plan.seconds()));
        }
        if (seconds != null) {
            plan = plan.with(plan.shape().withSeconds(Math.max(0.1, seconds)));
        }
        return endpoint == null ? plan : plan.withEndpoint(endpoint);
    }

    private void write(Project project, LoadRun run) {
        if (junit != null) {
            AtomicFile.write(junit, JUnitXml.of(run));
        }
        if (out != null) {
            LoadFiles.write(out, project.name(), run);
        }
    }

    private void print(LoadRun run) {
        console.line(String.format(
                Locale.ROOT,
                "%-24s %9s %8s %8s %8s %8s %8s %8s %8s",
                "step",
                "done",
                "/s",
                "p50",
                "p90",
                "p95",
                "p99",
                "max",
                "failed"));
        run.steps().forEach(this::line);
        line(run.total());
        run.reasons().forEach((reason, count) -> console.line("  failed " + count + " times: " + reason));
        for (Limit.Outcome limit : run.limits()) {
            console.line(String.format(
                    Locale.ROOT,
                    "%s  %s, found %.2f",
                    limit.kept() ? "kept    " : "NOT KEPT",
                    limit.limit().title(),
                    limit.found()));
        }
        run.workers().forEach(this::line);
        String spent = run.spent().stream()
                .filter(s -> s.count() > 0)
                .map(s -> String.format(
                        Locale.ROOT, "%s %.2f (p99 %.2f)", s.stage().title(), s.mean(), s.p99()))
                .collect(Collectors.joining(", "));
        console.line("on average, in ms: " + spent);
        run.warnings().forEach(w -> console.note("Warning: " + w));
    }

    private void line(StepFigures s) {
        console.line(String.format(
                Locale.ROOT,
                "%-24s %9d %8.1f %8.2f %8.2f %8.2f %8.2f %8.2f %8d",
                s.name(),
                s.done(),
                s.perSecond(),
                s.p50(),
                s.p90(),
                s.p95(),
                s.p99(),
                s.max(),
                s.failed()));
    }

    private void line(WorkerRun w) {
        console.line(String.format(
                Locale.ROOT,
                "%-24s %9d %8.1f %8.2f %8.2f %8.2f %8.2f %8.2f %8d  %s, %d cores, clock within %.2f ms, %d late starts%s",
                w.name(),
                w.total().done(),
                w.total().perSecond(),
                w.total().p50(),
                w.total().p90(),
                w.total().p95(),
                w.total().p99(),
                w.total().max(),
                w.total().failed(),
                w.address(),
                w.cores(),
                w.clockError(),
                w.health().lateStarts(),
                w.told().isEmpty() ? "" : ". " + w.told()));
    }

    private void print(LoadComparison two) {
        LoadRun before = two.base();
        console.line("beside the run of " + before.started() + ", 95 % sure:");
        before.plan().differences(two.others().get(0).plan()).forEach(p -> console.line("  the plan's " + p));
        for (LoadComparison.Line line : two.lines()) {
            console.line(String.format(
                    Locale.ROOT,
                    "  %-22s %-9s %s before, %s now: %s",
                    line.of(),
                    line.what() + " " + line.unit(),
                    figure(line.found().get(0)),
                    figure(line.found().get(1)),
                    line.words(1)));
        }
    }

    private static String figure(LoadComparison.Found found) {
        return found.interval()
                .map(i -> String.format(Locale.ROOT, "%8.2f (%.2f to %.2f)", i.value(), i.low(), i.high()))
                .orElse("none");
    }

    private final class Printing implements LoadListener, AutoCloseable {
        private final Ledger ledger;
        private final Optional<LoadLog> log;
        private final Optional<MetricsPage> page;
        private volatile LoadSecond last;

        Printing(Ledger ledger, String title) {
            this.ledger = ledger;
            this.log = Optional.ofNullable(out).map(o -> new LoadLog(o.resolve("times.hlog")));
            this.page = Optional.ofNullable(metrics)
                    .map(port -> MetricsPage.at(port, open -> LoadMetrics.of(open, title, last)));
            page.ifPresent(p -> console.note("Metrics at " + p.address()));
        }

        @Override
        public void times(int second, Histogram times) {
            log.ifPresent(l -> l.second(second, times, System.currentTimeMillis()));
        }

        @Override
        public void close() {
            log.ifPresent(LoadLog::close);
            page.ifPresent(MetricsPage::close);
        }

        @Override
        public void phase(Phase phase) {
            if (phase != Phase.MEASURING) {
                console.note(phase.title() + "…");
            }
        }

        @Override
        public void second(LoadSecond second) {
            last = second;
            if (second.second() % 5 == 0) {
                console.note(String.format(
                        Locale.ROOT,
                        "%4d s  %7d done  %6d failed  p95 %.1f ms",
                        second.second(),
                        second.total().done(),
                        second.total().failed(),
                        second.total().p95()));
            }
        }

        @Override
        public void failure(Exchange exchange) {
            ledger.offer(exchange);
        }
    }
}
