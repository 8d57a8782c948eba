package dev.mockbell.desktop.model;

import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Environment;
import dev.mockbell.project.Environments;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Project;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;

/** The environments of the project, and what can be done to them. */
public final class EnvironmentsModel {
    private final Desk desk;

    public EnvironmentsModel(Desk desk) {
        this.desk = desk;
    }

    public List<Environment> all() {
        return desk.project().environments();
    }

    /** Becomes another with each change of the project, by whomever. */
    public ReadOnlyObjectProperty<Project> projectProperty() {
        return desk.projectProperty();
    }

    /** The name of the one in use; empty for none. */
    public String inUse() {
        return desk.project().environment();
    }

    public List<Environments.Row> rows() {
        return Environments.rows(desk.project());
    }

    /** The names of the security profiles. */
    public List<String> profiles() {
        return desk.project().settings().profiles().stream().map(p -> p.name()).toList();
    }

    public void use(String name) {
        desk.use(name);
    }

    /** Has an environment say something else; an empty text takes away what it says. */
    public void say(String environment, Environments.Row row, String text) {
        desk.change(p -> Environments.said(p, environment, row, text));
    }

    /** @throws Problem when the name is none or taken */
    public void add(String like, String name) {
        desk.change(p -> Environments.added(p, like, name));
    }

    /** @throws Problem when the name is none or taken */
    public void rename(String old, String name) {
        desk.change(p -> Environments.renamed(p, old, name));
    }

    public void live(String name, boolean is) {
        desk.change(p -> Environments.live(p, name, is));
    }

    /** Takes one out of the project; it can be brought back. */
    public void delete(String name) {
        desk.steps().tells("Deleted the environment “" + name + "”.", p -> Environments.without(p, name));
    }

    /** Where the values of the project's secrets come from, by their names; those that have none are not among them. */
    public void sources(Consumer<Map<String, String>> then) {
        LocalProject local = desk.local();
        List<String> names = desk.project().settings().variables().stream()
                .filter(Variable::secret)
                .map(Variable::name)
                .toList();
        desk.tasks()
                .run(
                        () -> {
                            Map<String, String> found = new HashMap<>();
                            names.forEach(name ->
                                    desk.secrets().source(local, name).ifPresent(from -> found.put(name, from)));
                            return found;
                        },
                        then,
                        desk::tell);
    }
}
