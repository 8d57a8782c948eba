package dev.mockbell.project;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.StandardOpenOption;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Says that a window has a project, for as long as its process lives, so that a window of another process can tell of it. Nobody is kept
 * from anything by it.
 */
public final class OpenMark implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(OpenMark.class);

    private final FileChannel channel;
    private final boolean first;

    private OpenMark(FileChannel channel, boolean first) {
        this.channel = channel;
        this.first = first;
    }

    /** Marks a project; where no mark can be made, it is as if nobody else had it. */
    public static OpenMark of(Project project) {
        try {
            FileChannel channel = FileChannel.open(
                    ProjectStore.hidden(project.folder()).resolve("open"),
                    StandardOpenOption.CREATE,
                    StandardOpenOption.WRITE);
            try {
                return new OpenMark(channel, channel.tryLock() != null);
            } catch (OverlappingFileLockException ofThisProcess) {
                return new OpenMark(channel, false);
            }
        } catch (IOException | Problem unmarked) {
            LOG.debug("{} is not marked as open", project.folder(), unmarked);
            return new OpenMark(null, true);
        }
    }

    /** Whether nobody had it before. */
    public boolean isFirst() {
        return first;
    }

    @Override
    public void close() {
        if (channel != null) {
            try {
                channel.close();
            } catch (IOException e) {
                LOG.debug("the mark's file was not closed", e);
            }
        }
    }
}
