package dev.mockbell.project;

import dev.mockbell.problem.Problem;
import java.io.File;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/**
 * The keyring of the user's desktop, which is unlocked with the session: the Secret Service of freedesktop.org, reached by its own
 * command {@code secret-tool}. It may ask the user for a password, so that nothing here is for the interface thread.
 */
public final class Keyring {
    /** There is none. */
    public static final Keyring NONE = new Keyring(Optional.empty());

    private static final String COMMAND = "secret-tool";

    /** Who is asked for a password needs some time; nobody waits for ever. */
    private static final long PATIENCE_SECONDS = 60;

    private final Optional<Path> tool;

    private Keyring(Optional<Path> tool) {
        this.tool = tool;
    }

    /** @param environment of the process: {@code PATH}, and the session's bus, without which there is no keyring */
    public static Keyring of(Map<String, String> environment) {
        if (environment.getOrDefault("DBUS_SESSION_BUS_ADDRESS", "").isEmpty()) {
            return NONE;
        }
        return new Keyring(Arrays.stream(environment.getOrDefault("PATH", "").split(File.pathSeparator))
                .filter(folder -> folder.startsWith("/"))
                .map(Keyring::in)
                .filter(Files::isExecutable)
                .findFirst());
    }

    private static Path in(String folder) {
        try {
            return Path.of(folder, COMMAND);
        } catch (InvalidPathException e) {
            return Path.of("/");
        }
    }

    /** Whether there is one. */
    public boolean isThere() {
        return tool.isPresent();
    }

    /**
     * The value of a project's secret; empty when the keyring has none.
     *
     * @throws Problem when it does not answer
     */
    Optional<String> value(String project, String name) {
        Done done = run(List.of("lookup", "mockbell-project", project, "mockbell-secret", name), "");
        return done.code() == 0 ? Optional.of(done.out()) : Optional.empty();
    }

    /**
     * Keeps a value.
     *
     * @throws Problem when it is refused
     */
    void keep(String project, String name, String value) {
        Done done = run(
                List.of("store", "--label=Mock Bell: " + name, "mockbell-project", project, "mockbell-secret", name),
                value);
        if (done.code() != 0) {
            throw failed("did not keep the secret “" + name + "”", null);
        }
    }

    /** Takes a value away; none is no matter. */
    void clear(String project, String name) {
        run(List.of("clear", "mockbell-project", project, "mockbell-secret", name), "");
    }

    private record Done(int code, String out) {}

    private Done run(List<String> arguments, String in) {
        List<String> command = new ArrayList<>(
                List.of(tool.orElseThrow(() -> failed("is not there", null)).toString()));
        command.addAll(arguments);
        Process process = null;
        try {
            process = new ProcessBuilder(command)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            try (OutputStream to = process.getOutputStream()) {
                // by its input: arguments can be seen by everybody
                to.write(in.getBytes(StandardCharsets.UTF_8));
            }
            if (!process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
                throw failed("did not answer in " + PATIENCE_SECONDS + " seconds", null);
            }
            return new Done(
                    process.exitValue(), new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw failed("cannot be reached: " + Problem.reason(e), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        } finally {
            if (process != null) {
                process.destroyForcibly();
            }
        }
    }

    private static Problem failed(String why, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The desktop's keyring " + why,
                null,
                "Unlock it, or keep the secret in your own file.",
                cause);
    }
}
