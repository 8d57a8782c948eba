package dev.mockbell.project;

import dev.mockbell.access.Profile;
import dev.mockbell.expression.Variable;
import dev.mockbell.ledger.Retention;
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
 * @param retention how much its ledger keeps
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
        Retention retention,
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
        this(name, environments, environment, variables, caseOrder, List.of(), List.of(), Retention.USUAL, true);
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
        return new Settings(name, List.of(), "", List.of(), Map.of(), List.of(), List.of(), Retention.USUAL, false);
    }

    public Settings withEnvironments(List<Environment> changed, String inUse) {
        return new Settings(name, changed, inUse, variables, caseOrder, profiles, filters, retention, known);
    }

    public Settings withVariables(List<Variable> changed) {
        return new Settings(name, environments, environment, changed, caseOrder, profiles, filters, retention, known);
    }

    Settings withCaseOrder(Map<String, List<String>> changed) {
        return new Settings(name, environments, environment, variables, changed, profiles, filters, retention, known);
    }

    /** With other security profiles. */
    public Settings withProfiles(List<Profile> changed) {
        return new Settings(name, environments, environment, variables, caseOrder, changed, filters, retention, known);
    }

    /** With other filters of the ledger. */
    public Settings withFilters(List<KeptFilter> changed) {
        return new Settings(name, environments, environment, variables, caseOrder, profiles, changed, retention, known);
    }

    /** With another measure of what the ledger keeps. */
    public Settings with(Retention changed) {
        return new Settings(name, environments, environment, variables, caseOrder, profiles, filters, changed, known);
    }
}
