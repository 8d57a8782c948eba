package dev.mockbell.load;

import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/** The names of what a plan times, which limits may be for: steps that send, groups, and what is repeated until something holds. */
public final class Timed {
    private final Function<String, Optional<Suite>> suites;
    private final Set<String> names = new LinkedHashSet<>();
    private final Deque<String> within = new ArrayDeque<>();

    private Timed(Function<String, Optional<Suite>> suites) {
        this.suites = suites;
    }

    /**
     * Those of a plan, in the order of its mix.
     *
     * @param suites by their ids; one that is not there is passed over
     * @param cases by their full names; likewise
     */
    public static List<String> names(
            LoadPlan plan, Function<String, Optional<Suite>> suites, Function<String, Optional<Case>> cases) {
        Timed timed = new Timed(suites);
        for (Share share : plan.mix()) {
            if (share.kind() == Share.Kind.SUITE) {
                timed.suite(share.of());
            } else {
                cases.apply(share.of()).map(Case::title).ifPresent(timed.names::add);
            }
        }
        return List.copyOf(timed.names);
    }

    private void suite(String id) {
        if (!within.contains(id)) {
            within.push(id);
            suites.apply(id).ifPresent(s -> s.steps().forEach(this::step));
            within.pop();
        }
    }

    private void step(Step step) {
        if (!step.on()) {
            return;
        }
        if (step instanceof Step.Call || step instanceof Step.Group || step instanceof Step.Until) {
            names.add(step.name());
        }
        if (step instanceof Step.RunSuite run) {
            suite(run.suite());
        } else if (step instanceof Step.Choose) {
            // the two groups of a choice have no times of their own
            step.inner().stream()
                    .filter(Step::on)
                    .flatMap(g -> g.inner().stream())
                    .forEach(this::step);
        } else {
            step.inner().forEach(this::step);
        }
    }
}
