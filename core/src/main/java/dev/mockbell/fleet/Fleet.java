package dev.mockbell.fleet;

import dev.mockbell.task.StopSignal;

/** Has several machines make load together. */
public interface Fleet {
    /**
     * Opens the place where workers join.
     *
     * @param own the coordinator's own; its address is listened on
     * @throws dev.mockbell.problem.Problem when the address cannot be listened on, or the invitation is none
     */
    Gathering open(Invitation own, FleetListener listener);

    /**
     * Works for whoever opens the place that an invitation names, one run after the other, until stopped.
     *
     * @param host the address of this machine by which the others reach it
     * @throws dev.mockbell.problem.Problem when this worker is refused, or the invitation is none or has expired
     */
    void work(Invitation invitation, String host, WorkerListener listener, StopSignal stop);
}
