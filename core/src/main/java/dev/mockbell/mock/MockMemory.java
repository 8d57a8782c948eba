package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmFunctionItem;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmMap;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmNodeKind;
import net.sf.saxon.s9api.XdmValue;

/** The values that a mock remembers, for all or for each caller. Not for several threads at once: {@link MockState} guards it. */
final class MockMemory {
    private static final int MOST_VALUES = 100_000;
    private static final long MOST_CHARACTERS = 64L << 20;
    private static final int MOST_CALLERS = 10_000;

    /** What an element, an attribute or a text counts for besides its text. */
    private static final long NODE = 30;

    private final Map<String, Held> forAll = new LinkedHashMap<>();
    /** By caller, the one that was looked after longest ago first. */
    private final Map<String, Map<String, Held>> apart = new LinkedHashMap<>(16, 0.75f, true);

    private long characters;
    private int values;

    /** What is under one name: one value, or many by their keys. */
    private static final class Held {
        private XdmValue one;
        private XdmMap many = new XdmMap();
        private final Map<String, Long> sizes = new HashMap<>();

        Held copy() {
            Held copy = new Held();
            copy.one = one;
            copy.many = many;
            copy.sizes.putAll(sizes);
            return copy;
        }

        XdmValue value() {
            return one == null ? many : one;
        }
    }

    /**
     * What a name stands for.
     *
     * @param caller empty for the value of all
     */
    XdmValue of(String name, String caller) {
        Held held = names(caller, false).get(name);
        return held == null ? XdmEmptySequence.getInstance() : held.value();
    }

    boolean knows(String name, String caller) {
        return names(caller, false).containsKey(name);
    }

    private Map<String, Held> names(String caller, boolean make) {
        if (caller.isEmpty()) {
            return forAll;
        }
        Map<String, Held> found = apart.get(caller);
        if (found != null || !make) {
            return found == null ? Map.of() : found;
        }
        if (apart.size() >= MOST_CALLERS) {
            String eldest = apart.keySet().iterator().next();
            List.copyOf(apart.get(eldest).keySet()).forEach(name -> forget(name, eldest));
            apart.remove(eldest);
        }
        Map<String, Held> made = new LinkedHashMap<>();
        apart.put(caller, made);
        return made;
    }

    /**
     * Keeps a value.
     *
     * @param key empty for the single value of a name
     * @param value of {@link #kept}
     * @throws Problem when there is too much already
     */
    void remember(String name, String caller, String key, Kept value) {
        Held there = names(caller, false).get(name);
        long before = there == null ? 0 : there.sizes.getOrDefault(key, 0L);
        boolean more = there == null || !there.sizes.containsKey(key);
        if (more && values >= MOST_VALUES || characters - before + value.size() > MOST_CHARACTERS) {
            throw Problem.input(
                    "The mock remembers " + values + " values already",
                    "$" + name,
                    "Let an answer forget some, or start the mock again.");
        }
        Held held = names(caller, true).computeIfAbsent(name, n -> new Held());
        if (key.isEmpty()) {
            let(held);
            held.one = value.value();
        } else {
            if (held.one != null) {
                let(held);
                held.one = null;
            }
            held.many = held.many.put(new XdmAtomicValue(key), value.value());
        }
        count(held, key, value.size());
    }

    private void count(Held held, String key, long size) {
        Long before = held.sizes.put(key, size);
        characters += size - (before == null ? 0 : before);
        values += before == null ? 1 : 0;
    }

    private void let(Held held) {
        held.sizes.values().forEach(size -> characters -= size);
        values -= held.sizes.size();
        held.sizes.clear();
        held.many = new XdmMap();
    }

    void forget(String name, String caller, String key) {
        Held held = names(caller, false).get(name);
        Long size = held == null ? null : held.sizes.remove(key);
        if (size == null) {
            return;
        }
        characters -= size;
        values--;
        held.many = held.many.remove(new XdmAtomicValue(key));
        if (held.one != null || held.sizes.isEmpty()) {
            names(caller, false).remove(name);
        }
    }

    /** Lets go of all under a name. */
    void forget(String name, String caller) {
        Held held = names(caller, false).get(name);
        if (held != null) {
            let(held);
            names(caller, false).remove(name);
        }
    }

    /** Remembers what another does. */
    void takeOver(MockMemory other) {
        other.forAll.forEach((name, held) -> forAll.put(name, held.copy()));
        other.apart.forEach((caller, names) -> {
            Map<String, Held> own = new LinkedHashMap<>();
            names.forEach((name, held) -> own.put(name, held.copy()));
            apart.put(caller, own);
        });
        characters = other.characters;
        values = other.values;
    }

    /** Lets go of everything. */
    void clear() {
        forAll.clear();
        apart.clear();
        characters = 0;
        values = 0;
    }

    /** For people, at most so many. */
    List<RememberedValue> shown(int most) {
        List<RememberedValue> all = new ArrayList<>();
        show("", forAll, all, most);
        apart.forEach((caller, names) -> show(caller, names, all, most));
        return all;
    }

    private static void show(String caller, Map<String, Held> names, List<RememberedValue> all, int most) {
        names.forEach((name, held) -> {
            if (held.one != null) {
                add(all, most, new RememberedValue(name, caller, "", words(held.one)));
                return;
            }
            for (XdmAtomicValue key : held.many.keySet()) {
                if (all.size() >= most) {
                    return;
                }
                add(all, most, new RememberedValue(name, caller, key.getStringValue(), words(held.many.get(key))));
            }
        });
    }

    private static void add(List<RememberedValue> all, int most, RememberedValue value) {
        if (all.size() < most) {
            all.add(value);
        }
    }

    private static String words(XdmValue value) {
        String text = value instanceof XdmFunctionItem ? value.toString() : Expressions.text(value);
        return text.strip().replaceAll("\\s+", " ");
    }

    /** How many there are. */
    int size() {
        return values;
    }

    /**
     * A value as it is remembered.
     *
     * @param size in characters, roughly
     */
    record Kept(XdmValue value, long size) {}

    /**
     * A value that stands alone: elements are copied, so that no request is held by a part of it, and others become texts and numbers.
     *
     * @throws Problem when it is a function
     */
    static Kept kept(XdmValue value, Expressions expressions) {
        List<XdmItem> items = new ArrayList<>();
        long size = 0;
        for (XdmItem item : value) {
            if (item instanceof XdmNode node) {
                boolean whole = node.getNodeKind() == XdmNodeKind.ELEMENT || node.getNodeKind() == XdmNodeKind.DOCUMENT;
                String text = node.getStringValue();
                size += text.length();
                if (whole) {
                    XdmNode copy = expressions.copy(root(node));
                    size += NODE * Expressions.nodes(copy);
                    items.add(root(copy));
                } else {
                    items.add(Scope.untyped(text));
                }
            } else if (item instanceof XdmFunctionItem && !(item instanceof XdmMap)) {
                throw Problem.input("A function cannot be remembered", null, "Remember what it gives.");
            } else {
                size += item instanceof XdmMap map
                        ? 1_000L * (1 + map.mapSize())
                        : item.getStringValue().length();
                items.add(item);
            }
        }
        return new Kept(items.size() == 1 ? items.get(0) : new XdmValue(items), size + 100);
    }

    private static XdmNode root(XdmNode node) {
        if (node.getNodeKind() == XdmNodeKind.ELEMENT) {
            return node;
        }
        for (XdmNode child : node.children()) {
            if (child.getNodeKind() == XdmNodeKind.ELEMENT) {
                return child;
            }
        }
        return node;
    }
}
