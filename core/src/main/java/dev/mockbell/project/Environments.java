package dev.mockbell.project;

import dev.mockbell.contract.Port;
import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/** The environments of a project beside each other: what each has of values, addresses and security profiles. */
public final class Environments {
    private Environments() {}

    /** What a row is of. */
    public enum Kind {
        VALUE("Values"),
        ADDRESS("Addresses"),
        SECURITY("Security profiles");

        private final String title;

        Kind(String title) {
            this.title = title;
        }

        /** For people. */
        public String title() {
            return title;
        }
    }

    /**
     * One thing that environments have.
     *
     * @param name of the variable, or {@code contract/port}
     * @param secret whether its value is kept elsewhere
     * @param otherwise what holds where an environment says nothing; empty for nothing
     * @param cells what each environment says, in their order; empty for one that says nothing
     */
    public record Row(Kind kind, String name, boolean secret, String otherwise, List<Optional<String>> cells) {
        /** Whether what holds is not the same in all. */
        public boolean differs() {
            return cells.stream().map(c -> c.orElse(otherwise)).distinct().count() > 1;
        }
    }

    /** All rows: values by name, then an address and a profile for each port. */
    public static List<Row> rows(Project project) {
        List<Row> rows = new ArrayList<>();
        List<Environment> all = project.environments();
        Map<String, Variable> usual = byName(project.settings().variables());
        Set<String> names = new LinkedHashSet<>(usual.keySet());
        all.forEach(e -> names.addAll(byName(e.variables()).keySet()));
        for (String name : names) {
            Variable own = usual.get(name);
            boolean secret = own != null && own.secret()
                    || all.stream()
                            .flatMap(e -> e.variables().stream())
                            .anyMatch(v -> v.name().equals(name) && v.secret());
            rows.add(new Row(
                    Kind.VALUE,
                    name,
                    secret,
                    own == null ? "" : own.value(),
                    all.stream()
                            .map(e -> Optional.ofNullable(byName(e.variables()).get(name))
                                    .map(Variable::value))
                            .toList()));
        }
        Map<String, String> ports = ports(project);
        Set<String> addressed = new LinkedHashSet<>(ports.keySet());
        all.forEach(e -> addressed.addAll(e.endpoints().keySet()));
        for (String key : addressed) {
            rows.add(new Row(
                    Kind.ADDRESS,
                    key,
                    false,
                    ports.getOrDefault(key, ""),
                    all.stream()
                            .map(e -> Optional.ofNullable(e.endpoints().get(key)))
                            .toList()));
        }
        Set<String> secured = new LinkedHashSet<>(ports.keySet());
        all.forEach(e -> secured.addAll(e.security().keySet()));
        for (String key : secured) {
            rows.add(new Row(
                    Kind.SECURITY,
                    key,
                    false,
                    "",
                    all.stream()
                            .map(e -> Optional.ofNullable(e.security().get(key)))
                            .toList()));
        }
        return rows;
    }

    private static Map<String, Variable> byName(List<Variable> variables) {
        Map<String, Variable> names = new TreeMap<>();
        variables.forEach(v -> names.put(v.name(), v));
        return names;
    }

    /** The addresses that the contracts have for their ports. */
    private static Map<String, String> ports(Project project) {
        Map<String, String> found = new LinkedHashMap<>();
        for (KeptContract kept : project.contracts()) {
            for (Port port : kept.contract().ports()) {
                found.put(kept.name() + "/" + port.name(), port.address().orElse(""));
            }
        }
        return found;
    }

    /** A project in which an environment says something else; an empty text for what it shall not say. */
    public static Project said(Project project, String environment, Row row, String text) {
        return changed(project, environment, e -> switch (row.kind()) {
            case ADDRESS -> e.withEndpoint(row.name(), text);
            case SECURITY -> e.withSecurity(row.name(), text);
            case VALUE -> e.withVariables(with(e.variables(), row.name(), text));
        });
    }

    private static List<Variable> with(List<Variable> variables, String name, String text) {
        List<Variable> all = new ArrayList<>(variables);
        Variable changed = new Variable(name, text, false);
        int at = all.stream().map(Variable::name).toList().indexOf(name);
        if (at >= 0 && text.isEmpty()) {
            all.remove(at);
        } else if (at >= 0) {
            all.set(at, changed);
        } else if (!text.isEmpty()) {
            all.add(changed);
        }
        return all;
    }

    private static Project changed(Project project, String environment, UnaryOperator<Environment> change) {
        List<Environment> all = project.environments().stream()
                .map(e -> e.name().equals(environment) ? change.apply(e) : e)
                .toList();
        return project.with(project.settings().withEnvironments(all, project.environment()));
    }

    /**
     * A project with one more environment, which is the one in use from then on.
     *
     * @param like the name of the one that it begins as; empty for an empty one
     * @throws Problem when there is one of that name, or it has none
     */
    public static Project added(Project project, String like, String name) {
        free(project, name);
        Environment made = project.environments().stream()
                .filter(e -> e.name().equals(like))
                .findFirst()
                .map(e -> e.under(name.strip()).live(false))
                .orElseGet(() -> new Environment(name.strip(), Map.of(), List.of()));
        List<Environment> all = new ArrayList<>(project.environments());
        all.add(made);
        return project.with(project.settings().withEnvironments(all, made.name()));
    }

    /**
     * A project with an environment under another name.
     *
     * @throws Problem as {@link #added}
     */
    public static Project renamed(Project project, String old, String name) {
        if (old.equals(name.strip())) {
            return project;
        }
        free(project, name);
        Project renamed = changed(project, old, e -> e.under(name.strip()));
        String used = project.environment().equals(old) ? name.strip() : project.environment();
        return renamed.with(renamed.settings().withEnvironments(renamed.environments(), used));
    }

    private static void free(Project project, String name) {
        if (name.isBlank()) {
            throw Problem.input("The environment has no name", null, "Give it one.");
        }
        if (project.environments().stream().anyMatch(e -> e.name().equals(name.strip()))) {
            throw Problem.input("There is an environment “" + name.strip() + "” already", null, "Choose another name.");
        }
    }

    /** A project without an environment; where it was in use, the first of the others is. */
    public static Project without(Project project, String name) {
        List<Environment> left = project.environments().stream()
                .filter(e -> !e.name().equals(name))
                .toList();
        String used = !project.environment().equals(name)
                ? project.environment()
                : left.isEmpty() ? "" : left.get(0).name();
        return project.with(project.settings().withEnvironments(left, used));
    }

    /** A project in which an environment is live, or is not. */
    public static Project live(Project project, String name, boolean is) {
        return changed(project, name, e -> e.live(is));
    }
}
