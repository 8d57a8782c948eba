package dev.mockbell.load;

import dev.mockbell.exchange.Exchange;
import org.HdrHistogram.Histogram;

/**
 * Hears of a load run: {@link #phase} when one begins, {@link #second} once a second in order, and {@link #failure} for each
 * failure that is kept. The first comes from the thread that runs it, the second from the sampling thread, the third from an
 * event loop or a worker, at the same time; none may block.
 */
public interface LoadListener {
    /** Nobody listens. */
    LoadListener NONE = new LoadListener() {};

    /** What a run does before and after it measures. */
    enum Phase {
        /** The generator is brought to speed against a peer of its own. */
        READYING("getting up to speed"),
        /** The plan's own traffic goes to its target and does not count yet. */
        WARMING("warming up the target"),
        MEASURING("measuring");

        private final String title;

        Phase(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    default void phase(Phase phase) {}

    default void second(LoadSecond second) {}

    /** The response times of all steps in a second, in microseconds; called before {@link #second}. They are not to be kept. */
    default void times(int second, Histogram times) {}

    default void failure(Exchange exchange) {}
}
