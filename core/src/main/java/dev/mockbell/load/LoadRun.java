package dev.mockbell.load;

import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * What a load run found.
 *
 * @param seconds how long it took, with what was waited for at the end
 * @param reasons failures by reason, most frequent first
 * @param warnings why the generator's own figures are not to be trusted; empty when they are
 */
public record LoadRun(
        LoadPlan plan,
        Instant started,
        double seconds,
        boolean stopped,
        StepFigures total,
        List<StepFigures> steps,
        Map<String, Long> reasons,
        List<Limit.Outcome> limits,
        List<LoadSecond> history,
        List<String> warnings) {
    public boolean passed() {
        return limits.stream().allMatch(Limit.Outcome::kept);
    }
}
