package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Ledger;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.file.UserFolders;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Secrets;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;

/** The parts of the core that commands use, each made when it is first asked for, so that a small command starts fast. */
final class Core implements AutoCloseable {
    private final StopSignal stop = new StopSignal();
    private final Reading reading;
    private final UserFolders user = UserFolders.ofProcess();
    private HttpCaller http;
    private Expressions expressions;
    private EventLoops loops;

    Core() {
        this(new Reading());
    }

    Core(Reading reading) {
        this.reading = reading;
    }

    StopSignal stop() {
        return stop;
    }

    HttpCaller http() {
        if (http == null) {
            http = new HttpCaller(Connect.USUAL.through(reading.proxies()));
        }
        return http;
    }

    Expressions expressions() {
        if (expressions == null) {
            expressions = new Expressions();
        }
        return expressions;
    }

    EventLoops loops() {
        if (loops == null) {
            loops = new EventLoops("net", Math.max(1, Runtime.getRuntime().availableProcessors()));
        }
        return loops;
    }

    CaseCaller caller() {
        return new CaseCaller(http(), expressions());
    }

    ProjectStore store() {
        return new ProjectStore();
    }

    /** What this machine knows of projects. */
    LocalProjects locals() {
        return LocalProjects.ofUser(user);
    }

    /** A project as runs see it, with the secrets that this machine has for it. */
    ProjectBench bench(Project project, SecretsTo secretsTo) {
        LocalProject local = locals().of(project.folder());
        SecretHosts known = new SecretHosts(local.hosts()).andOf(System.getenv());
        return new ProjectBench(project, local, Secrets.ofUser(user, System.getenv()), secretsTo.and(known));
    }

    /** The ledger of a project, as the window has it. */
    Ledger ledger(Project project, Console console) {
        return ProjectStore.openLedger(project.folder(), console::note);
    }

    /** Reads a contract from an address or a file. */
    Contract contract(String address) {
        ReadLimits limits = reading.limits();
        DocumentFetcher files = DocumentFetcher.files(limits.document().bytes());
        // the HTTP client is made only when it is needed: it costs a small command a third of its time
        AtomicReference<HttpFetcher> network = new AtomicReference<>();
        ContractReader reader = new ContractReader(
                (uri, signal) -> {
                    if (uri.getScheme() == null || !uri.getScheme().startsWith("http")) {
                        return files.fetch(uri, signal);
                    }
                    if (network.get() == null) {
                        network.set(new HttpFetcher(http(), limits, reading.asker()));
                    }
                    return network.get().fetch(uri, signal);
                },
                limits);
        return reader.read(address, Progress.NONE, stop);
    }

    /** The project in a folder, when the text names one. */
    Optional<Project> project(String text) {
        try {
            Path folder = Path.of(text);
            boolean there = Files.isDirectory(folder);
            return there ? Optional.of(store().open(folder)) : Optional.empty();
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    @Override
    public void close() {
        if (http != null) {
            http.close();
        }
        if (loops != null) {
            loops.close();
        }
    }
}
