package dev.mockbell.load;

import dev.mockbell.check.Capture;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What one part of the mix carries out, in order. */
record Passage(double weight, List<Leg> legs) {
    /** One thing of a passage. */
    sealed interface Leg {
        /** A request. */
        record Send(LoadStep step) implements Leg {}

        /** A rest that a suite asks for. */
        record Rest(long nanos) implements Leg {}

        /** A group begins, or ends; it is timed as one. */
        record Edge(int row, boolean begins) implements Leg {}
    }

    /**
     * All that a plan carries out.
     *
     * @param rows the names of what is timed: first the steps, then the groups
     */
    record Course(List<Passage> passages, List<LoadStep> steps, List<String> groups) {
        /** The names of the steps. */
        List<String> names() {
            return steps.stream().map(LoadStep::name).toList();
        }

        /** Whether answers are looked into by any step. */
        boolean looksInside() {
            return steps.stream().anyMatch(LoadStep::looksInside);
        }
    }

    /**
     * Makes all that a plan carries out ready.
     *
     * @param columns names of the variables that rows give
     * @throws Problem when something of it is missing, wrong, or cannot be done under load
     */
    static Course course(LoadPlan plan, Workbench bench, Set<String> columns, Connect usual, Expressions expressions) {
        if (plan.mix().isEmpty()) {
            throw Problem.input("The load plan carries out nothing", plan.title(), "Add a suite or a case to its mix.");
        }
        List<Suite> suites = new ArrayList<>();
        for (Share share : plan.mix()) {
            if (!(share.weight() > 0)) {
                throw Problem.input(
                        "A part of the mix has the weight " + share.weight(), share.of(), "Give more than 0.");
            }
            suites.add(suite(share, bench));
        }
        Set<String> captured = new HashSet<>(columns);
        for (Suite suite : suites) {
            suite.all()
                    .filter(s -> s instanceof Step.Call && s.on())
                    .flatMap(s -> bench.kept(((Step.Call) s).caseReference()).captures().stream())
                    .peek(Passage::refuseList)
                    .map(Capture::name)
                    .forEach(captured::add);
        }
        Maker maker = new Maker(
                new LoadStep.Readying(bench, plan.endpoint(), usual, expressions, captured),
                new ArrayList<>(),
                new ArrayList<>());
        List<List<Leg>> legs = new ArrayList<>();
        for (Suite suite : suites) {
            List<Leg> own = new ArrayList<>();
            suite.steps().forEach(step -> step.accept(maker.into(own)));
            if (own.stream().noneMatch(Leg.Send.class::isInstance)) {
                throw Problem.input(
                        "The suite has no steps that send anything", suite.title(), "Add a case to it first.");
            }
            legs.add(own);
        }
        // groups come behind all steps, however many there are
        int count = maker.steps().size();
        List<Passage> passages = new ArrayList<>();
        for (int i = 0; i < legs.size(); i++) {
            passages.add(new Passage(
                    plan.mix().get(i).weight(),
                    legs.get(i).stream()
                            .map(l -> l instanceof Leg.Edge e ? new Leg.Edge(count + e.row(), e.begins()) : l)
                            .toList()));
        }
        return new Course(List.copyOf(passages), List.copyOf(maker.steps()), List.copyOf(maker.groups()));
    }

    private static Suite suite(Share share, Workbench bench) {
        if (share.kind() == Share.Kind.SUITE) {
            return bench.suite(share.of());
        }
        Case kept = bench.kept(share.of());
        return new Suite(kept.id(), kept.title(), List.of(Step.call(kept.title(), kept.reference())));
    }

    private static void refuseList(Capture capture) {
        if (capture.takes() != Capture.Takes.VALUE || capture.fromRequest()) {
            throw Problem.input(
                    "Under load a capture takes one value of the answer, and $" + capture.name()
                            + " takes something else",
                    capture.path(),
                    "Capture one value.");
        }
    }

    /** Makes the steps of suites ready, one suite after the other. */
    private record Maker(LoadStep.Readying readying, List<LoadStep> steps, List<String> groups) {
        Legs into(List<Leg> legs) {
            return new Legs(this, legs);
        }
    }

    /**
     * The legs of steps in their order; kinds that have no meaning under load are refused.
     *
     * @param legs is added to
     */
    private record Legs(Maker maker, List<Leg> legs) implements Step.Visitor<Void> {
        @Override
        public Void call(Step.Call step) {
            if (!step.on()) {
                return null;
            }
            if (step.known().isPresent()) {
                throw refused(step, "has known values");
            }
            LoadStep ready = maker.readying().step(maker.steps().size(), step);
            maker.steps().add(ready);
            legs.add(new Leg.Send(ready));
            return null;
        }

        @Override
        public Void group(Step.Group step) {
            if (!step.on()) {
                return null;
            }
            int row = maker.groups().size();
            maker.groups().add(step.name());
            legs.add(new Leg.Edge(row, true));
            step.inner().forEach(s -> s.accept(this));
            legs.add(new Leg.Edge(row, false));
            return null;
        }

        @Override
        public Void pause(Step.Pause step) {
            if (step.on()) {
                legs.add(new Leg.Rest(step.millis() * 1_000_000));
            }
            return null;
        }

        @Override
        public Void until(Step.Until step) {
            return refuse(step, "repeats others");
        }

        @Override
        public Void suite(Step.RunSuite step) {
            return refuse(step, "runs another suite");
        }

        @Override
        public Void choose(Step.Choose step) {
            return refuse(step, "chooses by a condition");
        }

        @Override
        public Void forEach(Step.ForEach step) {
            return refuse(step, "repeats others");
        }

        private static Void refuse(Step step, String what) {
            if (step.on()) {
                throw refused(step, what);
            }
            return null;
        }

        private static Problem refused(Step step, String what) {
            return Problem.input(
                    "Under load only calls, pauses and groups of them are run, and the step “" + step.name() + "” "
                            + what,
                    null,
                    "Switch it off, or put what it calls into a suite of its own.");
        }
    }
}
