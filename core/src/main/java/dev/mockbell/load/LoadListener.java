package dev.mockbell.load;

import dev.mockbell.exchange.Exchange;

/**
 * Hears of a load run: {@link #second} once a second in order, and {@link #failure} for each failure that is kept. The
 * first comes from the sampling thread, the second from an event loop, at the same time; neither may block.
 */
public interface LoadListener {
    /** Nobody listens. */
    LoadListener NONE = new LoadListener() {};

    default void second(LoadSecond second) {}

    default void failure(Exchange exchange) {}
}
