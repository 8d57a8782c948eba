package dev.mockbell.load;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.load.LoadListener.Phase;

/**
 * Hears of the part of a run that one generator makes. {@link #phase} and {@link #ready} come from the thread that runs it,
 * {@link #portion} from the sampling thread, in order, and {@link #failure} from an event loop or a worker, at the same time.
 * Only {@link #ready} may block.
 */
public interface PartListener {
    default void phase(Phase phase) {}

    /**
     * All is prepared.
     *
     * @return when to begin, by {@link System#nanoTime()}; waits until that is known. The run is given up when it is to be
     *     stopped by then.
     */
    long ready();

    /** What was counted, about once a second and at the end. */
    void portion(Portion portion);

    /**
     * A full second is over, and its portion was given; by the sampling thread.
     *
     * @param elapsed how long the run has taken, in seconds
     */
    default void second(double elapsed) {}

    void failure(Exchange exchange);
}
