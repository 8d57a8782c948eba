package dev.mockbell.expression;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;

/** Counts by name. Safe for many threads. */
final class Counters {
    private static final int MOST = 10_000;

    private final Map<String, AtomicLong> counts = new ConcurrentHashMap<>();
    private final long first;
    private final long step;

    Counters() {
        this(1, 1);
    }

    /** Counts that start at {@code first} and go on by {@code step}. */
    Counters(long first, long step) {
        this.first = first;
        this.step = step;
    }

    long next(String name) {
        if (counts.size() >= MOST && !counts.containsKey(name)) {
            throw new IllegalStateException("there are more than " + MOST + " counters");
        }
        return counts.computeIfAbsent(name, n -> new AtomicLong(first)).getAndAdd(step);
    }

    /** What {@link #next} would give. */
    long peek(String name) {
        AtomicLong count = counts.get(name);
        return count == null ? first : count.get();
    }
}
