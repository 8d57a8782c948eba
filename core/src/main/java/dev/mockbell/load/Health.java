package dev.mockbell.load;

/**
 * How the generator itself fared, in a second or over a whole run.
 *
 * @param latestStartMillis the greatest lateness of a start
 * @param lateStarts how many starts were over 10 ms late
 * @param cpu this process's use of all processors, 0 to 1; negative when not known
 * @param machineCpu all processes' use of them; negative when not known
 * @param collectorMillis for how long the collector stopped everything
 * @param loopDelayMillis the greatest delay of an event loop
 * @param connections open ones at the end
 */
public record Health(
        double latestStartMillis,
        long lateStarts,
        double cpu,
        double machineCpu,
        long collectorMillis,
        double loopDelayMillis,
        int connections) {
    /** Nothing is known yet. */
    public static final Health UNKNOWN = new Health(0, 0, -1, -1, 0, 0, 0);

    /** The worse of each. */
    Health worst(Health other) {
        return new Health(
                Math.max(latestStartMillis, other.latestStartMillis),
                lateStarts + other.lateStarts,
                Math.max(cpu, other.cpu),
                Math.max(machineCpu, other.machineCpu),
                collectorMillis + other.collectorMillis,
                Math.max(loopDelayMillis, other.loopDelayMillis),
                Math.max(connections, other.connections));
    }

    /** As they are at the same time: connections are added up, for the rest the worse of each. */
    Health beside(Health other) {
        Health both = worst(other);
        return new Health(
                both.latestStartMillis,
                both.lateStarts,
                both.cpu,
                both.machineCpu,
                Math.max(collectorMillis, other.collectorMillis),
                both.loopDelayMillis,
                connections + other.connections);
    }
}
