package dev.mockbell.sample;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Identity;
import dev.mockbell.schema.SimpleType;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Ties the values of a message together once it is built: identifiers with what refers to them, keys that must differ. */
final class SampleTies {
    private static final int MOST_TRIES = 1_000;

    private final SampleValues values;
    private final Map<Node, SimpleType> types = new IdentityHashMap<>();
    private final Set<Node> fixed = java.util.Collections.newSetFromMap(new IdentityHashMap<>());
    private final List<Node> identifiers = new ArrayList<>();
    private final List<Node> references = new ArrayList<>();
    private final List<Runnable> offers = new ArrayList<>();
    private final Map<Element, List<Identity>> identities = new LinkedHashMap<>();

    SampleTies(SampleValues values) {
        this.values = values;
    }

    static boolean isReference(SimpleType type) {
        String name = type.builtIn();
        return "IDREF".equals(name)
                || "IDREFS".equals(name)
                || type.item().filter(i -> "IDREF".equals(i.builtIn())).isPresent();
    }

    boolean isReference(AttributeDecl attribute) {
        return attribute.type().simple().filter(SampleTies::isReference).isPresent();
    }

    /** Notes a node that holds a value. */
    void value(Node node, SimpleType type, boolean isFixed) {
        types.put(node, type);
        if (isFixed) {
            fixed.add(node);
        }
        if (isReference(type)) {
            references.add(node);
        } else if ("ID".equals(type.builtIn())) {
            identifiers.add(node);
        }
    }

    /** Notes an optional attribute that was left out; an identifier among them comes in when something refers to one. */
    void offers(Element element, AttributeDecl attribute, Runnable add) {
        if (attribute.type().simple().filter(t -> "ID".equals(t.builtIn())).isPresent()
                && attribute.fixed().isEmpty()) {
            offers.add(add);
        }
    }

    void identities(Element element, ElementDecl declared) {
        List<Identity> own = declared.identities();
        if (!own.isEmpty()) {
            identities.put(element, own);
        }
    }

    /** Makes the values agree. */
    void tie() {
        if (!references.isEmpty() && identifiers.isEmpty() && !offers.isEmpty()) {
            offers.get(0).run();
        }
        if (!identifiers.isEmpty()) {
            String target = text(identifiers.get(0));
            references.forEach(r -> set(r, several(r, target)));
        }
        identities.forEach((element, list) -> {
            list.stream().filter(i -> !i.isReference()).forEach(i -> differ(i.rows(element)));
            list.stream()
                    .filter(Identity::isReference)
                    .forEach(i -> i.key().ifPresent(k -> refer(i.rows(element), k.rows(element))));
        });
    }

    private String several(Node reference, String target) {
        SimpleType type = types.get(reference);
        int count = type.length().or(type::minLength).orElse(1);
        return String.join(" ", java.util.Collections.nCopies(Math.max(1, Math.min(count, MOST_TRIES)), target));
    }

    private void differ(List<List<Node>> rows) {
        Set<List<String>> seen = new HashSet<>();
        Map<Node, Integer> turns = new HashMap<>();
        for (List<Node> row : rows) {
            for (int i = 1; !seen.add(texts(row)) && i < MOST_TRIES; i++) {
                int turn = i;
                row.stream()
                        .filter(n -> types.containsKey(n) && !fixed.contains(n))
                        .reduce((a, b) -> b)
                        .ifPresent(n -> {
                            int next = turns.merge(n, turn, Math::max);
                            set(n, values.of(types.get(n), n.getLocalName(), next));
                        });
            }
        }
    }

    private void refer(List<List<Node>> rows, List<List<Node>> keys) {
        for (int i = 0; i < rows.size() && !keys.isEmpty(); i++) {
            List<Node> key = keys.get(i % keys.size());
            for (int f = 0; f < Math.min(key.size(), rows.get(i).size()); f++) {
                set(rows.get(i).get(f), text(key.get(f)));
            }
        }
    }

    private static List<String> texts(List<Node> row) {
        return row.stream().map(SampleTies::text).toList();
    }

    private static String text(Node node) {
        return node.getTextContent();
    }

    private static void set(Node node, String text) {
        if (node instanceof Attr attr) {
            attr.setValue(text);
        } else {
            node.setTextContent(text);
        }
    }
}
