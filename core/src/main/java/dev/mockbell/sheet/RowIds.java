package dev.mockbell.sheet;

import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Map;
import org.w3c.dom.Node;

/** A name for each node of a document that stays while others come and go around it. */
final class RowIds {
    private final Map<Node, String> given = new IdentityHashMap<>();

    String of(Node node) {
        return given.computeIfAbsent(node, n -> Integer.toString(given.size() + 1));
    }

    /** The node of each name. */
    Map<String, Node> nodes() {
        Map<String, Node> named = new HashMap<>();
        given.forEach((node, id) -> named.put(id, node));
        return named;
    }
}
