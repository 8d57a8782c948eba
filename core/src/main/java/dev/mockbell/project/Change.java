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
 * @param key what it is a change of
 * @param gone whether it is not there any more
 * @param writing writes it
 */
public record Change(String key, boolean gone, Writing writing) {
    private static final Kind<Case> CASES =
            new Kind<>("case", Case::reference, ProjectStore::saveCase, ProjectStore::deleteCase);
    private static final Kind<Suite> SUITES =
            new Kind<>("suite", Suite::id, ProjectStore::saveSuite, ProjectStore::deleteSuite);
    private static final Kind<MockPlan> MOCKS =
            new Kind<>("mock", MockPlan::contract, ProjectStore::saveMock, ProjectStore::deleteMock);
    private static final Kind<LoadPlan> LOADS =
            new Kind<>("load", LoadPlan::id, ProjectStore::saveLoad, ProjectStore::deleteLoad);

    private static final Kind<KeptTap> TAPS =
            new Kind<>("tap", KeptTap::id, ProjectStore::saveTap, ProjectStore::deleteTap);

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
    private record Kind<T>(String word, Function<T, String> name, Act<T> save, Act<T> delete) {
        private String key(T part) {
            return word + " " + name.apply(part);
        }

        Change made(T part) {
            return new Change(key(part), false, (store, project) -> save.on(store, project, part));
        }

        Change gone(T part) {
            return new Change(key(part), true, (store, project) -> delete.on(store, project, part));
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

    /** Name, environments, variables, order of cases. */
    static Change of(Settings settings) {
        return new Change("settings", false, (store, project) -> store.saveSettings(Project.of(project, settings)));
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
