package dev.mockbell.project;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;

/** Writes files so that a crash leaves either the old or the new content, never a part. */
public final class AtomicFile {
    private AtomicFile() {}

    /** Writes text as UTF-8. A file that already holds the same is not touched. */
    public static void write(Path file, String text) {
        write(file, text.getBytes(StandardCharsets.UTF_8));
    }

    /** Writes beside the file, forces it to disk, then moves it into place. */
    public static void write(Path file, byte[] bytes) {
        try {
            if (Files.exists(file) && Arrays.equals(Files.readAllBytes(file), bytes)) {
                return;
            }
            Files.createDirectories(file.toAbsolutePath().getParent());
            Path beside = Files.createTempFile(file.toAbsolutePath().getParent(), "." + file.getFileName(), ".new");
            try {
                try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.WRITE)) {
                    ByteBuffer buffer = ByteBuffer.wrap(bytes);
                    while (buffer.hasRemaining()) {
                        channel.write(buffer);
                    }
                    channel.force(true);
                }
                try {
                    Files.move(beside, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
                } catch (AtomicMoveNotSupportedException e) {
                    Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING);
                }
            } finally {
                Files.deleteIfExists(beside);
            }
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be written: " + Problem.reason(e),
                    file.toString(),
                    "Check the folder's permissions and free space; the work is still here.",
                    e);
        }
    }
}
