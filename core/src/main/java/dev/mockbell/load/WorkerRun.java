package dev.mockbell.load;

import java.util.List;

/**
 * What one of several generators did in a run.
 *
 * @param name by which people know it: "worker 1"
 * @param address where it was reached
 * @param cores its processors
 * @param lanes how many of the run's lanes were its own at the start
 * @param clockError by how much its clock may be off from the run's, in milliseconds; half of the shortest round trip
 * @param total what it did
 * @param health the worst of it
 * @param state how it ended
 * @param told what happened to it, in words; empty when nothing did
 * @param history what it did in each second
 */
public record WorkerRun(
        String name,
        String address,
        int cores,
        int lanes,
        double clockError,
        StepFigures total,
        Health health,
        State state,
        String told,
        List<Second> history) {
    public WorkerRun {
        history = List.copyOf(history);
    }

    /**
     * One second of a worker.
     *
     * @param done answered or failed
     * @param p99 in milliseconds
     * @param latestStart how late its latest start was, in milliseconds
     * @param cpu its use of all its processors, 0 to 1; negative when not known
     */
    public record Second(int second, long done, long failed, double p99, double latestStart, double cpu) {}

    /** How a worker stands. */
    public enum State {
        AT_WORK,
        /** No word came for a while, and it may still come. */
        SLOW,
        DONE,
        /** Given up. */
        LOST
    }
}
