package dev.mockbell.app;

import dev.mockbell.demo.DemoProject;
import dev.mockbell.demo.StandIn;
import dev.mockbell.desktop.Windows;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** The demo beside the user's own projects: its services run in this program until it ends. */
final class OwnDemo implements AutoCloseable {
    private final Path home;
    private final Clock clock;
    private final Map<String, String> environment;
    private Optional<StandIn> standIn = Optional.empty();
    private Optional<Path> project = Optional.empty();

    /**
     * @param home where its project is made, in a folder of its own
     * @param environment variables of the process
     */
    OwnDemo(Path home, Clock clock, Map<String, String> environment) {
        this.home = home;
        this.clock = clock;
        this.environment = environment;
    }

    /**
     * Opens its window, the same one when it is open already. Work; not for the interface thread.
     *
     * @throws Problem when its project cannot be made
     */
    synchronized void open(Windows windows) {
        if (project.isEmpty()) {
            project = Optional.of(made());
        }
        Map<String, String> with = new HashMap<>(environment);
        with.putAll(DemoProject.secrets());
        windows.open(project.get(), with, window -> window.models().mocks().startOrStop());
    }

    private Path made() {
        StandIn service = standIn.orElseGet(() -> StandIn.start(StandIn.USUAL_PORT, clock));
        standIn = Optional.of(service);
        try (HttpCaller http = new HttpCaller()) {
            Path folder = free();
            new DemoProject(service, HttpFetcher.forEverything(http, XmlLimits.CONTRACT.bytes()), clock)
                    .create(folder, Math.max(0, EventLoops.freePort(MockPlan.USUAL_PORT)));
            return folder;
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The demo's project cannot be made: " + Problem.reason(e),
                    home.toString(),
                    "Check that the folder can be written to.",
                    e);
        }
    }

    private Path free() throws IOException {
        Files.createDirectories(home);
        Path folder = home.resolve("northfell");
        for (int i = 2; Files.exists(folder); i++) {
            folder = home.resolve("northfell-" + i);
        }
        return folder;
    }

    /** Ends its services. */
    @Override
    public synchronized void close() {
        standIn.ifPresent(StandIn::close);
    }
}
