package dev.mockbell.project;

import dev.mockbell.access.Profile;
import dev.mockbell.expression.Variable;
import java.util.List;
import java.util.Map;

/**
 * What the project's main file holds.
 *
 * @param environment the name of the environment in use; empty for none
 * @param variables values for every environment
 * @param caseOrder the short names of cases in their order, by {@code contract/operation}; those not named follow by name
 * @param profiles security profiles, in their order
 * @param filters of the ledger, in their order
 * @param known whether the file could be read; when not, where requests go is not known either
 */
public record Settings(
        String name,
        List<Environment> environments,
        String environment,
        List<Variable> variables,
        Map<String, List<String>> caseOrder,
        List<Profile> profiles,
        List<KeptFilter> filters,
        boolean known) {
    /**
     * A filter of the ledger that has a name.
     *
     * @param filter as it is typed
     */
    public record KeptFilter(String name, String filter) {}

    /** Settings that are known. */
    public Settings(
            String name,
            List<Environment> environments,
            String environment,
            List<Variable> variables,
            Map<String, List<String>> caseOrder) {
        this(name, environments, environment, variables, caseOrder, List.of(), List.of(), true);
    }

    public Settings {
        environments = List.copyOf(environments);
        variables = List.copyOf(variables);
        caseOrder = Map.copyOf(caseOrder);
        profiles = List.copyOf(profiles);
        filters = List.copyOf(filters);
    }

    /** Those of a new project. */
    public static Settings of(String name) {
        return new Settings(name, List.of(), "", List.of(), Map.of());
    }

    /** Those of a project whose main file cannot be read. */
    static Settings unreadable(String name) {
        return new Settings(name, List.of(), "", List.of(), Map.of(), List.of(), List.of(), false);
    }

    public Settings withEnvironments(List<Environment> changed, String inUse) {
        return new Settings(name, changed, inUse, variables, caseOrder, profiles, filters, known);
    }

    public Settings withVariables(List<Variable> changed) {
        return new Settings(name, environments, environment, changed, caseOrder, profiles, filters, known);
    }

    Settings withCaseOrder(Map<String, List<String>> changed) {
        return new Settings(name, environments, environment, variables, changed, profiles, filters, known);
    }

    /** With other security profiles. */
    public Settings withProfiles(List<Profile> changed) {
        return new Settings(name, environments, environment, variables, caseOrder, changed, filters, known);
    }

    /** With other filters of the ledger. */
    public Settings withFilters(List<KeptFilter> changed) {
        return new Settings(name, environments, environment, variables, caseOrder, profiles, changed, known);
    }
}
