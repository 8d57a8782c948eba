package dev.mockbell.sheet;

import dev.mockbell.message.MessagePath;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** What was taken out of a message, by the names of the places where it stood; it comes back with what is in it. */
final class SetAside {
    /** Names of places start with that of the element that they are in. */
    private static final Pattern PLACE = Pattern.compile("(nil |)([0-9]+)(.*)", Pattern.DOTALL);

    private final Map<String, List<Node>> places = new HashMap<>();

    /** What was at a place; null when nothing was. */
    List<Node> at(String place) {
        return places.get(place);
    }

    List<Node> takeBack(String place) {
        return places.remove(place);
    }

    void put(String place, List<Node> nodes) {
        places.put(place, nodes);
    }

    /** Puts a node to those that stood at a place. */
    void add(String place, Node node) {
        places.computeIfAbsent(place, p -> new ArrayList<>()).add(node);
    }

    /** Remembers what another sheet's tree does, where an element stands at the same path in both. */
    void remember(SetAside other, SheetTree from, SheetTree to) {
        Element root = to.document().getDocumentElement();
        if (other.places.isEmpty() || root == null) {
            return;
        }
        Map<String, Node> nodes = from.ids().nodes();
        other.places.forEach((place, parts) -> {
            Matcher matcher = PLACE.matcher(place);
            Node there = matcher.matches() ? nodes.get(matcher.group(2)) : null;
            if (!(there instanceof Element) || there.getOwnerDocument() != from.document()) {
                return;
            }
            MessagePath.node(root, MessagePath.of(there))
                    .ifPresent(here -> places.put(
                            matcher.group(1) + to.ids().of(here) + matcher.group(3),
                            new ArrayList<>(parts.stream()
                                    .map(n -> to.document().importNode(n, true))
                                    .toList())));
        });
    }
}
