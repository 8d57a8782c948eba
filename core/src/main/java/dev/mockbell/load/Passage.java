package dev.mockbell.load;

import dev.mockbell.check.Capture;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Preflight;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * What one part of the mix carries out, in order; steps that repeat or choose others are legs that lead elsewhere.
 *
 * @param remembers whether what comes depends on what an answer said, so that the last one is remembered
 * @param sets whether variables come up in it, besides those that are captured
 */
record Passage(double weight, List<Leg> legs, boolean remembers, boolean sets) {
    Passage(double weight, List<Leg> legs) {
        this(
                weight,
                List.copyOf(legs),
                legs.stream().anyMatch(Passage::asks),
                legs.stream().anyMatch(Passage::gives));
    }

    /**
     * A condition on the last answer and the variables.
     *
     * @param base the variables of the project, under those of the journey
     */
    record Asking(String condition, Scope base) {}

    /** One thing of a passage. Legs are led to by their place. */
    sealed interface Leg {
        /** A request. */
        record Send(LoadStep step) implements Leg {}

        /** A rest that a suite asks for. */
        record Rest(long nanos) implements Leg {}

        /** A group begins, or ends; it is timed as one. */
        record Edge(int row, boolean begins) implements Leg {}

        /** Goes on elsewhere. */
        record Jump(int to) implements Leg {}

        /** Goes on elsewhere where a condition does not hold. */
        record Unless(Asking asking, int to) implements Leg {}

        /** A round of steps begins. */
        record Round() implements Leg {}

        /**
         * A round is over; another one follows where a condition does not hold.
         *
         * @param from the leg where rounds begin
         * @param times so many rounds at most
         * @param everyNanos between the starts of rounds
         */
        record Again(Asking asking, int from, int times, long everyNanos) implements Leg {}

        /**
         * Takes the next row into variables, or goes on elsewhere when there is none left.
         *
         * @param rows values by the names of variables
         */
        record Rows(List<Map<String, String>> rows, int past) implements Leg {}

        /**
         * Gives variables values for a while.
         *
         * @param texts with expressions in braces
         */
        record Give(Map<String, String> texts, Scope base) implements Leg {}

        /** Variables have the values again that they had. */
        record TakeBack(int given) implements Leg {}
    }

    private static boolean asks(Leg leg) {
        return leg instanceof Leg.Unless || leg instanceof Leg.Again || leg instanceof Leg.Give;
    }

    private static boolean gives(Leg leg) {
        return leg instanceof Leg.Rows || leg instanceof Leg.Give;
    }

    /** The same without rests, and with other steps; legs keep their places. */
    Passage hurried(UnaryOperator<LoadStep> other) {
        return new Passage(weight, legs.stream().map(leg -> hurried(leg, other)).toList());
    }

    private static Leg hurried(Leg leg, UnaryOperator<LoadStep> other) {
        if (leg instanceof Leg.Rest) {
            return new Leg.Rest(0);
        }
        if (leg instanceof Leg.Again again) {
            return new Leg.Again(again.asking(), again.from(), again.times(), 0);
        }
        return leg instanceof Leg.Send send ? new Leg.Send(other.apply(send.step())) : leg;
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
        Set<String> captured = new HashSet<>(columns);
        for (Share share : plan.mix()) {
            if (!(share.weight() > 0)) {
                throw Problem.input(
                        "A part of the mix has the weight " + share.weight(), share.of(), "Give more than 0.");
            }
            Suite suite = suite(share, bench);
            look(suite, bench, expressions);
            suites.add(suite);
            named(suite.steps(), bench, captured);
        }
        Maker maker = new Maker(
                new LoadStep.Readying(bench, plan.endpoint(), usual, expressions, captured),
                bench.variables(),
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

    /** @throws Problem for the first step besides calls that is known not to work */
    private static void look(Suite suite, Workbench bench, Expressions expressions) {
        Map<StepPath, String> troubles = Preflight.of(suite, bench, expressions);
        List<StepPath> off = new ArrayList<>();
        suite.each((path, step) -> {
            if (!step.on()) {
                off.add(path);
            }
            boolean run = path.part() == StepPath.Part.STEPS && off.stream().noneMatch(o -> o.holds(path));
            if (run && !(step instanceof Step.Call) && troubles.containsKey(path)) {
                throw Problem.input(
                        "The step “" + step.name() + "” cannot be run: " + troubles.get(path),
                        suite.title(),
                        "Mend it, or switch it off.");
            }
        });
    }

    /** Adds the names of variables that come up in steps. */
    private static void named(List<Step> steps, Workbench bench, Set<String> names) {
        steps.stream().filter(Step::on).forEach(step -> {
            named(step.inner(), bench, names);
            if (step instanceof Step.Call call) {
                bench.kept(call.caseReference()).captures().stream()
                        .peek(Passage::refuseList)
                        .map(Capture::name)
                        .forEach(names::add);
            } else if (step instanceof Step.RunSuite run) {
                names.addAll(run.values().keySet());
                named(bench.suite(run.suite()).steps(), bench, names);
            } else if (step instanceof Step.ForEach each) {
                each.table().ifPresent(t -> t.variables().stream().limit(1).forEach(row -> names.addAll(row.keySet())));
            }
        });
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
    private record Maker(LoadStep.Readying readying, Scope variables, List<LoadStep> steps, List<String> groups) {
        Legs into(List<Leg> legs) {
            return new Legs(this, legs);
        }
    }

    /**
     * The legs of steps in their order; what has no meaning under load is refused.
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
                throw refused(step, "has known values", "Switch it off, or give the plan their table as its rows.");
            }
            LoadStep ready = maker.readying().step(maker.steps().size(), step);
            maker.steps().add(ready);
            legs.add(new Leg.Send(ready));
            return null;
        }

        @Override
        public Void group(Step.Group step) {
            if (step.on()) {
                timed(step.name(), () -> all(step.inner()));
            }
            return null;
        }

        private void all(List<Step> steps) {
            steps.forEach(s -> s.accept(this));
        }

        private void timed(String name, Runnable within) {
            int row = maker.groups().size();
            maker.groups().add(name);
            legs.add(new Leg.Edge(row, true));
            within.run();
            legs.add(new Leg.Edge(row, false));
        }

        private Asking asking(String condition) {
            return new Asking(condition, maker.variables());
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
            if (step.on()) {
                timed(step.name(), () -> {
                    int from = legs.size();
                    legs.add(new Leg.Round());
                    all(step.inner());
                    legs.add(new Leg.Again(
                            asking(step.condition()), from, step.times(), step.everyMillis() * 1_000_000));
                });
            }
            return null;
        }

        /** The steps of the other suite; as of the one that runs it, set-up and clean-up are left out. */
        @Override
        public Void suite(Step.RunSuite step) {
            if (step.on()) {
                int given = legs.size();
                if (!step.values().isEmpty()) {
                    legs.add(new Leg.Give(step.values(), maker.variables()));
                }
                all(maker.readying().bench().suite(step.suite()).steps());
                if (!step.values().isEmpty()) {
                    legs.add(new Leg.TakeBack(given));
                }
            }
            return null;
        }

        @Override
        public Void choose(Step.Choose step) {
            if (step.on()) {
                int unless = legs.size();
                legs.add(new Leg.Jump(unless));
                inner(step.then());
                int jump = legs.size();
                legs.add(new Leg.Jump(jump));
                legs.set(unless, new Leg.Unless(asking(step.condition()), legs.size()));
                inner(step.otherwise());
                legs.set(jump, new Leg.Jump(legs.size()));
            }
            return null;
        }

        private void inner(Step.Group group) {
            if (group.on()) {
                all(group.inner());
            }
        }

        @Override
        public Void forEach(Step.ForEach step) {
            if (!step.on()) {
                return null;
            }
            if (step.table().isEmpty()) {
                throw refused(step, "is run for nodes of an answer", "Switch it off, or give it a table.");
            }
            int from = legs.size();
            legs.add(new Leg.Jump(from));
            all(step.inner());
            legs.add(new Leg.Jump(from));
            legs.set(from, new Leg.Rows(step.table().get().variables(), legs.size()));
            return null;
        }

        private static Problem refused(Step step, String what, String advice) {
            return Problem.input("Under load the step “" + step.name() + "” cannot be run: it " + what, null, advice);
        }
    }
}
