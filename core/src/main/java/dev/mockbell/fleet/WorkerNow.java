package dev.mockbell.fleet;

import dev.mockbell.load.Health;
import dev.mockbell.load.WorkerRun.State;

/**
 * A worker at this moment.
 *
 * @param name by which people know it: "worker 1"
 * @param address by which it is reached
 * @param cores its processors
 * @param clockError by how much its clock may be off from this one's, in milliseconds: half of the shortest round trip
 * @param doing in a word or two: "waits", "getting up to speed", "at work"
 * @param done in the last second
 * @param failed of these
 * @param p99 of the last second, in milliseconds
 * @param health how it fared in the last second
 */
public record WorkerNow(
        String name,
        String address,
        String version,
        int cores,
        double clockError,
        State state,
        String doing,
        long done,
        long failed,
        double p99,
        Health health) {}
