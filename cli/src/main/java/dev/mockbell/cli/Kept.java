package dev.mockbell.cli;

import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import java.util.stream.Collectors;

/** Picks the contract of a project that a command is about. */
final class Kept {
    private Kept() {}

    /**
     * The one of that name or title; the only one where none is named.
     *
     * @throws Problem when it is not told which is meant
     */
    static KeptContract of(Project project, String name) {
        if (name != null) {
            return project.contracts().stream()
                    .filter(c -> c.name().equals(name) || c.title().equals(name))
                    .findFirst()
                    .orElseThrow(() -> Problem.input(
                            "The project has no contract “" + name + "”",
                            project.folder().toString(),
                            "It has " + names(project) + "."));
        }
        if (project.contracts().size() != 1) {
            throw Problem.input(
                    project.contracts().isEmpty() ? "The project has no contract" : "The project has several contracts",
                    project.folder().toString(),
                    project.contracts().isEmpty()
                            ? "Import one by “mockbell contract import”."
                            : "Name one with --contract: " + names(project) + ".");
        }
        return project.contracts().get(0);
    }

    private static String names(Project project) {
        return project.contracts().stream().map(KeptContract::name).collect(Collectors.joining(", "));
    }
}
