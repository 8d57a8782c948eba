package dev.mockbell.app;

import dev.mockbell.cli.Console;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Makes the pictures of the documentation. */
@Command(
        name = "shots",
        mixinStandardHelpOptions = true,
        description = "Renders every main view offscreen from the demo data, as PNG.")
final class ShotsCommand implements Callable<Integer> {
    private final Console console;

    @Option(names = "--out", paramLabel = "DIR", description = "Where to write; docs/screenshots unless given.")
    private Path out = Path.of("docs", "screenshots");

    ShotsCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws IOException {
        Path folder = Files.createTempDirectory("mockbell-shots-");
        int code = new CommandLine(new DemoCommand(console)).execute("--headless", "--out", folder.toString());
        if (code != 0) {
            return code;
        }
        Files.createDirectories(out);
        for (String name : List.of(
                "contract",
                "changes",
                "written",
                "start",
                "call",
                "check",
                "mock",
                "memory",
                "traffic",
                "held",
                "load",
                "runs",
                "parts",
                "security",
                "inside",
                "compared",
                "table",
                "environments",
                "known")) {
            Path made = folder.resolve("pictures").resolve(name + ".png");
            Files.copy(made, out.resolve(name + ".png"), StandardCopyOption.REPLACE_EXISTING);
        }
        console.out().println("Pictures are in " + out);
        return 0;
    }
}
