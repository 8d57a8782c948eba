package dev.mockbell.load;

import java.util.List;
import java.util.Map;
import org.HdrHistogram.Histogram;

/**
 * What one generator counted since its last portion, about a second before. Portions of several generators are added up by
 * {@link LoadSums}: histograms are merged, so that percentiles are of all samples and never of other percentiles.
 *
 * @param second which of the run it is for, from 1; what comes after the last full one is the second behind it
 * @param times by row, first the steps and then the groups: from the intended start to the end, in microseconds; not to be
 *     changed
 * @param begun likewise, from when the generator really began
 * @param stages by {@link Spent.Stage}
 * @param failed how many of each row failed
 * @param unchecked of these, by a check
 * @param journeys how many journeys that count began
 * @param well how many came to a good end
 * @param inFlight requests under way at its end
 * @param users at work at its end
 * @param reasons failures by reason, those since the last portion
 */
public record Portion(
        int second,
        List<Histogram> times,
        List<Histogram> begun,
        List<Histogram> stages,
        List<Long> failed,
        List<Long> unchecked,
        long journeys,
        long well,
        long inFlight,
        long users,
        Health health,
        Map<String, Long> reasons) {
    public Portion {
        times = List.copyOf(times);
        begun = List.copyOf(begun);
        stages = List.copyOf(stages);
        failed = List.copyOf(failed);
        unchecked = List.copyOf(unchecked);
        reasons = Map.copyOf(reasons);
    }
}
