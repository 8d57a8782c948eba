package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What is in a file that somebody chose or dropped. */
public final class FileContent {
    private FileContent() {}

    /**
     * All its bytes.
     *
     * @param mostMegabytes what is larger is refused
     * @throws Problem when it is larger or cannot be read
     */
    public static byte[] bytes(Path file, int mostMegabytes) {
        try {
            long size = Files.size(file);
            if (size > (long) mostMegabytes << 20) {
                throw Problem.input(
                        "The file has " + size + " bytes, more than the " + mostMegabytes + " MB that are read",
                        file.toString(),
                        "Take a smaller one.");
            }
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "Check the path and its permissions.",
                    e);
        }
    }
}
