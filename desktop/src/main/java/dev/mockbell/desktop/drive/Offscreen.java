package dev.mockbell.desktop.drive;

import dev.mockbell.problem.Problem;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.application.Platform;

/** Starts the window toolkit, on a screen or without one. */
public final class Offscreen {
    private static final int LONGEST_SECONDS = 60;
    private static final AtomicBoolean STARTED = new AtomicBoolean();

    private Offscreen() {}

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
    public static void use() {
        System.setProperty("glass.platform", "Monocle");
        System.setProperty("monocle.platform", "Headless");
        System.setProperty("prism.order", "sw");
        System.setProperty("java.awt.headless", "true");
    }

    /** Starts the toolkit once in this process; it stays until the process ends. */
    public static void start() {
        if (STARTED.compareAndSet(false, true)) {
            CountDownLatch up = new CountDownLatch(1);
            Platform.setImplicitExit(false);
            try {
                Platform.startup(up::countDown);
            } catch (RuntimeException e) {
                throw unavailable(Problem.reason(e), e);
            }
            try {
                // where a library is missing it may fail on a thread of its own, and nobody hears of it
                if (!up.await(LONGEST_SECONDS, TimeUnit.SECONDS)) {
                    throw unavailable("it did not start in " + LONGEST_SECONDS + " s", null);
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    private static Problem unavailable(String why, RuntimeException cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The window cannot be shown: " + why,
                null,
                "On Debian and its kin install libgtk-3-0 and libxtst6, or use “mockbell demo --headless” and the"
                        + " other commands, which need neither.",
                cause);
    }
}
