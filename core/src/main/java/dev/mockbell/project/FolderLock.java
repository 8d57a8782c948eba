package dev.mockbell.project;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Held while a project's folder is looked at and written to, so that no other process of this program writes in between. The
 * system lets go of it when a process ends, however it ends.
 */
final class FolderLock {
    private static final Logger LOG = LoggerFactory.getLogger(FolderLock.class);
    private static final long PATIENCE_MILLIS = 3_000;
    private static final long STEP_MILLIS = 5;

    private final FileChannel channel;

    private FolderLock(FileChannel channel) {
        this.channel = channel;
    }

    /** Waits for it a little. A folder where there can be no lock, or one who never lets go of it, keeps nobody from saving. */
    static FolderLock of(Path project) {
        FileChannel channel = null;
        try {
            Path file = new ProjectFolder(project).hidden().resolve("lock");
            channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            long until = System.currentTimeMillis() + PATIENCE_MILLIS;
            while (!isHeld(channel) && System.currentTimeMillis() < until) {
                Thread.sleep(STEP_MILLIS);
            }
        } catch (IOException | Problem none) {
            LOG.debug("{} is written without a lock", project, none);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return new FolderLock(channel);
    }

    private static boolean isHeld(FileChannel channel) throws IOException {
        try {
            FileLock lock = channel.tryLock();
            return lock != null;
        } catch (OverlappingFileLockException another) {
            // of this process
            return false;
        }
    }

    /** Lets go of it. */
    void close() {
        if (channel != null) {
            try {
                channel.close();
            } catch (IOException e) {
                LOG.debug("the lock's file was not closed", e);
            }
        }
    }
}
