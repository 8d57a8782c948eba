package dev.mockbell.project;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Addresses and values that change together.
 *
 * @param endpoints by {@code contract/port}, or by {@code contract} for all of its ports
 * @param variables values for expressions
 */
public record Environment(String name, Map<String, String> endpoints, Map<String, String> variables) {
    /** The environment that leaves everything as the contracts say. */
    public static final Environment NONE = new Environment("As in the contract", Map.of(), Map.of());

    public Environment {
        endpoints = new LinkedHashMap<>(endpoints);
        variables = new LinkedHashMap<>(variables);
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

    /** Where a port of a contract is; empty when the environment does not say. */
    public Optional<String> endpoint(String contract, String port) {
        return Optional.ofNullable(endpoints.getOrDefault(contract + "/" + port, endpoints.get(contract)));
    }
}
