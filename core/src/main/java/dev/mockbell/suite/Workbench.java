package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.Variable;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Function;

/** What a run needs of the project: contracts, cases, and the environment's addresses and values. */
public interface Workbench {
    /**
     * The contract of that name in the project.
     *
     * @throws dev.mockbell.problem.Problem when there is none
     */
    Contract contract(String name);

    /**
     * The case of that full name.
     *
     * @throws dev.mockbell.problem.Problem when there is none
     */
    Case kept(String reference);

    /**
     * Another suite.
     *
     * @throws dev.mockbell.problem.Problem when there is none
     */
    default Suite suite(String id) {
        throw dev.mockbell.problem.Problem.input(
                "There is no suite “" + id + "”", null, "Choose another for the step.");
    }

    /** The environment's address for a port of a contract, or of the whole contract; empty to call what the contract says. */
    Optional<String> endpoint(String contract, String port);

    /**
     * How a request of a case is made safe and proves itself; empty when nothing is said.
     *
     * @throws dev.mockbell.problem.Problem when a profile is named that is not there
     */
    default Optional<Profile> profile(Case kept, String port) {
        return Optional.empty();
    }

    /** The folder that files are in which a profile names. */
    default Path folder() {
        return Path.of("");
    }

    /** The variables of the project and its environment. */
    Scope variables();

    /** As {@link #variables()}, with the case's own before them. */
    default Scope variables(Case kept) {
        Scope scope = variables();
        for (Variable v : kept.variables()) {
            scope = v.secret() ? scope : scope.with(v.name(), v.value());
        }
        return scope;
    }

    /**
     * Tells what the result of a step rests upon: a short text that becomes another when the step, its case or the contract do.
     * Good for one run; empty texts where that is not known.
     */
    default Function<Step, String> basis() {
        return step -> "";
    }

    /** The environment's name; empty for none. */
    String environment();
}
