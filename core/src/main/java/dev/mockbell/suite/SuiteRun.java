package dev.mockbell.suite;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Verdict;
import dev.mockbell.exchange.Ties;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmValue;

/** One run of a suite under way: what was captured so far, what came last, and whether it goes on. */
final class SuiteRun {
    /** So often the steps of one for-each are run; each round is kept with its results. */
    private static final int MOST_NODES = 10_000;

    /** Rounds that are kept of a step that is repeated; the first of them, and beyond them the last. */
    private static final int MOST_ROUNDS = 1_000;

    private final SuiteRunner runner;
    private final Workbench bench;
    private final Expressions expressions;
    private final Clock clock;
    private final RunPlan plan;
    private final RunListener listener;
    private final Map<String, XdmValue> values = new HashMap<>();
    private final Deque<String> suites = new ArrayDeque<>();
    private long startedMillis;
    private StopSignal stop;
    private Optional<Answer> last = Optional.empty();
    private String ended = "";

    SuiteRun(
            SuiteRunner runner,
            Workbench bench,
            Expressions expressions,
            Clock clock,
            RunPlan plan,
            RunListener listener,
            StopSignal stop) {
        this.runner = runner;
        this.bench = bench;
        this.expressions = expressions;
        this.clock = clock;
        this.plan = plan;
        this.listener = RunListener.all(List.of(listener));
        this.stop = stop;
        plan.values().forEach((name, text) -> values.put(name, Scope.untyped(text)));
    }

    Run of(Suite suite) {
        Instant started = clock.instant();
        startedMillis = started.toEpochMilli();
        long from = System.nanoTime();
        listener.heard(new RunEvent.Started(started, suite, bench.environment()));
        suites.push(suite.id());
        // before the steps: what is edited meanwhile is not what they rest upon
        Map<StepPath, String> bases = bases(suite);
        Parts parts = parts(suite, true, "");
        Run run = new Run(
                suite.id(),
                suite.title(),
                bench.environment(),
                started,
                (System.nanoTime() - from) / 1e6,
                parts.setUp,
                parts.steps,
                parts.cleanUp,
                bases);
        listener.heard(new RunEvent.Finished(clock.instant(), run));
        return run;
    }

    private Map<StepPath, String> bases(Suite suite) {
        Function<Step, String> basis = bench.basis();
        Map<StepPath, String> all = new HashMap<>();
        suite.each((path, step) -> {
            String own = basis.apply(step);
            if (!own.isEmpty()) {
                all.put(path, own);
            }
        });
        return all;
    }

    private record Parts(List<StepResult> setUp, List<StepResult> steps, List<StepResult> cleanUp) {
        List<StepResult> all() {
            List<StepResult> all = new ArrayList<>(setUp);
            all.addAll(steps);
            all.addAll(cleanUp);
            return all;
        }
    }

    /** @param told whether its steps are those of the suite that listeners know */
    private Parts parts(Suite suite, boolean told, String round) {
        Map<StepPath, String> troubles = Preflight.of(suite, bench, expressions);
        Place top = new Place(suite, troubles, told, round);
        List<StepResult> setUp = steps(suite.setUp(), top, StepPath.Part.SET_UP);
        boolean ready = setUp.stream().noneMatch(r -> r.verdict() == Verdict.FAILED);
        String outer = ended;
        ended = ready || !ended.isEmpty() ? ended : "not come to, since the set-up failed";
        List<StepResult> steps = steps(suite.steps(), top, StepPath.Part.STEPS);
        // that is the suite's own affair; one that runs it goes on
        ended = ready ? ended : outer;
        StopSignal before = stop;
        String why = ended;
        // whatever happened, what is to be cleaned up is; the stop that ended the steps does not end that
        ended = "";
        stop = stop.isStopped() ? new StopSignal() : stop;
        List<StepResult> cleanUp = steps(suite.cleanUp(), top, StepPath.Part.CLEAN_UP);
        stop = before;
        ended = why;
        return new Parts(setUp, steps, cleanUp);
    }

    /**
     * Where steps are run.
     *
     * @param round which rows and rounds of the steps around
     */
    private record Place(Suite suite, Map<StepPath, String> troubles, boolean told, String round) {
        Place in(String inner) {
            return new Place(suite, troubles, told, round.isEmpty() ? inner : round + " · " + inner);
        }
    }

    private List<StepResult> steps(List<Step> list, Place place, StepPath.Part part) {
        List<StepResult> results = new ArrayList<>();
        for (int i = 0; i < list.size(); i++) {
            results.add(step(list.get(i), place, StepPath.of(part, i)));
        }
        return results;
    }

    private List<StepResult> inner(Step step, Place place, StepPath path) {
        List<StepResult> results = new ArrayList<>();
        for (int i = 0; i < step.inner().size(); i++) {
            results.add(step(step.inner().get(i), place, path.inner(i)));
        }
        return results;
    }

    private StepResult step(Step step, Place place, StepPath path) {
        StepResult result;
        if (!step.on()) {
            result = off(step, "switched off");
        } else if (place.told() && !plan.runs(path)) {
            result = off(step, "not part of this run");
        } else if (stop.isStopped()) {
            result = notRun(step, "stopped before it");
        } else if (!ended.isEmpty()) {
            result = notRun(step, ended);
        } else {
            if (place.told()) {
                listener.heard(new RunEvent.StepStarted(clock.instant(), path, place.round(), step.name()));
            }
            result = run(step, place, path);
            if (result.verdict() == Verdict.FAILED && plan.failFast() && ended.isEmpty()) {
                ended = "not come to, since “" + step.name() + "” failed";
            }
        }
        if (place.told()) {
            listener.heard(new RunEvent.StepFinished(clock.instant(), path, place.round(), result));
        }
        return result;
    }

    private static StepResult off(Step step, String why) {
        List<StepResult> inner = step.inner().stream().map(s -> off(s, why)).toList();
        return new StepResult(step.name(), Verdict.OFF, 0, 0, List.of(), Map.of(), why, inner, false);
    }

    private static StepResult notRun(Step step, String why) {
        List<StepResult> inner = step.inner().stream().map(s -> notRun(s, why)).toList();
        return new StepResult(step.name(), Verdict.NOT_RUN, 0, 0, List.of(), Map.of(), why, inner, false);
    }

    private StepResult run(Step step, Place place, StepPath path) {
        String trouble = place.troubles().get(path);
        if (trouble != null) {
            return StepResult.failed(step.name(), trouble);
        }
        try {
            return step.accept(new Running(place, path));
        } catch (Problem problem) {
            return problem.kind() == Problem.Kind.STOPPED
                    ? StepResult.notRun(step.name(), "stopped in it")
                    : StepResult.failed(step.name(), problem.getMessage());
        }
    }

    /** What expressions of the suite itself see: variables, and the last answer. */
    private Scope scope() {
        Scope scope = bench.variables().withValues(values).until(stop);
        return last.map(a -> runner.checker().scope(a, scope)).orElse(scope);
    }

    /** Waits, unless a stop comes. */
    private void pause(long millis) {
        CountDownLatch woken = new CountDownLatch(1);
        stop.onStop(woken::countDown);
        try {
            if (woken.await(millis, TimeUnit.MILLISECONDS)) {
                throw Problem.stopped();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        }
    }

    private static double since(long from) {
        return (System.nanoTime() - from) / 1e6;
    }

    /** Runs each kind of step. */
    private final class Running implements Step.Visitor<StepResult> {
        private final Place place;
        private final StepPath path;

        Running(Place place, StepPath path) {
            this.place = place;
            this.path = path;
        }

        @Override
        public StepResult call(Step.Call step) {
            Case kept = bench.kept(step.caseReference());
            if (step.known().isEmpty()) {
                return called(step, kept, step.name(), Map.of(), place);
            }
            KnownValues known = step.known().get();
            MessageOutline outline = outline(kept);
            long from = System.nanoTime();
            List<StepResult> rows = new ArrayList<>();
            for (int i = 0; i < known.table().rows().size(); i++) {
                String name = known.rowName(i);
                StepResult row = row(step, kept, known, i, outline, place.in(name));
                rows.add(row);
                if (place.told()) {
                    listener.heard(new RunEvent.RowFinished(
                            clock.instant(), path, place.in(name).round(), row));
                }
            }
            return StepResult.holding(step.name(), since(from), rows, true);
        }

        private MessageOutline outline(Case kept) {
            var contract = bench.contract(kept.contract());
            return MessageOutline.ofRequest(contract, kept.in(contract).operation());
        }

        private StepResult row(
                Step.Call step, Case kept, KnownValues known, int row, MessageOutline outline, Place in) {
            String name = known.rowName(row);
            if (stop.isStopped()) {
                return StepResult.notRun(name, "stopped before it");
            }
            if (!ended.isEmpty()) {
                return StepResult.notRun(name, ended);
            }
            try {
                return called(step, known.applied(kept, row, outline), name, known.variables(row), in);
            } catch (Problem problem) {
                return StepResult.failed(name, problem.getMessage());
            }
        }

        private StepResult called(Step.Call step, Case kept, String name, Map<String, String> own, Place in) {
            Scope scope = bench.variables(kept).withValues(values).with(own).until(stop);
            SuiteRunner.Called called = runner.call(
                    kept,
                    name,
                    place.suite().title() + " · " + step.name(),
                    Optional.of(new Ties("", "suite " + suites.getLast() + " " + startedMillis + " " + path.text())),
                    scope,
                    stop,
                    answer -> {});
            values.putAll(called.captured());
            last = Optional.of(called.answer());
            if (place.told()) {
                listener.heard(new RunEvent.Called(
                        clock.instant(), path, in.round(), called.answer().exchange()));
            }
            if (called.stops()) {
                ended = "not come to, since “" + step.name() + "” failed where a failure ends the run";
            }
            return called.result();
        }

        @Override
        public StepResult pause(Step.Pause step) {
            long from = System.nanoTime();
            SuiteRun.this.pause(step.millis());
            return StepResult.holding(step.name(), since(from), List.of(), false);
        }

        @Override
        public StepResult group(Step.Group step) {
            long from = System.nanoTime();
            return StepResult.holding(step.name(), since(from), inner(step, place, path), false)
                    .after(since(from));
        }

        @Override
        public StepResult until(Step.Until step) {
            long from = System.nanoTime();
            List<StepResult> rounds = new ArrayList<>();
            String why = "";
            for (int i = 1; i <= step.times(); i++) {
                long begun = System.nanoTime();
                String name = "round " + i;
                StepResult round = StepResult.holding(name, 0, inner(step, place.in(name), path), false)
                        .after(since(begun));
                if (rounds.size() >= MOST_ROUNDS) {
                    rounds.remove(rounds.size() - 1);
                }
                rounds.add(round);
                if (stop.isStopped()) {
                    return repeated(step, from, rounds, Verdict.NOT_RUN, "stopped in it");
                }
                try {
                    if (expressions.holds(step.condition(), scope())) {
                        return repeated(step, from, rounds, round.verdict(), "");
                    }
                    why = "";
                } catch (Problem problem) {
                    why = ": " + problem.getMessage();
                }
                if (!ended.isEmpty()) {
                    return repeated(step, from, rounds, Verdict.FAILED, "");
                }
                if (i < step.times()) {
                    SuiteRun.this.pause(Math.max(0, step.everyMillis() - (long) since(begun)));
                }
            }
            String times = step.times() == 1 ? "once" : step.times() + " times";
            return repeated(
                    step,
                    from,
                    rounds,
                    Verdict.FAILED,
                    "“" + step.condition() + "” did not hold, tried " + times + why);
        }

        private StepResult repeated(Step step, long from, List<StepResult> rounds, Verdict verdict, String why) {
            return new StepResult(
                    step.name(), verdict, since(from), 0, List.of(), Map.of(), why, List.copyOf(rounds), true);
        }

        @Override
        public StepResult suite(Step.RunSuite step) {
            Suite other = bench.suite(step.suite());
            if (suites.contains(other.id())) {
                throw Problem.input("The suites run each other", other.title(), "Take one of the steps out.");
            }
            Map<String, XdmValue> given = new HashMap<>();
            step.values().forEach((name, text) -> given.put(name, Scope.untyped(expressions.fill(text, scope()))));
            Map<String, XdmValue> before = new HashMap<>(values);
            values.putAll(given);
            suites.push(other.id());
            long from = System.nanoTime();
            List<StepResult> results =
                    parts(other, false, place.in(step.name()).round()).all();
            suites.pop();
            given.keySet().forEach(name -> {
                if (values.get(name) == given.get(name)) {
                    XdmValue was = before.get(name);
                    values.compute(name, (n, v) -> was);
                }
            });
            return StepResult.holding(step.name(), since(from), results, false);
        }

        @Override
        public StepResult choose(Step.Choose step) {
            boolean holds = expressions.holds(step.condition(), scope());
            long from = System.nanoTime();
            String why = "“" + step.condition() + "” " + (holds ? "holds" : "does not hold");
            StepResult then = holds ? SuiteRun.this.step(step.then(), place, path.inner(0)) : off(step.then(), why);
            StepResult otherwise =
                    holds ? off(step.otherwise(), why) : SuiteRun.this.step(step.otherwise(), place, path.inner(1));
            StepResult both = StepResult.holding(step.name(), since(from), List.of(then, otherwise), false);
            // nothing to do for a condition that does not hold is as it should be
            return both.verdict() == Verdict.OFF ? both.with(Verdict.PASSED, "") : both;
        }

        @Override
        public StepResult forEach(Step.ForEach step) {
            long from = System.nanoTime();
            List<StepResult> rounds = new ArrayList<>();
            if (step.table().isPresent()) {
                DataTable table = step.table().get();
                for (int i = 0; i < table.rows().size(); i++) {
                    table.variables(i).forEach((name, text) -> values.put(name, Scope.untyped(text)));
                    rounds.add(round(step, "row " + (i + 1)));
                }
            } else {
                XdmValue nodes = expressions.evaluate(step.nodes(), scope());
                if (nodes.size() > MOST_NODES) {
                    return StepResult.failed(
                            step.name(),
                            "There are " + nodes.size() + " at " + step.nodes() + ", and the steps are run for at most "
                                    + MOST_NODES + ". Take a path that gives fewer, such as (" + step.nodes()
                                    + ")[position() le " + MOST_NODES + "].");
                }
                int number = 0;
                for (XdmItem item : nodes) {
                    values.put(step.variable(), item);
                    rounds.add(round(step, "number " + ++number));
                }
                if (rounds.isEmpty()) {
                    return StepResult.failed(
                            step.name(), "There is nothing at " + step.nodes() + " to run the steps for.");
                }
            }
            return StepResult.holding(step.name(), since(from), rounds, true);
        }

        private StepResult round(Step step, String name) {
            long from = System.nanoTime();
            return StepResult.holding(name, 0, inner(step, place.in(name), path), false)
                    .after(since(from));
        }
    }
}
