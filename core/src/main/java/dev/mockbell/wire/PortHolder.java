package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/**
 * The program that listens on a port of this machine, where the system tells: on Linux, of this user's own programs.
 *
 * @param pid of its process
 * @param command its command line
 */
public record PortHolder(long pid, List<String> command) {
    private static final Path PROC = Path.of("/proc");
    private static final String LISTENS = "0A";
    private static final String MAIN = "dev.mockbell.app.Main";

    public PortHolder {
        command = List.copyOf(command);
    }

    /** Who listens on a port; empty when that cannot be told. */
    public static Optional<PortHolder> of(int port) {
        Set<String> sockets = new HashSet<>();
        for (String table : List.of("net/tcp", "net/tcp6")) {
            sockets.addAll(inodes(PROC.resolve(table), port));
        }
        if (sockets.isEmpty()) {
            return Optional.empty();
        }
        try (DirectoryStream<Path> processes = Files.newDirectoryStream(PROC, "[0-9]*")) {
            for (Path process : processes) {
                if (holds(process, sockets)) {
                    return Optional.of(
                            new PortHolder(Long.parseLong(process.getFileName().toString()), command(process)));
                }
            }
        } catch (IOException | RuntimeException notTold) {
            return Optional.empty();
        }
        return Optional.empty();
    }

    /** The inodes of the sockets that listen on a port, as the kernel lists them (proc(5)). */
    private static Set<String> inodes(Path table, int port) {
        Set<String> found = new HashSet<>();
        String local = ":" + String.format(Locale.ROOT, "%04X", port);
        try {
            for (String line : Files.readAllLines(table, StandardCharsets.US_ASCII)) {
                String[] fields = line.strip().split("\\s+");
                if (fields.length > 9 && fields[1].endsWith(local) && fields[3].equals(LISTENS)) {
                    found.add("socket:[" + fields[9] + "]");
                }
            }
        } catch (IOException notLinux) {
            return Set.of();
        }
        return found;
    }

    private static boolean holds(Path process, Set<String> sockets) {
        try (DirectoryStream<Path> open = Files.newDirectoryStream(process.resolve("fd"))) {
            for (Path descriptor : open) {
                if (sockets.contains(Files.readSymbolicLink(descriptor).toString())) {
                    return true;
                }
            }
        } catch (IOException | RuntimeException notOurs) {
            return false;
        }
        return false;
    }

    private static List<String> command(Path process) throws IOException {
        String line = Files.readString(process.resolve("cmdline"), StandardCharsets.UTF_8);
        return Arrays.stream(line.split("\0")).filter(w -> !w.isEmpty()).toList();
    }

    /** Whether it is this very program. */
    public boolean isThis() {
        return pid == ProcessHandle.current().pid();
    }

    /** Whether it is a mock that was started by this program's command line, which can be ended without losing anything. */
    public boolean isOurMock() {
        int main = command.indexOf(MAIN);
        return !isThis()
                && main >= 0
                && main + 1 < command.size()
                && command.get(main + 1).equals("mock");
    }

    /** For people. */
    public String words() {
        int main = command.indexOf(MAIN);
        if (isThis()) {
            return "another mock of this program";
        }
        String name = main >= 0
                ? "Mock Bell (" + String.join(" ", command.subList(main + 1, command.size())) + ")"
                : command.isEmpty() ? "a program" : "“" + shortened(String.join(" ", command)) + "”";
        return name + ", process " + pid;
    }

    private static String shortened(String text) {
        return text.length() > 80 ? text.substring(0, 80) + "…" : text;
    }

    /**
     * Ends an earlier mock of ours and waits until it is gone.
     *
     * @throws Problem when it is another program, or does not end in time
     */
    public void takeOver(Duration patience) {
        if (!isOurMock()) {
            throw Problem.input("The port is held by " + words(), null, "Only a mock of ours can be taken over.");
        }
        Optional<ProcessHandle> process = ProcessHandle.of(pid);
        if (process.isPresent()) {
            process.get().destroy();
            try {
                process.get().onExit().get(patience.toMillis(), TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            } catch (java.util.concurrent.ExecutionException | java.util.concurrent.TimeoutException e) {
                throw Problem.of(Problem.Kind.PORT_TAKEN, words() + " does not end", null, "Use another port.", e);
            }
        }
    }
}
