package dev.mockbell.mock;

import dev.mockbell.exchange.Exchange;
import java.util.function.Supplier;

/** Keeps what a mock is asked and answers. */
public interface MockRecorder {
    /**
     * Takes an exchange without blocking.
     *
     * @param made makes it, which is work that only who keeps it need do; asked once at most, on any thread
     * @return whether it will be kept
     */
    boolean offer(Supplier<Exchange> made);
}
