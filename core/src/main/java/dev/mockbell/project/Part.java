package dev.mockbell.project;

import dev.mockbell.load.LoadPlan;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * What of a project lies in a file of its own, with what belongs to that.
 *
 * @param key names it among all parts: its kind and its name
 * @param title for people
 * @param value the part itself
 * @param place gives its file
 */
public record Part(String key, String title, Object value, Place place) {
    /** Where the file of a part is. */
    @FunctionalInterface
    interface Place {
        Path in(ProjectFolder folder);
    }

    static Part of(Settings settings) {
        return new Part("settings", "The project's settings", settings, ProjectFolder::settings);
    }

    static Part of(Case kept) {
        return new Part("case " + kept.reference(), "The case “" + kept.title() + "”", kept, f -> f.caseFile(kept));
    }

    static Part of(Suite suite) {
        return new Part("suite " + suite.id(), "The suite “" + suite.title() + "”", suite, f -> f.suite(suite.id()));
    }

    static Part of(MockPlan plan) {
        return new Part(
                "mock " + plan.contract(), "The mock of " + plan.contract(), plan, f -> f.mock(plan.contract()));
    }

    static Part of(LoadPlan plan) {
        return new Part("load " + plan.id(), "The load plan “" + plan.title() + "”", plan, f -> f.load(plan.id()));
    }

    static Part of(KeptTap tap) {
        return new Part("tap " + tap.id(), "The tap “" + tap.id() + "”", tap, f -> f.tap(tap.id()));
    }

    /** Every part of a project, by its key. */
    public static Map<String, Part> all(Project project) {
        Map<String, Part> all = new LinkedHashMap<>();
        if (project.settings().known()) {
            add(all, of(project.settings()));
        }
        project.cases().forEach(c -> add(all, of(c)));
        project.suites().forEach(s -> add(all, of(s)));
        project.mocks().forEach(m -> add(all, of(m)));
        project.loads().forEach(l -> add(all, of(l)));
        project.taps().forEach(t -> add(all, of(t)));
        return all;
    }

    private static void add(Map<String, Part> all, Part part) {
        all.put(part.key(), part);
    }

    /** The part of a project under a key. */
    public static Optional<Part> in(Project project, String key) {
        return Optional.ofNullable(all(project).get(key));
    }

    /** Two are the same where their values are: where one lies follows from that. */
    @Override
    public boolean equals(Object other) {
        return other instanceof Part part && key.equals(part.key) && value.equals(part.value);
    }

    @Override
    public int hashCode() {
        return key.hashCode();
    }

    /** A project with this part in place of the one of its key, or one more. */
    public Project into(Project project) {
        if (value instanceof Settings settings) {
            return project.with(settings);
        }
        if (value instanceof Case kept) {
            return project.withCase(kept);
        }
        if (value instanceof Suite suite) {
            return project.withSuite(suite);
        }
        if (value instanceof MockPlan plan) {
            return project.withMock(plan);
        }
        if (value instanceof LoadPlan plan) {
            return project.withLoad(plan);
        }
        return project.withTap((KeptTap) value);
    }

    /** A project without it; the settings are always there. */
    public Project outOf(Project project) {
        if (value instanceof Case kept) {
            return project.withoutCase(kept.reference());
        }
        if (value instanceof Suite suite) {
            return project.withoutSuite(suite.id());
        }
        if (value instanceof MockPlan plan) {
            return project.withoutMock(plan.contract());
        }
        if (value instanceof LoadPlan plan) {
            return project.withoutLoad(plan.id());
        }
        return value instanceof KeptTap tap ? project.withoutTap(tap.id()) : project;
    }
}
