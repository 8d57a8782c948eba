package dev.mockbell.load;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.HdrHistogram.Histogram;

/**
 * What a load run found.
 *
 * @param seconds how long it took, with what was waited for at the end
 * @param stopped whether it ended before its plan did
 * @param steps of each step and group
 * @param spent where the time went, of all steps together
 * @param reasons failures by reason, most frequent first
 * @param health the worst of the generator in the whole run
 * @param warnings why the generator's own figures are not to be trusted, the gravest first; empty when they are
 * @param times the response times in microseconds of each of {@code steps} and, the last one, of all; not to be changed
 * @param workers those who made it together; empty when this program alone did
 */
public record LoadRun(
        LoadPlan plan,
        Instant started,
        double seconds,
        boolean stopped,
        StepFigures total,
        List<StepFigures> steps,
        List<Spent> spent,
        Map<String, Long> reasons,
        List<Limit.Outcome> limits,
        List<LoadSecond> history,
        Health health,
        List<String> warnings,
        List<Histogram> times,
        List<WorkerRun> workers) {
    /** Whether its limits were kept; a run that ended because workers were lost has not passed. */
    public boolean passed() {
        boolean brokenOff = stopped && workers.stream().anyMatch(w -> w.state() == WorkerRun.State.LOST);
        return !brokenOff && limits.stream().allMatch(Limit.Outcome::kept);
    }

    /** The figures of each step and group, and of all behind them. */
    public List<StepFigures> figures() {
        List<StepFigures> all = new ArrayList<>(steps);
        all.add(total);
        return all;
    }
}
