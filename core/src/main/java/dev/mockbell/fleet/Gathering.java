package dev.mockbell.fleet;

import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadRun;
import java.util.List;

/** Workers that have joined, and those that may still. Safe for many threads; one run at a time. */
public interface Gathering extends AutoCloseable {
    /** Those that are there now, in the order in which they came. */
    List<WorkerNow> workers();

    /**
     * Has all that are there carry out an order; returns when all are done, or soon after a stop.
     *
     * @param listener hears of the whole: {@link LoadListener#second} from one thread, which it must not block
     * @throws dev.mockbell.problem.Problem when there is none, or one cannot start: nothing was loaded then
     */
    LoadRun run(FleetOrder order, LoadListener listener, LoadControl control);

    /** Ends; workers wait for the next. */
    @Override
    void close();
}
