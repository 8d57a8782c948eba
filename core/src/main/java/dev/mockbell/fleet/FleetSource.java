package dev.mockbell.fleet;

import java.io.IOException;
import java.nio.file.Path;

/** What the program that is running has for load from many machines; nothing of it is loaded before it is asked for. */
public interface FleetSource {
    /** Makes a fleet. */
    Fleet fleet();

    /** Starts a worker on this machine, as a process of its own that joins by an invitation. */
    Process startWorker(Path invitation) throws IOException;
}
