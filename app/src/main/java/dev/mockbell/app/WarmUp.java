package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.cli.MockBellCommand;
import dev.mockbell.demo.DemoProject;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.WindowPlace;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.drive.Offscreen;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.file.UserFolders;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import javafx.application.Platform;
import javafx.stage.Stage;
import picocli.CommandLine;

/** Opens the window once offscreen and goes through it, so that the JVM can archive the classes that a start needs. */
public final class WarmUp {
    private WarmUp() {}

    /** Takes no arguments. */
    public static void main(String[] args) throws IOException {
        // the classes that are loaded are those of the program itself
        System.setProperty(
                "mockbell.log",
                Files.createTempFile("mockbell-warm-up-", ".log").toString());
        Main.prepare();
        Path folder = Files.createTempDirectory("mockbell-warm-up-");
        try {
            window(folder);
        } catch (RuntimeException | LinkageError none) {
            // a machine for commands alone has not what a window needs
            System.err.println(none.getMessage());
        }
        commands(folder);
        System.exit(0);
    }

    private static void window(Path folder) {
        Offscreen.use();
        Offscreen.start();
        Desk desk = Hand.on(() -> Desk.open(
                folder,
                Platform::runLater,
                Clock.systemUTC(),
                UserFolders.of(Map.of(), folder.resolveSibling("home"))));
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        for (Station station : Station.values()) {
            Hand.run(() -> desk.go(station));
        }
        new Hand(window.stage()).picture();
        Hand.run(() -> window.stage().hide());
    }

    /** The commands that are called most from scripts, on the contract of the demo. */
    private static void commands(Path folder) throws IOException {
        for (String name : List.of("hut-booking.wsdl", "hut-booking.xsd")) {
            try (InputStream in = DemoProject.class.getResourceAsStream(name)) {
                if (in != null) {
                    Files.write(folder.resolve(name), in.readAllBytes());
                }
            }
        }
        Console console = Console.ofProcess();
        CommandLine line = MockBellCommand.commandLine(
                console,
                List.of(),
                () -> null,
                new DesktopCommand(console),
                new DemoCommand(console),
                new ShotsCommand(console));
        String wsdl = folder.resolve("hut-booking.wsdl").toString();
        line.execute("contract", "show", "--help");
        line.execute("contract", "show", wsdl);
        line.execute("contract", "show", "--json", wsdl);
        line.execute(
                "contract", "sample", wsdl, "--out", folder.resolve("samples").toString());
        line.execute("contract", "show", folder.resolve("none").toString());
    }
}
