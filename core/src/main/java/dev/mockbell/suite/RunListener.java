package dev.mockbell.suite;

import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Hears of a run as it goes, from the thread that runs it. One must not block. */
@FunctionalInterface
public interface RunListener {
    /** Nobody listens. */
    RunListener NONE = event -> {};

    void heard(RunEvent event);

    /** Several that hear one after the other. What one throws is logged, and harms neither the others nor the run. */
    static RunListener all(List<RunListener> listeners) {
        List<RunListener> each = List.copyOf(listeners);
        Logger log = LoggerFactory.getLogger(RunListener.class);
        return event -> each.forEach(l -> {
            try {
                l.heard(event);
            } catch (RuntimeException e) {
                log.warn("a listener of a run failed at {}", event.getClass().getSimpleName(), e);
            }
        });
    }
}
