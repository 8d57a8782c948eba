package dev.mockbell.grid;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The project that a worker has been sent last, in a folder of its user alone, as long as the worker lives. */
final class FilesHere implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(FilesHere.class);

    private String digest = "";
    private Path folder;

    /** Whether it has these. */
    synchronized boolean has(String wanted) {
        return folder != null && digest.equals(wanted);
    }

    /** Where they are. */
    synchronized Path folder() {
        return folder;
    }

    /**
     * Lays others out in their place.
     *
     * @return where they are
     * @throws Problem when they are not those that the digest is of, or cannot be written
     */
    synchronized Path put(String wanted, byte[] packed) {
        if (!ProjectFiles.digest(packed).equals(wanted)) {
            throw Problem.input("The project's files were damaged on their way", null, "Start the run again.");
        }
        close();
        try {
            // made for its owner alone
            folder = Files.createTempDirectory("mockbell-worker-");
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The project's files cannot be laid out: " + Problem.reason(e),
                    null,
                    "Check the disk.",
                    e);
        }
        ProjectFiles.unpack(packed, folder);
        digest = wanted;
        return folder;
    }

    /** Removes them. */
    @Override
    public synchronized void close() {
        digest = "";
        if (folder == null) {
            return;
        }
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.deleteIfExists(path);
            }
        } catch (IOException e) {
            LOG.warn("a worker's files could not be removed", e);
        }
        folder = null;
    }
}
