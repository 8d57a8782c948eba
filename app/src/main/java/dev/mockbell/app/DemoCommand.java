package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.demo.DemoProject;
import dev.mockbell.demo.StandIn;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.mock.MockPlan;
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
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Shows everything on made-up services that come with the program. */
@Command(
        name = "demo",
        mixinStandardHelpOptions = true,
        description = {
            "Opens the window on the demo project, with its live stand-in and its mock up.",
            "Without a display it walks the whole example offscreen, prints each step with its result, and leaves",
            "pictures and a report in a folder that it names; exit code 0 only if every step did what it should."
        })
final class DemoCommand implements Callable<Integer> {
    private final Console console;

    @Option(names = "--headless", description = "Walks the example offscreen even if there is a display.")
    private boolean headless;

    @Option(names = "--out", paramLabel = "DIR", description = "Where the project, pictures and report go.")
    private Path out;

    DemoCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws IOException, InterruptedException {
        Path folder = out == null ? Files.createTempDirectory("mockbell-demo-") : out.toAbsolutePath();
        boolean offscreen = headless || !Toolkit.hasDisplay();
        if (offscreen) {
            Toolkit.offscreen();
        }
        Clock clock = Clock.systemUTC();
        HttpCaller http = new HttpCaller();
        try (StandIn standIn = StandIn.start(StandIn.USUAL_PORT, clock)) {
            standIn.warmUp();
            Path project = folder.resolve("northfell");
            int mockPort = Math.max(0, EventLoops.freePort(MockPlan.USUAL_PORT));
            new DemoProject(standIn, HttpFetcher.forEverything(http, XmlLimits.CONTRACT.bytes()), clock)
                    .create(project, mockPort);
            if (offscreen) {
                return new DemoWalk(console::out, folder, project, standIn).walk() ? 0 : 1;
            }
            console.out().println("The demo project is in " + project + ", its live service at " + standIn.soap11());
            DesktopCommand.show(
                    project,
                    UserFolders.ofProcess(),
                    withSecrets(),
                    window -> window.models().mocks().startOrStop());
            return 0;
        }
    }

    /** The demo's made-up secrets are this process's alone. */
    static Map<String, String> withSecrets() {
        Map<String, String> environment = new HashMap<>(System.getenv());
        environment.putAll(DemoProject.secrets());
        return environment;
    }
}
