package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.WindowPlace;
import dev.mockbell.desktop.drive.Offscreen;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.file.UserFolders;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.time.Clock;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.application.Platform;
import javafx.stage.Stage;
import org.slf4j.LoggerFactory;
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
        CompletableFuture<MockBellWindow> made = new CompletableFuture<>();
        // project and place are read here, so that the interface thread has no file to wait for
        Desk desk = Desk.open(folder, Platform::runLater, Clock.systemUTC());
        WindowPlace place =
                WindowPlace.remembered(UserFolders.ofProcess().state().resolve("window"));
        Offscreen.start();
        Runtime.getRuntime().addShutdownHook(new Thread(() -> saveWhatIsThere(desk), "saving"));
        Platform.runLater(() -> {
            try {
                MockBellWindow window = MockBellWindow.open(desk, new Stage(), place);
                opened.window(window);
                made.complete(window);
            } catch (RuntimeException e) {
                made.completeExceptionally(e);
            }
        });
        try {
            made.get().closed().get();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException defect ? defect : new IllegalStateException(e.getCause());
        }
    }

    /** A window that is ended from outside, by a signal, loses nothing either. */
    private static void saveWhatIsThere(Desk desk) {
        CompletableFuture<Void> settled = new CompletableFuture<>();
        try {
            Platform.runLater(() -> {
                desk.settle();
                settled.complete(null);
            });
            settled.get(3, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException | TimeoutException | IllegalStateException e) {
            // the interface is gone; what it had handed over is saved all the same
            LoggerFactory.getLogger(DesktopCommand.class).warn("the window could not be asked", e);
        }
        desk.saver().close();
    }
}
