package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;

/**
 * Puts new values into the tree of a file as it was read: what the file's schema knows is as the new tree has it, what it
 * does not know stays where it was, at every depth. In lists an entry is found again by its content, then by its name,
 * then by its place.
 */
final class Patch {
    private static final List<String> NAMES = List.of("name", "title", "call", "file");

    private Patch() {}

    /** The new tree with what the old one holds beyond the schema. */
    static ObjectNode of(ObjectNode old, ObjectNode fresh, SchemaPlace place) {
        return object(old, fresh, place);
    }

    private static JsonNode node(JsonNode old, JsonNode fresh, SchemaPlace place) {
        if (old instanceof ObjectNode o && fresh instanceof ObjectNode f) {
            return object(o, f, place);
        }
        if (old instanceof ArrayNode o && fresh instanceof ArrayNode f) {
            return array(o, f, place.item());
        }
        return fresh;
    }

    private static ObjectNode object(ObjectNode old, ObjectNode fresh, SchemaPlace place) {
        ObjectNode made = JsonNodeFactory.instance.objectNode();
        fresh.properties().forEach(e -> {
            JsonNode before = old.get(e.getKey());
            made.set(e.getKey(), before == null ? e.getValue() : node(before, e.getValue(), place.key(e.getKey())));
        });
        old.properties().forEach(e -> {
            if (!made.has(e.getKey()) && !place.knows(e.getKey())) {
                made.set(e.getKey(), e.getValue());
            }
        });
        return made;
    }

    private static ArrayNode array(ArrayNode old, ArrayNode fresh, SchemaPlace item) {
        List<JsonNode> left = new ArrayList<>();
        old.forEach(left::add);
        JsonNode[] before = new JsonNode[fresh.size()];
        for (int i = 0; i < fresh.size(); i++) {
            before[i] = take(left, known(fresh.get(i), item), item);
        }
        for (int i = 0; i < fresh.size(); i++) {
            before[i] = before[i] == null ? takeNamed(left, fresh.get(i)) : before[i];
        }
        for (int i = 0; i < fresh.size(); i++) {
            boolean free = before[i] == null && i < old.size() && removeSame(left, old.get(i));
            before[i] = free ? old.get(i) : before[i];
        }
        ArrayNode made = JsonNodeFactory.instance.arrayNode();
        for (int i = 0; i < fresh.size(); i++) {
            made.add(before[i] == null ? fresh.get(i) : node(before[i], fresh.get(i), item));
        }
        return made;
    }

    private static JsonNode take(List<JsonNode> left, JsonNode wanted, SchemaPlace item) {
        for (JsonNode candidate : left) {
            if (known(candidate, item).equals(Patch::compared, wanted)) {
                removeSame(left, candidate);
                return candidate;
            }
        }
        return null;
    }

    /** Numbers are the same by their value, however they were made. */
    private static int compared(JsonNode one, JsonNode other) {
        if (one.isNumber() && other.isNumber()) {
            return one.decimalValue().compareTo(other.decimalValue());
        }
        return one.equals(other) ? 0 : 1;
    }

    private static JsonNode takeNamed(List<JsonNode> left, JsonNode wanted) {
        for (String name : NAMES) {
            JsonNode value = wanted.path(name);
            for (JsonNode candidate : left) {
                if (value.isTextual() && value.equals(candidate.path(name))) {
                    removeSame(left, candidate);
                    return candidate;
                }
            }
        }
        return null;
    }

    private static boolean removeSame(List<JsonNode> left, JsonNode wanted) {
        for (int i = 0; i < left.size(); i++) {
            if (left.get(i) == wanted) {
                left.remove(i);
                return true;
            }
        }
        return false;
    }

    /** What the schema knows of a value. */
    private static JsonNode known(JsonNode node, SchemaPlace place) {
        if (node instanceof ObjectNode object) {
            ObjectNode made = JsonNodeFactory.instance.objectNode();
            object.properties().forEach(e -> {
                if (place.knows(e.getKey())) {
                    made.set(e.getKey(), known(e.getValue(), place.key(e.getKey())));
                }
            });
            return made;
        }
        if (node instanceof ArrayNode array) {
            ArrayNode made = JsonNodeFactory.instance.arrayNode();
            array.forEach(value -> made.add(known(value, place.item())));
            return made;
        }
        return node;
    }
}
