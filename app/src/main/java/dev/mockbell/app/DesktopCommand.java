package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.Windows;
import dev.mockbell.desktop.model.Habits;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ProjectStore;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Opens the window. */
@Command(name = "desktop", mixinStandardHelpOptions = true, description = "Opens the window on a project.")
final class DesktopCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(
            paramLabel = "PROJECT",
            arity = "0..1",
            description =
                    "The project's folder, made when it is not there, or its mockbell.yaml; otherwise one in your home"
                            + " folder.")
    private Path folder;

    DesktopCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        if (!Toolkit.hasDisplay()) {
            throw Problem.input(
                    "There is no display to open a window on",
                    null,
                    "Use the commands (“mockbell --help”), or “mockbell demo”, which works without one.");
        }
        Path at = folder == null
                ? Path.of(System.getProperty("user.home"), "mockbell", "my-project")
                : ProjectStore.folderOf(folder);
        show(at, UserFolders.ofProcess(), System.getenv(), opened -> {});
        console.out().flush();
        return 0;
    }

    /**
     * Has the toolkit come up, which takes most of a second, beside what else a start has to do. Does nothing where there is
     * no display, and a second time.
     */
    static void toolkit(UserFolders user) {
        if (Toolkit.hasDisplay() || Toolkit.isOffscreen()) {
            scale(Habits.size(user));
            Toolkit.begin();
        }
    }

    /** The toolkit takes the size of everything from the system, unless another was chosen before it starts. */
    private static void scale(int percent) {
        if (percent > 0) {
            System.setProperty("glass.gtk.uiScale", percent + "%");
            System.setProperty("glass.win.uiScale", percent + "%");
        }
    }

    /** What is done with a window once it is open, on the interface thread. */
    interface Opened {
        void window(MockBellWindow window);
    }

    /**
     * Opens the window and returns when the last one is closed.
     *
     * @param user where what belongs to the user is kept
     * @param environment variables of the process, where secrets and proxies may stand
     */
    static void show(Path folder, UserFolders user, Map<String, String> environment, Opened opened)
            throws InterruptedException {
        toolkit(user);
        Windows windows = new Windows(user, Clock.systemUTC(), environment, new OwnFleet());
        OwnDemo demo =
                new OwnDemo(Path.of(System.getProperty("user.home"), "mockbell"), Clock.systemUTC(), environment);
        windows.onDemo(demo::open);
        Termination.before(windows::save);
        windows.open(folder, opened::window);
        try {
            windows.closed().get();
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } finally {
            demo.close();
        }
    }
}
