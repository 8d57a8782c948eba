package dev.mockbell.desktop.toolkit;

import dev.mockbell.problem.Problem;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.application.Platform;

/** Starts the window toolkit, on a screen or without one. */
public final class Toolkit {
    private static final int LONGEST_SECONDS = 60;
    private static final AtomicBoolean STARTED = new AtomicBoolean();
    private static final CompletableFuture<Void> UP = new CompletableFuture<>();

    private Toolkit() {}

    /** Whether this machine has somewhere to show a window. */
    public static boolean hasDisplay() {
        String os = System.getProperty("os.name", "").toLowerCase(java.util.Locale.ROOT);
        boolean linux = os.contains("linux") || os.contains("bsd");
        return !linux || set("DISPLAY") || set("WAYLAND_DISPLAY");
    }

    private static boolean set(String variable) {
        String value = System.getenv(variable);
        return value != null && !value.isBlank();
    }

    /** Makes the toolkit render into memory; to be called before it starts. */
    public static void offscreen() {
        System.setProperty("glass.platform", "Monocle");
        System.setProperty("monocle.platform", "Headless");
        System.setProperty("prism.order", "sw");
        System.setProperty("java.awt.headless", "true");
    }

    /** Whether {@link #offscreen()} was called, so that no display is needed. */
    public static boolean isOffscreen() {
        return "Monocle".equals(System.getProperty("glass.platform"));
    }

    /** Starts the toolkit once in this process; it stays until the process ends. Returns when it is up. */
    public static void start() {
        begin();
        await();
    }

    /** As {@link #start()}, without waiting: reading a project takes as long, and may go on beside it. */
    public static void begin() {
        if (STARTED.compareAndSet(false, true)) {
            Thread starting = new Thread(Toolkit::startToolkit, "starting the toolkit");
            starting.setDaemon(true);
            starting.start();
        }
    }

    private static void startToolkit() {
        try {
            Platform.setImplicitExit(false);
            Platform.startup(() -> UP.complete(null));
        } catch (RuntimeException | LinkageError e) {
            UP.completeExceptionally(unavailable(Problem.reason(e), e));
        }
    }

    /**
     * Runs something on the interface thread, once there is one.
     *
     * @throws Problem when the toolkit cannot be started
     */
    public static void later(Runnable work) {
        await();
        Platform.runLater(work);
    }

    /** Done when the interface thread is there; fails with a {@link Problem} when the toolkit cannot be started. */
    public static CompletableFuture<Void> up() {
        // where a library is missing it may fail on a thread of its own, and nobody hears of it
        return UP.copy().orTimeout(LONGEST_SECONDS, TimeUnit.SECONDS).exceptionally(e -> {
            Throwable why = e instanceof CompletionException ? e.getCause() : e;
            if (why instanceof Problem told) {
                throw told;
            }
            throw unavailable("it did not start in " + LONGEST_SECONDS + " s", why);
        });
    }

    private static void await() {
        try {
            up().get();
        } catch (ExecutionException e) {
            throw e.getCause() instanceof Problem told ? told : new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        }
    }

    private static Problem unavailable(String why, Throwable cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The window cannot be shown: " + why,
                null,
                "On Debian and its kin install libgtk-3-0 and libxtst6, or use “mockbell demo --headless” and the"
                        + " other commands, which need neither.",
                cause);
    }
}
