package dev.mockbell.project;

import dev.mockbell.expression.Variable;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Addresses and values that change together.
 *
 * @param endpoints by {@code contract/port}, or by {@code contract} for all of its ports
 * @param variables values for expressions
 */
public record Environment(String name, Map<String, String> endpoints, List<Variable> variables) {
    /** The environment that leaves everything as the contracts say. */
    public static final Environment NONE = new Environment("As in the contract", Map.of(), List.of());

    public Environment {
        endpoints = new LinkedHashMap<>(endpoints);
        variables = List.copyOf(variables);
    }

    /** With an address under a key; an empty one takes it away. */
    Environment withEndpoint(String key, String address) {
        Map<String, String> changed = new LinkedHashMap<>(endpoints);
        if (address.isBlank()) {
            changed.remove(key);
        } else {
            changed.put(key, address.strip());
        }
        return new Environment(name, changed, variables);
    }

    /** With other variables. */
    public Environment withVariables(List<Variable> changed) {
        return new Environment(name, endpoints, changed);
    }

    /** Where a port of a contract is; empty when the environment does not say. */
    public Optional<String> endpoint(String contract, String port) {
        return Optional.ofNullable(endpoints.getOrDefault(contract + "/" + port, endpoints.get(contract)));
    }
}
