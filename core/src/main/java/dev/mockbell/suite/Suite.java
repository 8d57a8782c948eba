package dev.mockbell.suite;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.stream.Stream;

/**
 * Steps in their order.
 *
 * @param setUp what is done before; when it fails the steps are not run
 * @param cleanUp what is done at the end, whatever came before
 */
public record Suite(String id, String title, List<Step> setUp, List<Step> steps, List<Step> cleanUp) {
    public Suite {
        setUp = List.copyOf(setUp);
        steps = List.copyOf(steps);
        cleanUp = List.copyOf(cleanUp);
    }

    /** One without set-up and clean-up. */
    public Suite(String id, String title, List<Step> steps) {
        this(id, title, List.of(), steps, List.of());
    }

    public Suite titled(String other) {
        return new Suite(id, other, setUp, steps, cleanUp);
    }

    /** A copy under another name, whose tables of known values lie in files of their own. */
    public Suite copied(String otherId, String otherTitle) {
        Suite copy = new Suite(otherId, otherTitle, setUp, steps, cleanUp);
        List<StepPath> paths = new ArrayList<>();
        copy.each((path, step) -> {
            boolean readable = step instanceof Step.Call call
                    && call.known().filter(k -> k.table().trouble().isEmpty()).isPresent();
            if (readable) {
                paths.add(path);
            }
        });
        int number = 0;
        for (StepPath path : paths) {
            number++;
            String file = otherId + "-" + number + ".csv";
            if (copy.at(path).orElseThrow() instanceof Step.Call call) {
                Step own = call.with(call.known().map(k -> k.with(k.table().in(file))));
                copy = copy.replacing(path, List.of(own));
            }
        }
        return copy;
    }

    public Suite withSteps(List<Step> list) {
        return new Suite(id, title, setUp, list, cleanUp);
    }

    /** The steps of a part. */
    public List<Step> part(StepPath.Part part) {
        return switch (part) {
            case SET_UP -> setUp;
            case STEPS -> steps;
            case CLEAN_UP -> cleanUp;
        };
    }

    /** With other steps in a part. */
    public Suite with(StepPath.Part part, List<Step> list) {
        return switch (part) {
            case SET_UP -> new Suite(id, title, list, steps, cleanUp);
            case STEPS -> new Suite(id, title, setUp, list, cleanUp);
            case CLEAN_UP -> new Suite(id, title, setUp, steps, list);
        };
    }

    /** The step at a path; empty when there is none. */
    public Optional<Step> at(StepPath path) {
        List<Step> list = part(path.part());
        Step found = null;
        for (int index : path.at()) {
            if (index < 0 || index >= list.size()) {
                return Optional.empty();
            }
            found = list.get(index);
            list = found.inner();
        }
        return Optional.ofNullable(found);
    }

    /** Every step with its path, those within others behind them. */
    public void each(BiConsumer<StepPath, Step> action) {
        for (StepPath.Part part : StepPath.Part.values()) {
            List<Step> list = part(part);
            for (int i = 0; i < list.size(); i++) {
                each(StepPath.of(part, i), list.get(i), action);
            }
        }
    }

    private static void each(StepPath path, Step step, BiConsumer<StepPath, Step> action) {
        action.accept(path, step);
        for (int i = 0; i < step.inner().size(); i++) {
            each(path.inner(i), step.inner().get(i), action);
        }
    }

    /** Every step, at whatever depth. */
    public Stream<Step> all() {
        return Stream.of(setUp, steps, cleanUp).flatMap(List::stream).flatMap(Step::all);
    }

    /** The suite with other steps where the one at a path stands: none, one, or several. */
    public Suite replacing(StepPath path, List<Step> by) {
        return with(path.part(), replacing(part(path.part()), path.at(), by, true));
    }

    /** The suite with a step put in before what stands at a path. */
    public Suite inserting(StepPath path, Step step) {
        return with(path.part(), replacing(part(path.part()), path.at(), List.of(step), false));
    }

    private static List<Step> replacing(List<Step> list, List<Integer> at, List<Step> by, boolean away) {
        List<Step> changed = new ArrayList<>(list);
        int index = at.get(0);
        if (at.size() > 1) {
            Step holder = changed.get(index);
            changed.set(index, holder.around(replacing(holder.inner(), at.subList(1, at.size()), by, away)));
            return changed;
        }
        if (away) {
            changed.remove(index);
        }
        changed.addAll(Math.min(index, changed.size()), by);
        return changed;
    }
}
