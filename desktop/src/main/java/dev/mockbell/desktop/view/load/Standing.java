package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import java.util.List;
import java.util.Optional;

/**
 * How a run stands, while it is under way or when it has ended.
 *
 * @param done null while it is under way
 * @param last the last second that was told of
 * @param total null when there is nothing to tell yet
 */
record Standing(LoadRun done, Optional<LoadSecond> last, StepFigures total) {
    static Standing of(LoadModel model) {
        List<LoadSecond> seconds = model.seconds();
        Optional<LoadSecond> last = seconds.isEmpty() ? Optional.empty() : Optional.of(seconds.get(seconds.size() - 1));
        LoadRun done = model.resultProperty().get();
        StepFigures total =
                done != null ? done.total() : last.map(LoadSecond::total).orElse(null);
        return new Standing(done, last, total);
    }

    /** How long it has run. */
    double seconds() {
        return done != null
                ? done.seconds()
                : last.map(l -> (double) l.second()).orElse(0.0);
    }

    /** The figures of each step and group, as far as they are known. */
    List<StepFigures> steps() {
        return done != null ? done.steps() : last.map(LoadSecond::steps).orElse(List.of());
    }

    /** How the limits stand. */
    List<Limit.Outcome> limits() {
        return done != null ? done.limits() : last.map(LoadSecond::limits).orElse(List.of());
    }

    long failed() {
        return total == null ? 0 : total.failed();
    }
}
