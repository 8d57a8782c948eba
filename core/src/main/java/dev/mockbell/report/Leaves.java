package dev.mockbell.report;

import dev.mockbell.check.Verdict;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.StepResult;
import java.util.ArrayList;
import java.util.List;

/** What a run did, one by one: the calls, rows and rounds in the steps, and the steps that failed by themselves. */
final class Leaves {
    private Leaves() {}

    /**
     * One thing that was done.
     *
     * @param name with the names of what it stands in before it
     */
    record Leaf(String name, StepResult result) {}

    static List<Leaf> of(Run run) {
        List<Leaf> all = new ArrayList<>();
        run.setUp().forEach(r -> add("set-up · ", r, all));
        run.steps().forEach(r -> add("", r, all));
        run.cleanUp().forEach(r -> add("clean-up · ", r, all));
        return all;
    }

    private static void add(String lead, StepResult result, List<Leaf> all) {
        boolean ownFailure =
                result.verdict() == Verdict.FAILED && !result.problem().isEmpty();
        if (result.inner().isEmpty() || ownFailure) {
            all.add(new Leaf(lead + result.name(), result));
        }
        result.inner().forEach(r -> add(lead + result.name() + " · ", r, all));
    }
}
