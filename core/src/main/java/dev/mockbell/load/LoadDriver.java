package dev.mockbell.load;

import java.util.random.RandomGenerator;

/** What has journeys start on one lane. All of it happens on the lane's event loop. */
interface LoadDriver {
    /** Starts when the run does. */
    void begin();

    /** The rate was changed, or nothing new is to come in. */
    void changed();

    /**
     * What a driver stands on.
     *
     * @param from when the curve starts, by {@link System#nanoTime()}
     * @param done hears once, when nothing is under way and nothing more will come
     */
    record Ground(
            LoadSession session,
            Lane lane,
            LoadControl control,
            Rows rows,
            RandomGenerator chance,
            Progress progress,
            long from,
            Runnable done) {}
}
