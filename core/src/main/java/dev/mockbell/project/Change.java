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
 */
public sealed interface Change {
    /** What it is a change of. */
    String key();

    /**
     * Writes it.
     *
     * @throws dev.mockbell.problem.Problem when it cannot be written; the file is as it was then
     */
    void write(ProjectStore store, Path project);

    /** Name, environments, variables, order of cases. */
    record OfSettings(Settings settings) implements Change {
        @Override
        public String key() {
            return "settings";
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.saveSettings(Project.of(project, settings));
        }
    }

    /** A case that is new or another. */
    record OfCase(Case kept) implements Change {
        @Override
        public String key() {
            return "case " + kept.reference();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.saveCase(project, kept);
        }
    }

    /** A case that is gone. */
    record NoCase(Case kept) implements Change {
        @Override
        public String key() {
            return "case " + kept.reference();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.deleteCase(project, kept);
        }
    }

    /** A suite that is new or another. */
    record OfSuite(Suite suite) implements Change {
        @Override
        public String key() {
            return "suite " + suite.id();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.saveSuite(project, suite);
        }
    }

    /** A suite that is gone. */
    record NoSuite(Suite suite) implements Change {
        @Override
        public String key() {
            return "suite " + suite.id();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.deleteSuite(project, suite);
        }
    }

    /** A mock that is new or another. */
    record OfMock(MockPlan plan) implements Change {
        @Override
        public String key() {
            return "mock " + plan.contract();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.saveMock(project, plan);
        }
    }

    /** A mock that is gone. */
    record NoMock(MockPlan plan) implements Change {
        @Override
        public String key() {
            return "mock " + plan.contract();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.deleteMock(project, plan);
        }
    }

    /** A load plan that is new or another. */
    record OfLoad(LoadPlan plan) implements Change {
        @Override
        public String key() {
            return "load " + plan.id();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.saveLoad(project, plan);
        }
    }

    /** A load plan that is gone. */
    record NoLoad(LoadPlan plan) implements Change {
        @Override
        public String key() {
            return "load " + plan.id();
        }

        @Override
        public void write(ProjectStore store, Path project) {
            store.deleteLoad(project, plan);
        }
    }

    /**
     * What is another in a project than it was before; what is new comes before what is gone, so that something which moves
     * is there at every moment. Contracts are not among it: their documents are written when they are read.
     */
    static List<Change> between(Project before, Project after) {
        List<Change> made = new ArrayList<>();
        List<Change> gone = new ArrayList<>();
        compare(before.cases(), after.cases(), Case::reference, OfCase::new, NoCase::new, made, gone);
        compare(before.suites(), after.suites(), Suite::id, OfSuite::new, NoSuite::new, made, gone);
        compare(before.mocks(), after.mocks(), MockPlan::contract, OfMock::new, NoMock::new, made, gone);
        compare(before.loads(), after.loads(), LoadPlan::id, OfLoad::new, NoLoad::new, made, gone);
        if (!before.settings().equals(after.settings())) {
            made.add(new OfSettings(after.settings()));
        }
        made.addAll(gone);
        return List.copyOf(made);
    }

    private static <T> void compare(
            List<T> before,
            List<T> after,
            Function<T, String> name,
            Function<T, Change> other,
            Function<T, Change> none,
            List<Change> made,
            List<Change> gone) {
        if (before == after) {
            return;
        }
        Map<String, T> was = named(before, name);
        Map<String, T> is = named(after, name);
        is.forEach((key, value) -> {
            T old = was.get(key);
            if (old != value && !value.equals(old)) {
                made.add(other.apply(value));
            }
        });
        was.forEach((key, value) -> {
            if (!is.containsKey(key)) {
                gone.add(none.apply(value));
            }
        });
    }

    private static <T> Map<String, T> named(List<T> list, Function<T, String> name) {
        return list.stream().collect(Collectors.toMap(name, Function.identity(), (a, b) -> b, LinkedHashMap::new));
    }
}
