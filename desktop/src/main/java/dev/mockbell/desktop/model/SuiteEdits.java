package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import dev.mockbell.project.Names;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.Suite;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** What can be done to the steps of the suite that is looked at. Each change can be undone, in turn. */
public final class SuiteEdits {
    private static final int MOST_KEPT = 200;

    private final CheckModel model;
    private final Desk desk;
    private final Deque<Suite> before = new ArrayDeque<>();
    private final Deque<Suite> after = new ArrayDeque<>();

    SuiteEdits(CheckModel model, Desk desk) {
        this.model = model;
        this.desk = desk;
    }

    void forget() {
        before.clear();
        after.clear();
    }

    /** Changes the suite, so that it can be undone. */
    public void change(UnaryOperator<Suite> change) {
        Suite was = model.suiteProperty().get();
        if (was == null) {
            return;
        }
        Suite now = change.apply(was);
        if (!now.equals(was)) {
            before.push(was);
            if (before.size() > MOST_KEPT) {
                before.removeLast();
            }
            after.clear();
            desk.steps().edited();
            model.keep(now);
        }
    }

    /** Takes the last change back; false when there is none. */
    public boolean undo() {
        return turn(before, after);
    }

    /** Makes again what was taken back last; false when there is none. */
    public boolean redo() {
        return turn(after, before);
    }

    private boolean turn(Deque<Suite> from, Deque<Suite> to) {
        if (from.isEmpty()) {
            return false;
        }
        to.push(model.suiteProperty().get());
        model.keep(from.pop());
        return true;
    }

    /** Adds a step: into the chosen one where that holds others, else behind it; where none is chosen, at the end. */
    public void add(Step step) {
        if (model.suiteProperty().get() == null) {
            model.add("Suite");
        }
        Suite suite = model.suiteProperty().get();
        Optional<StepPath> chosen = model.chosen();
        StepPath at = chosen.map(c -> suite.at(c).filter(Step::holds).isPresent()
                        ? c.inner(suite.at(c).get().inner().size())
                        : behind(c))
                .orElse(StepPath.of(StepPath.Part.STEPS, suite.steps().size()));
        change(s -> s.inserting(at, step));
        model.pathProperty().set(at);
    }

    /** Adds a step at the end of a part of the suite. */
    public void add(StepPath.Part part, Step step) {
        Suite suite = model.suiteProperty().get();
        StepPath at = StepPath.of(part, suite.part(part).size());
        change(s -> s.inserting(at, step));
        model.pathProperty().set(at);
    }

    /** Adds the call of a case at the end of the steps. */
    public void addCase(Case kept) {
        if (model.suiteProperty().get() == null) {
            model.add("Suite");
        }
        add(StepPath.Part.STEPS, Step.call(kept.title(), kept.reference()));
    }

    private static StepPath behind(StepPath path) {
        return beside(path, path.last() + 1);
    }

    private static StepPath beside(StepPath path, int index) {
        List<Integer> at = new ArrayList<>(path.at());
        at.set(at.size() - 1, index);
        return new StepPath(path.part(), at);
    }

    private Optional<Step> at(StepPath path) {
        return Optional.ofNullable(model.suiteProperty().get()).flatMap(s -> s.at(path));
    }

    /** Takes a step out; it can be put back. */
    public void remove(StepPath path) {
        at(path).filter(s -> !isSide(path)).ifPresent(step -> {
            Suite was = model.suiteProperty().get();
            change(s -> s.replacing(path, List.of()));
            desk.tell(new Notice(
                    "Took “" + step.name() + "” out of the suite.",
                    false,
                    Optional.of(new Notice.Action("Put it back", () -> change(s -> was)))));
        });
    }

    /** The two sides of a choice keep their places. */
    private boolean isSide(StepPath path) {
        List<Integer> at = path.at();
        return at.size() > 1
                && at(new StepPath(path.part(), at.subList(0, at.size() - 1)))
                        .filter(Step.Choose.class::isInstance)
                        .isPresent();
    }

    /** Moves a step among its like. */
    public void move(StepPath path, int by) {
        int to = path.last() + by;
        StepPath target = beside(path, Math.max(to, 0));
        if (to >= 0 && at(target).isPresent() && !isSide(path)) {
            Step step = at(path).orElseThrow();
            change(s -> s.replacing(path, List.of()).inserting(target, step));
            model.pathProperty().set(target);
        }
    }

    /**
     * Moves a step to where another stands: before it, or into it at its end where it holds steps.
     *
     * @param into whether into it
     */
    public void moveTo(StepPath path, StepPath target, boolean into) {
        Optional<Step> step = at(path);
        if (step.isEmpty() || path.holds(target) || isSide(path) || !into && isSide(target)) {
            return;
        }
        StepPath place =
                into ? target.inner(at(target).map(s -> s.inner().size()).orElse(0)) : target;
        // a mark stands in its place, so that taking it out does not move what it is put before
        Step mark = new Step.Pause("\u0000moved", true, 0);
        change(s -> {
            Suite marked = s.replacing(path, List.of(mark));
            Suite with = marked.inserting(place, step.get());
            return without(with, mark);
        });
    }

    private static Suite without(Suite suite, Step mark) {
        List<StepPath> found = new ArrayList<>();
        suite.each((path, step) -> {
            if (step.equals(mark)) {
                found.add(path);
            }
        });
        return found.isEmpty() ? suite : suite.replacing(found.get(0), List.of());
    }

    /** A copy behind it. */
    public void duplicate(StepPath path) {
        at(path).filter(s -> !isSide(path)).ifPresent(step -> {
            change(s -> s.inserting(behind(path), step.named(step.name() + " again")));
            model.pathProperty().set(behind(path));
        });
    }

    /** Switches a step off, or on again. */
    public void switched(StepPath path) {
        at(path).ifPresent(step -> replace(path, step.switched(!step.on())));
    }

    public void rename(StepPath path, String name) {
        at(path).ifPresent(step -> replace(path, step.named(name)));
    }

    /** Lets a step take the place of another. */
    public void replace(StepPath path, Step by) {
        change(s -> s.replacing(path, List.of(by)));
    }

    /** Puts a step into a group of its own. */
    public void group(StepPath path, String name) {
        at(path).filter(s -> !isSide(path)).ifPresent(step -> replace(path, new Step.Group(name, true, List.of(step))));
    }

    /** Changes the known values of a step. */
    public void known(StepPath path, UnaryOperator<KnownValues> change) {
        if (at(path).orElse(null) instanceof Step.Call call && call.known().isPresent()) {
            replace(path, call.with(call.known().map(change)));
        }
    }

    /** Gives a step a table of known values, from cells whose first row names the columns. */
    public void knownOf(StepPath path, String text) {
        if (!(at(path).orElse(null) instanceof Step.Call call)) {
            return;
        }
        try {
            Suite suite = model.suiteProperty().get();
            String file = call.known().map(k -> k.table().file()).orElseGet(() -> freeFile(suite, call.name()));
            DataTable table = DataTable.parse(file, text);
            KnownValues known = call.known().map(k -> k.with(table)).orElseGet(() -> new KnownValues(table, List.of()));
            replace(path, call.with(Optional.of(known)));
        } catch (Problem problem) {
            desk.tell(problem);
        }
    }

    private static String freeFile(Suite suite, String name) {
        List<String> taken = suite.all()
                .flatMap(s -> s instanceof Step.Call c && c.known().isPresent()
                        ? List.of(c.known().get().table().file()).stream()
                        : List.<String>of().stream())
                .toList();
        return suite.id() + "-" + Names.free(name, n -> taken.contains(suite.id() + "-" + n + ".csv")) + ".csv";
    }

    /** Takes the table of known values away; its file stays. */
    public void dropKnown(StepPath path) {
        if (at(path).orElse(null) instanceof Step.Call call) {
            replace(path, call.with(Optional.empty()));
        }
    }

    /** The values of variables that earlier steps gave, as of the newest run. */
    Map<String, String> given() {
        return model.runs().isEmpty()
                ? Map.of()
                : model.runs().get(0).given(model.suiteProperty().get(), desk.project()::kept);
    }
}
