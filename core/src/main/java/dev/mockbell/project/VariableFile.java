package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.expression.Variable;
import java.util.ArrayList;
import java.util.List;

/** Variables as YAML: a value by name, and {@code secret: true} in place of the value of a secret. */
final class VariableFile {
    private static final String SECRET = "secret";

    private VariableFile() {}

    static List<Variable> read(JsonNode node) {
        List<Variable> found = new ArrayList<>();
        node.properties().forEach(v -> {
            boolean secret = v.getValue().path(SECRET).asBoolean(false);
            found.add(new Variable(v.getKey(), secret ? "" : v.getValue().asText(), secret));
        });
        return List.copyOf(found);
    }

    static void write(List<Variable> variables, ObjectNode into) {
        for (Variable v : variables) {
            if (v.secret()) {
                into.putObject(v.name()).put(SECRET, true);
            } else {
                into.put(v.name(), v.value());
            }
        }
    }
}
