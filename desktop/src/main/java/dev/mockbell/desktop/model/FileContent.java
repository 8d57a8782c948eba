package dev.mockbell.desktop.model;

import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
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

    /**
     * Writes a content to a file, in place of one that is there.
     *
     * @throws Problem when that cannot be written
     */
    static void write(Content content, Path file) {
        try (InputStream in = content.open();
                OutputStream out = Files.newOutputStream(file)) {
            in.transferTo(out);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be written: " + Problem.reason(e),
                    file.toString(),
                    "Check the path, its permissions and the room on the disk.",
                    e);
        }
    }
}
