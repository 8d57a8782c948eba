package dev.mockbell.expression;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;

/** Counts by name. Safe for many threads. */
final class Counters {
    private static final int MOST = 10_000;

    private final Map<String, AtomicLong> counts = new ConcurrentHashMap<>();

    long next(String name) {
        if (counts.size() >= MOST && !counts.containsKey(name)) {
            throw new IllegalStateException("there are more than " + MOST + " counters");
        }
        return counts.computeIfAbsent(name, n -> new AtomicLong()).incrementAndGet();
    }

    /** What {@link #next} would give. */
    long peek(String name) {
        AtomicLong count = counts.get(name);
        return count == null ? 1 : count.get() + 1;
    }
}
