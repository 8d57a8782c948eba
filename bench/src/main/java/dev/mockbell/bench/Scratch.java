package dev.mockbell.bench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Folders for what a benchmark writes, gone when its process ends. */
final class Scratch {
    private Scratch() {}

    static Path folder() throws IOException {
        Path folder = Files.createTempDirectory("mockbell-bench-");
        Runtime.getRuntime().addShutdownHook(new Thread(() -> remove(folder)));
        return folder;
    }

    private static void remove(Path folder) {
        try (Stream<Path> all = Files.walk(folder)) {
            List<Path> insideOut = all.sorted(Comparator.reverseOrder()).toList();
            for (Path each : insideOut) {
                Files.deleteIfExists(each);
            }
        } catch (IOException | UncheckedIOException e) {
            // something is being written still; what is left is the system's to clear
            System.err.println("left behind: " + folder);
        }
    }
}
