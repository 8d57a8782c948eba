package dev.mockbell.load;

import java.util.List;

/**
 * One second of a load run.
 *
 * @param second from 1
 * @param intended arrivals that were due in it; for users, rounds begun
 * @param done answers and failures that came in it
 * @param failed of these
 * @param inFlight requests under way at its end
 * @param users at work at its end; 0 for arrivals
 * @param p50 of this second, in milliseconds; 0 without answers
 * @param p95 likewise
 * @param p99 likewise
 * @param buckets how many answers fell into each response-time band, by {@link ResponseBands}
 * @param steps the figures so far of each step and group
 * @param total the figures so far of all
 * @param limits how the plan's limits stand
 * @param health how the generator fared in it
 */
public record LoadSecond(
        int second,
        long intended,
        long done,
        long failed,
        long inFlight,
        long users,
        double p50,
        double p95,
        double p99,
        List<Long> buckets,
        List<StepFigures> steps,
        StepFigures total,
        List<Limit.Outcome> limits,
        Health health) {}
