package dev.mockbell.fleet;

import java.util.List;

/** Hears of workers, from one thread, in order; it must not block. */
public interface FleetListener {
    /** Nobody listens. */
    FleetListener NONE = new FleetListener() {};

    /** Those that are there, when one has come or gone, and about once a second while they are at work. */
    default void workers(List<WorkerNow> now) {}

    /** Something happened that people should know, in a sentence. */
    default void told(String sentence) {}
}
