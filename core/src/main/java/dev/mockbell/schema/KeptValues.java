package dev.mockbell.schema;

import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.apache.xerces.xs.XSSimpleTypeDefinition;

/**
 * What was found out about the values of types, so that a type which stands in a thousand places is thought about once. What
 * is kept is bounded, in number and in length; beyond that it is found out anew. Safe for many threads.
 */
final class KeptValues {
    private static final int MOST = 200_000;
    private static final int LONGEST = 1_000;

    private record Value(XSSimpleTypeDefinition type, String name, int variant) {}

    /** A search for strings. */
    record Search(List<String> patterns, int least, int most, int count, boolean wide) {}

    private final Map<Value, String> values = new ConcurrentHashMap<>();
    private final Map<Search, List<String>> searches = new ConcurrentHashMap<>();
    private final Map<XSSimpleTypeDefinition, List<String>> enumerations = new ConcurrentHashMap<>();

    String value(XSSimpleTypeDefinition type, String name, int variant, Supplier<String> made) {
        Value key = new Value(type, name, variant);
        String known = values.get(key);
        if (known != null) {
            return known;
        }
        String value = made.get();
        if (value.length() <= LONGEST && values.size() < MOST) {
            values.put(key, value);
        }
        return value;
    }

    List<String> strings(Search search, Supplier<List<String>> made) {
        return kept(searches, search, made);
    }

    List<String> enumeration(XSSimpleTypeDefinition type, Supplier<List<String>> made) {
        return kept(enumerations, type, made);
    }

    private static <K> List<String> kept(Map<K, List<String>> all, K key, Supplier<List<String>> made) {
        List<String> known = all.get(key);
        if (known != null) {
            return known;
        }
        List<String> found = List.copyOf(made.get());
        boolean small = found.stream().mapToLong(String::length).sum() <= 50L * LONGEST;
        if (small && all.size() < MOST / 10) {
            all.put(key, found);
        }
        return found;
    }
}
