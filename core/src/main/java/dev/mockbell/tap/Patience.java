package dev.mockbell.tap;

import dev.mockbell.exchange.Message;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * For how long clients wait: no message tells it, so what is known is after how long one of the same address and program ended
 * its side. Safe for many threads.
 */
final class Patience {
    /** Who ends at once has said all it had to say, and still waits. */
    private static final Duration AT_ONCE = Duration.ofMillis(500);

    private static final int MOST = 200;

    private final Map<String, Duration> known = new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Duration> eldest) {
            return size() > MOST;
        }
    };

    void gaveUp(String caller, Message request, Duration after) {
        if (after.compareTo(AT_ONCE) > 0) {
            synchronized (known) {
                // by hand one may end sooner; what is sure is the shortest
                known.merge(client(caller, request), after, (a, b) -> a.compareTo(b) < 0 ? a : b);
            }
        }
    }

    Optional<Duration> of(String caller, Message request) {
        synchronized (known) {
            return Optional.ofNullable(known.get(client(caller, request)));
        }
    }

    private static String client(String caller, Message request) {
        return caller + " " + request.header("User-Agent").orElse("");
    }
}
