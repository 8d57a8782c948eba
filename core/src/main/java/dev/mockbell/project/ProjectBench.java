package dev.mockbell.project;

import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Workbench;
import java.util.Optional;

/** A project, in its current environment, as runs see it. */
public record ProjectBench(Project project) implements Workbench {
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
    public Optional<String> endpoint(String contract, String port) {
        return project.current().endpoint(contract, port);
    }

    @Override
    public Scope variables() {
        return Scope.EMPTY.with(project.current().variables());
    }

    @Override
    public String environment() {
        return project.current().name();
    }
}
