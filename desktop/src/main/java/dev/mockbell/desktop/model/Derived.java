package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;

/**
 * Values that cost something, worked out elsewhere by key and kept, the ones asked for last. Whoever shows them asks on the
 * interface thread, gets what is there, and hears when more is. One evaluation a key; equal keys give equal values.
 */
public final class Derived<K, V> {
    private final Tasks tasks;
    private final Function<K, V> work;
    private final Consumer<Problem> failed;
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Map<K, Optional<V>> known;
    private int era;

    /**
     * @param most how many are kept
     * @param work makes a value, off the interface thread
     * @param failed hears, on it, of one that cannot be made
     */
    public Derived(Tasks tasks, int most, Function<K, V> work, Consumer<Problem> failed) {
        this.tasks = tasks;
        this.work = work;
        this.failed = failed;
        this.known = new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<K, Optional<V>> eldest) {
                return size() > most;
            }
        };
    }

    /** The value; empty while it is being worked out, or when it cannot be. */
    public Optional<V> of(K key) {
        Optional<V> there = known.get(key);
        if (there != null) {
            return there;
        }
        known.put(key, Optional.empty());
        int asked = era;
        tasks.run(
                () -> work.apply(key),
                value -> {
                    if (asked == era) {
                        known.put(key, Optional.ofNullable(value));
                        changes.set(changes.get() + 1);
                    }
                },
                failed);
        return Optional.empty();
    }

    /** Grows when a value has come. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    /** Forgets all, because what they were made of has changed. */
    public void forget() {
        era++;
        known.clear();
    }
}
