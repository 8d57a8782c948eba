package dev.mockbell.desktop;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Habits;
import dev.mockbell.desktop.model.RecentProjects;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.application.Platform;
import org.slf4j.LoggerFactory;

/** The windows of the program, one a project. A project that has a window already gets no second one. */
public final class Windows {
    private record Open(Desk desk, MockBellWindow window) {}

    private final UserFolders user;
    private final Clock clock;
    private final Map<String, String> environment;
    private final FleetSource fleet;
    private final Map<Path, Open> open = new LinkedHashMap<>();
    private final Set<Path> reading = new HashSet<>();
    private Optional<Consumer<Windows>> demo = Optional.empty();
    private final AtomicBoolean saved = new AtomicBoolean();
    private final CompletableFuture<Void> closed = new CompletableFuture<>();

    /**
     * No window yet.
     *
     * @param user where the windows' places and the recent projects are remembered
     * @param environment variables of the process, where secrets and proxies may stand
     * @param fleet what makes load on many machines
     */
    public Windows(UserFolders user, Clock clock, Map<String, String> environment, FleetSource fleet) {
        this.fleet = fleet;
        this.environment = Map.copyOf(environment);
        this.user = user;
        this.clock = clock;
    }

    /** Says how the demo is opened: it is given these windows, on a thread of its own. */
    public void onDemo(Consumer<Windows> source) {
        demo = Optional.of(source);
    }

    /**
     * Opens the window of a project, made when the folder holds none, or brings it to the front. Reads files, so not for the
     * interface thread.
     *
     * @param opened hears of a new window, on the interface thread
     * @throws Problem when the project cannot be opened
     */
    public void open(Path folder, Consumer<MockBellWindow> opened) {
        open(folder, environment, opened);
    }

    /** As {@link #open(Path, Consumer)}, with other variables of the process: where secrets stand that nobody keeps. */
    public void open(Path folder, Map<String, String> environment, Consumer<MockBellWindow> opened) {
        Path at = real(folder);
        synchronized (open) {
            Open there = open.get(at);
            if (there != null) {
                Platform.runLater(() -> {
                    there.window().stage().setIconified(false);
                    there.window().stage().toFront();
                    there.window().stage().requestFocus();
                });
                return;
            }
            if (!reading.add(at)) {
                // asked for twice before its window was there
                return;
            }
        }
        try {
            read(at, environment, opened);
        } finally {
            synchronized (open) {
                reading.remove(at);
            }
        }
    }

    private void read(Path at, Map<String, String> environment, Consumer<MockBellWindow> opened) {
        WindowPlace place = WindowPlace.remembered(user.state().resolve("window"));
        boolean dark = Habits.dark(user);
        CompletableFuture<OpeningWindow> opening = on(() -> OpeningWindow.show(at, place, dark));
        Desk desk;
        try {
            desk = Desk.open(at, Toolkit::later, clock, user, environment);
        } catch (Problem e) {
            Path other = instead(at, shown(opening), e).orElseThrow(() -> e);
            try {
                open(other, environment, opened);
            } finally {
                Platform.runLater(shown(opening)::hide);
            }
            return;
        } catch (RuntimeException defect) {
            Platform.runLater(shown(opening)::hide);
            throw defect;
        }
        desk.onFleet(fleet);
        demo.ifPresent(source -> desk.onDemo(failed -> elsewhere(() -> source.accept(this), failed)));
        desk.onOpenProject((other, failed) -> elsewhere(() -> open(other, window -> {}), failed));
        OpeningWindow there = shown(opening);
        Optional<MockBellWindow> made = shown(on(() -> show(desk, there, place)));
        if (made.isEmpty()) {
            // it was closed before there was anything in it
            desk.close();
            gone(desk);
            return;
        }
        MockBellWindow window = made.get();
        synchronized (open) {
            open.put(real(at), new Open(desk, window));
        }
        window.closed().thenRun(() -> gone(desk));
        Platform.runLater(() -> opened.accept(window));
    }

    private static Optional<MockBellWindow> show(Desk desk, OpeningWindow opening, WindowPlace place) {
        if (opening.closed().isDone()) {
            return Optional.empty();
        }
        MockBellWindow window = MockBellWindow.open(desk, opening.stage(), place);
        desk.appearance().follow();
        window.practise();
        return Optional.of(window);
    }

    /** What is opened in place of a project that cannot be. Where there is another window, that one tells of it. */
    private Optional<Path> instead(Path project, OpeningWindow opening, Problem problem) {
        synchronized (open) {
            if (!open.isEmpty()) {
                Platform.runLater(opening::hide);
                return Optional.empty();
            }
        }
        List<Path> recent = RecentProjects.but(project, user);
        return shown(on(() -> opening.tell(problem, recent)).thenCompose(other -> other));
    }

    /** What is made on the interface thread, once there is one. */
    private static <T> CompletableFuture<T> on(Supplier<T> work) {
        return Toolkit.up().thenCompose(up -> CompletableFuture.supplyAsync(work, Platform::runLater));
    }

    private static <T> T shown(CompletableFuture<T> made) {
        try {
            return made.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof RuntimeException defect ? defect : new IllegalStateException(e.getCause());
        }
    }

    private static void elsewhere(Runnable work, Consumer<Problem> failed) {
        Thread opening = new Thread(
                () -> {
                    try {
                        work.run();
                    } catch (Problem problem) {
                        Platform.runLater(() -> failed.accept(problem));
                    }
                },
                "opening");
        opening.setDaemon(true);
        opening.start();
    }

    private void gone(Desk desk) {
        synchronized (open) {
            open.values().removeIf(o -> o.desk() == desk);
            if (open.isEmpty()) {
                closed.complete(null);
            }
        }
    }

    /** Done when the last window is closed and all is saved. */
    public CompletableFuture<Void> closed() {
        return closed;
    }

    /** Windows that are ended from outside, by a signal, lose nothing either. Once only, and not on the interface thread. */
    public void save() {
        if (!saved.compareAndSet(false, true)) {
            return;
        }
        List<Open> left;
        synchronized (open) {
            left = List.copyOf(open.values());
        }
        for (Open one : left) {
            CompletableFuture<Void> settled = new CompletableFuture<>();
            try {
                Platform.runLater(() -> {
                    one.desk().settle();
                    settled.complete(null);
                });
                settled.get(3, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            } catch (ExecutionException | TimeoutException | IllegalStateException e) {
                // the interface is gone; what it had handed over is saved all the same
                LoggerFactory.getLogger(Windows.class).warn("a window could not be asked", e);
            }
            one.desk().saver().close();
        }
    }

    private static Path real(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException notThereYet) {
            return folder.toAbsolutePath().normalize();
        }
    }
}
