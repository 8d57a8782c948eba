package dev.mockbell.project;

import dev.mockbell.expression.Variable;
import java.util.List;
import java.util.Map;

/**
 * What the project's main file holds.
 *
 * @param environment the name of the environment in use; empty for none
 * @param variables values for every environment
 * @param caseOrder the short names of cases in their order, by {@code contract/operation}; those not named follow by name
 */
public record Settings(
        String name,
        List<Environment> environments,
        String environment,
        List<Variable> variables,
        Map<String, List<String>> caseOrder) {
    public Settings {
        environments = List.copyOf(environments);
        variables = List.copyOf(variables);
        caseOrder = Map.copyOf(caseOrder);
    }

    /** Those of a new project. */
    public static Settings of(String name) {
        return new Settings(name, List.of(), "", List.of(), Map.of());
    }

    public Settings withEnvironments(List<Environment> changed, String inUse) {
        return new Settings(name, changed, inUse, variables, caseOrder);
    }

    public Settings withVariables(List<Variable> changed) {
        return new Settings(name, environments, environment, changed, caseOrder);
    }

    Settings withCaseOrder(Map<String, List<String>> changed) {
        return new Settings(name, environments, environment, variables, changed);
    }
}
