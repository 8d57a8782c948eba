package dev.mockbell.suite;

import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Scope;
import java.util.Optional;

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

    /** The environment's address for a port of a contract, or of the whole contract; empty to call what the contract says. */
    Optional<String> endpoint(String contract, String port);

    /** The environment's variables. */
    Scope variables();

    /** The environment's name; empty for none. */
    String environment();
}
