package dev.mockbell.cli;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.expression.Expressions;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.xml.XmlLimits;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;

/** The parts of the core that commands use, each made when it is first asked for, so that a small command starts fast. */
final class Core implements AutoCloseable {
    private final StopSignal stop = new StopSignal();
    private HttpCaller http;
    private Expressions expressions;
    private EventLoops loops;

    StopSignal stop() {
        return stop;
    }

    HttpCaller http() {
        if (http == null) {
            http = new HttpCaller();
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

    /** Reads a contract from an address or a file. */
    Contract contract(String address) {
        ContractReader reader = new ContractReader((uri, signal) -> {
            boolean network = uri.getScheme() != null && uri.getScheme().startsWith("http");
            return network
                    ? new HttpFetcher(http()).fetch(uri, signal)
                    : dev.mockbell.contract.DocumentFetcher.files(XmlLimits.CONTRACT.bytes())
                            .fetch(uri, signal);
        });
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
