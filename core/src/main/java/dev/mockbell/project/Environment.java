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
 * @param security names of security profiles, by the keys of {@code endpoints}
 * @param live whether what is done there is real to others, which the window warns of
 */
public record Environment(
        String name,
        Map<String, String> endpoints,
        List<Variable> variables,
        Map<String, String> security,
        boolean live) {
    /** The environment that leaves everything as the contracts say. */
    public static final Environment NONE = new Environment("As in the contract", Map.of(), List.of());

    /** One that is not live. */
    public Environment(
            String name, Map<String, String> endpoints, List<Variable> variables, Map<String, String> security) {
        this(name, endpoints, variables, security, false);
    }

    /** Addresses and values alone. */
    public Environment(String name, Map<String, String> endpoints, List<Variable> variables) {
        this(name, endpoints, variables, Map.of());
    }

    public Environment {
        endpoints = new LinkedHashMap<>(endpoints);
        security = new LinkedHashMap<>(security);
        variables = List.copyOf(variables);
    }

    /** With an address under a key; an empty one takes it away. */
    Environment withEndpoint(String key, String address) {
        return new Environment(name, put(endpoints, key, address), variables, security, live);
    }

    /** With the name of a security profile under a key; an empty one takes it away. */
    Environment withSecurity(String key, String profile) {
        return new Environment(name, endpoints, variables, put(security, key, profile), live);
    }

    private static Map<String, String> put(Map<String, String> map, String key, String value) {
        Map<String, String> changed = new LinkedHashMap<>(map);
        if (value.isBlank()) {
            changed.remove(key);
        } else {
            changed.put(key, value.strip());
        }
        return changed;
    }

    /** With other variables. */
    public Environment withVariables(List<Variable> changed) {
        return new Environment(name, endpoints, changed, security, live);
    }

    /** The same under another name. */
    Environment under(String other) {
        return new Environment(other, endpoints, variables, security, live);
    }

    /** The same, live or not. */
    Environment live(boolean is) {
        return new Environment(name, endpoints, variables, security, is);
    }

    /** Where a port of a contract is; empty when the environment does not say. */
    public Optional<String> endpoint(String contract, String port) {
        return Optional.ofNullable(endpoints.getOrDefault(contract + "/" + port, endpoints.get(contract)));
    }

    /** The name of the security profile of a port of a contract; empty for none. */
    public String security(String contract, String port) {
        return security.getOrDefault(contract + "/" + port, security.getOrDefault(contract, ""));
    }
}
