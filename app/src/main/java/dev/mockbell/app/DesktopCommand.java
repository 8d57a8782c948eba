package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Offscreen;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.time.Clock;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import javafx.application.Platform;
import javafx.stage.Stage;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Opens the window. */
@Command(name = "desktop", mixinStandardHelpOptions = true, description = "Opens the window on a project.")
final class DesktopCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(
            paramLabel = "PROJECT",
            arity = "0..1",
            description = "The project's folder, made when it is not there; otherwise one in your home folder.")
    private Path folder;

    DesktopCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        if (!Offscreen.hasDisplay()) {
            throw Problem.input(
                    "There is no display to open a window on",
                    null,
                    "Use the commands (“mockbell --help”), or “mockbell demo”, which works without one.");
        }
        Path at = folder == null ? Path.of(System.getProperty("user.home"), "mockbell", "my-project") : folder;
        show(at, opened -> {});
        console.out().flush();
        return 0;
    }

    /** What is done with a window once it is open, on the interface thread. */
    interface Opened {
        void window(MockBellWindow window);
    }

    /** Opens the window and returns when it is closed. */
    static void show(Path folder, Opened opened) throws InterruptedException {
        CountDownLatch closed = new CountDownLatch(1);
        // the project is read here, so that the interface thread has no file to wait for
        Desk desk = Desk.open(folder, Platform::runLater, Clock.systemUTC());
        Offscreen.start();
        Platform.runLater(() -> {
            Stage stage = new Stage();
            stage.addEventHandler(javafx.stage.WindowEvent.WINDOW_HIDDEN, e -> closed.countDown());
            opened.window(MockBellWindow.open(desk, stage, MockBellWindow.WindowPlace.remembered()));
        });
        closed.await();
    }
}
