package dev.mockbell.project;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/**
 * A project, in its current environment, as runs see it.
 *
 * @param local what the user of this machine has allowed the project
 * @param secrets the values of its secrets
 * @param hosts where they may go
 */
public record ProjectBench(Project project, LocalProject local, Secrets secrets, SecretHosts hosts)
        implements Workbench {
    /** What a case picks that goes by no profile whatever its environment says. */
    public static final String NOBODY = "none";

    /** Secrets go to the hosts that the user has allowed the project. */
    public ProjectBench(Project project, LocalProject local, Secrets secrets) {
        this(project, local, secrets, new SecretHosts(local.hosts()));
    }

    /** A project of which this machine knows nothing, so without secrets. */
    public static ProjectBench unknown(Project project) {
        return new ProjectBench(project, LocalProject.UNKNOWN, Secrets.none());
    }

    @Override
    public Contract contract(String name) {
        return project.contract(name)
                .orElseThrow(() -> Problem.input(
                        "The project has no contract “" + name + "”",
                        project.folder().toString(),
                        "Import it, or correct the case."))
                .contract();
    }

    @Override
    public Case kept(String reference) {
        return project.kept(reference)
                .orElseThrow(() -> Problem.input(
                        "The project has no case “" + reference + "”",
                        project.folder().toString(),
                        "Choose another case for the step."));
    }

    @Override
    public Suite suite(String id) {
        return project.suite(id)
                .orElseThrow(() -> Problem.input(
                        "The project has no suite “" + id + "”",
                        project.folder().toString(),
                        "Choose another suite for the step."));
    }

    @Override
    public Optional<String> endpoint(String contract, String port) {
        if (!project.settings().known()) {
            throw Problem.input(
                    "It is not known where to send, because the project's main file cannot be read",
                    project.folder().toString(),
                    "Mend mockbell.yaml first.");
        }
        return project.current().endpoint(contract, port);
    }

    @Override
    public Optional<Profile> profile(Case kept, String port) {
        String name = kept.security().isEmpty() ? project.current().security(kept.contract(), port) : kept.security();
        if (name.isEmpty() || name.equals(NOBODY)) {
            return Optional.empty();
        }
        return Optional.of(project.profile(name)
                .orElseThrow(() -> Problem.input(
                        "The project has no security profile “" + name + "”",
                        project.folder().toString(),
                        "Choose another, or make one of that name.")));
    }

    @Override
    public Path folder() {
        return project.folder();
    }

    @Override
    public Scope variables() {
        return scope(List.of());
    }

    @Override
    public Scope variables(Case kept) {
        return scope(kept.variables())
                .withPrefixes(project.contract(kept.contract())
                        .map(k -> k.contract().prefixes())
                        .orElse(Map.of()));
    }

    /** Those of the case before those of the environment before those of the project. */
    private Scope scope(List<Variable> own) {
        Map<String, String> texts = new LinkedHashMap<>();
        Set<String> secret = new LinkedHashSet<>();
        for (List<Variable> list :
                List.of(project.settings().variables(), project.current().variables(), own)) {
            for (Variable v : list) {
                if (v.secret()) {
                    secret.add(v.name());
                } else {
                    texts.put(v.name(), v.value());
                }
            }
        }
        Scope scope = Scope.EMPTY
                .with(hosts)
                .with(texts)
                .with(RandomValues.of(
                        project.contracts().stream().map(KeptContract::contract).toList()));
        for (String name : secret) {
            Optional<String> value = secrets.value(local, name);
            scope = value.isPresent() ? scope.withSecret(name, value.get()) : scope;
        }
        return scope;
    }

    @Override
    public Function<Step, String> basis() {
        return new StepBasis(project);
    }

    @Override
    public String environment() {
        return project.current().name();
    }
}
