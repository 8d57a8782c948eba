package dev.mockbell.sheet;

import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Map;
import org.w3c.dom.Node;

/** A name for each node of a document that stays while others come and go around it. */
final class RowIds {
    private final Map<Node, String> given;

    /** @param expected about how many nodes there are, for growing step by step costs more than the rest */
    RowIds(int expected) {
        given = new IdentityHashMap<>(expected);
    }

    String of(Node node) {
        String id = given.get(node);
        if (id == null) {
            id = Integer.toString(given.size() + 1);
            given.put(node, id);
        }
        return id;
    }

    /** The node of each name. */
    Map<String, Node> nodes() {
        Map<String, Node> named = new HashMap<>();
        given.forEach((node, id) -> named.put(id, node));
        return named;
    }
}
