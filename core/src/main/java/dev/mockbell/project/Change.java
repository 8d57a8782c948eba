package dev.mockbell.project;

import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Something of a project that became another, with all that is needed to write it. A later change with the same key takes
 * the place of an earlier one.
 *
 * @param part what it is now; what it was, when it is gone
 * @param gone whether it is not there any more
 * @param writing writes it
 */
public record Change(Part part, boolean gone, Writing writing) {
    private static final Kind<Case> CASES =
            new Kind<>(Case::reference, Part::of, ProjectStore::saveCase, ProjectStore::deleteCase);
    private static final Kind<Suite> SUITES =
            new Kind<>(Suite::id, Part::of, ProjectStore::saveSuite, ProjectStore::deleteSuite);
    private static final Kind<MockPlan> MOCKS =
            new Kind<>(MockPlan::contract, Part::of, ProjectStore::saveMock, ProjectStore::deleteMock);
    private static final Kind<LoadPlan> LOADS =
            new Kind<>(LoadPlan::id, Part::of, ProjectStore::saveLoad, ProjectStore::deleteLoad);
    private static final Kind<KeptTap> TAPS =
            new Kind<>(KeptTap::id, Part::of, ProjectStore::saveTap, ProjectStore::deleteTap);

    /** Writes a change. */
    @FunctionalInterface
    public interface Writing {
        /** @throws dev.mockbell.problem.Problem when it cannot be written; the file is as it was then */
        void write(ProjectStore store, Path project);
    }

    /** Saves or deletes a part of a project. */
    @FunctionalInterface
    private interface Act<T> {
        void on(ProjectStore store, Path project, T part);
    }

    /** A kind of parts that lie in files of their own. */
    private record Kind<T>(Function<T, String> name, Function<T, Part> part, Act<T> save, Act<T> delete) {
        Change made(T is) {
            return new Change(part.apply(is), false, (store, project) -> save.on(store, project, is));
        }

        Change gone(T was) {
            return new Change(part.apply(was), true, (store, project) -> delete.on(store, project, was));
        }

        void compare(List<T> before, List<T> after, List<Change> made, List<Change> gone) {
            if (before == after) {
                return;
            }
            Map<String, T> was = named(before);
            Map<String, T> is = named(after);
            is.forEach((key, value) -> {
                T old = was.get(key);
                if (old != value && !value.equals(old)) {
                    made.add(made(value));
                }
            });
            was.forEach((key, value) -> {
                if (!is.containsKey(key)) {
                    gone.add(gone(value));
                }
            });
        }

        private Map<String, T> named(List<T> list) {
            return list.stream().collect(Collectors.toMap(name, Function.identity(), (a, b) -> b, LinkedHashMap::new));
        }
    }

    /** What it is a change of. */
    public String key() {
        return part.key();
    }

    /** Name, environments, variables, order of cases. */
    static Change of(Settings settings) {
        return new Change(
                Part.of(settings), false, (store, project) -> store.saveSettings(Project.of(project, settings)));
    }

    /** A case that is new or another. */
    static Change of(Case kept) {
        return CASES.made(kept);
    }

    /** A case that is gone. */
    static Change without(Case kept) {
        return CASES.gone(kept);
    }

    /** A suite that is new or another. */
    static Change of(Suite suite) {
        return SUITES.made(suite);
    }

    /** A mock that is new or another. */
    static Change of(MockPlan plan) {
        return MOCKS.made(plan);
    }

    /** A load plan that is new or another. */
    static Change of(LoadPlan plan) {
        return LOADS.made(plan);
    }

    /**
     * What is another in a project than it was before; what is new comes before what is gone, so that something which moves
     * is there at every moment. Contracts are not among it: their documents are written when they are read.
     */
    public static List<Change> between(Project before, Project after) {
        List<Change> made = new ArrayList<>();
        List<Change> gone = new ArrayList<>();
        CASES.compare(before.cases(), after.cases(), made, gone);
        SUITES.compare(before.suites(), after.suites(), made, gone);
        MOCKS.compare(before.mocks(), after.mocks(), made, gone);
        LOADS.compare(before.loads(), after.loads(), made, gone);
        TAPS.compare(before.taps(), after.taps(), made, gone);
        if (!before.settings().equals(after.settings())) {
            made.add(of(after.settings()));
        }
        made.addAll(gone);
        return List.copyOf(made);
    }

    /**
     * Writes it.
     *
     * @throws dev.mockbell.problem.Problem when it cannot be written; the file is as it was then
     */
    void write(ProjectStore store, Path project) {
        writing.write(store, project);
    }
}
