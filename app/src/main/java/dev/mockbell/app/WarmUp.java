package dev.mockbell.app;

import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.drive.Offscreen;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Station;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import javafx.application.Platform;
import javafx.stage.Stage;

/** Opens the window once offscreen and goes through it, so that the JVM can archive the classes that a start needs. */
public final class WarmUp {
    private WarmUp() {}

    /** Takes no arguments. */
    public static void main(String[] args) throws IOException {
        Offscreen.use();
        Offscreen.start();
        Path folder = Files.createTempDirectory("mockbell-warm-up-");
        Desk desk = Hand.on(() -> Desk.open(folder, Platform::runLater, Clock.systemUTC()));
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), MockBellWindow.WindowPlace.NONE));
        for (Station station : Station.values()) {
            Hand.run(() -> desk.go(station));
        }
        new Hand(window.stage()).picture();
        Hand.run(() -> window.stage().hide());
        dev.mockbell.cli.MockBellCommand.commandLine(dev.mockbell.cli.Console.ofProcess())
                .execute("contract", "show", "--help");
        System.exit(0);
    }
}
