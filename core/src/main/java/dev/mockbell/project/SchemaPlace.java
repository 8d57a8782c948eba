package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;

/**
 * What a schema says of one place in a file, as far as reading and patching need it: which keys have a meaning there, and
 * whether a scalar is meant as text. Alternatives are looked at together.
 */
final class SchemaPlace {
    private static final SchemaPlace NOTHING = new SchemaPlace(null, List.of());

    private final JsonNode root;
    private final List<JsonNode> schemas;

    private SchemaPlace(JsonNode root, List<JsonNode> schemas) {
        this.root = root;
        this.schemas = schemas;
    }

    static SchemaPlace of(JsonNode root) {
        return new SchemaPlace(root, open(root, List.of(root)));
    }

    /** Follows references and opens alternatives. */
    private static List<JsonNode> open(JsonNode root, List<JsonNode> schemas) {
        List<JsonNode> found = new ArrayList<>();
        for (JsonNode schema : schemas) {
            String reference = schema.path("$ref").asText("");
            if (reference.startsWith("#/")) {
                found.addAll(open(root, List.of(root.at(reference.substring(1)))));
                continue;
            }
            found.add(schema);
            for (String alternatives : List.of("oneOf", "anyOf")) {
                for (JsonNode alternative : schema.path(alternatives)) {
                    found.addAll(open(root, List.of(alternative)));
                }
            }
        }
        return found;
    }

    private SchemaPlace at(List<JsonNode> below) {
        return below.isEmpty() ? NOTHING : new SchemaPlace(root, open(root, below));
    }

    /** The place under a key; one that says nothing where the key has no meaning. */
    SchemaPlace key(String name) {
        List<JsonNode> named = new ArrayList<>();
        List<JsonNode> free = new ArrayList<>();
        for (JsonNode schema : schemas) {
            JsonNode property = schema.path("properties").path(name);
            if (property.isObject()) {
                named.add(property);
            } else if (schema.path("additionalProperties").isObject()) {
                free.add(schema.path("additionalProperties"));
            }
        }
        return at(named.isEmpty() ? free : named);
    }

    /** The place of the items of an array. */
    SchemaPlace item() {
        return at(schemas.stream()
                .map(s -> s.path("items"))
                .filter(JsonNode::isObject)
                .toList());
    }

    /** Whether a key means something here, so that its absence does too. */
    boolean knows(String name) {
        return key(name) != NOTHING;
    }

    /** Whether a scalar here is text, whatever it looks like. */
    boolean isText() {
        boolean text = false;
        for (JsonNode schema : schemas) {
            String type = schema.path("type").asText("");
            text |= "string".equals(type);
            if (List.of("integer", "number", "boolean").contains(type) || schema.has("const")) {
                return false;
            }
        }
        return text;
    }
}
