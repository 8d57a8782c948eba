package dev.mockbell.load;

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
        String told) {
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
