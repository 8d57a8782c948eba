package dev.mockbell.desktop.model;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/**
 * Earlier and later states of a text. Steps of the same kind in a row, such as typing in one field, are one. The oldest go
 * when all together exceed a bound.
 */
public final class Undo {
    private static final long MOST_CHARACTERS = 64L << 20;

    private final Deque<String> earlier = new ArrayDeque<>();
    private final Deque<String> later = new ArrayDeque<>();
    private String lastKind = "";
    private long held;

    /** Notes the state before a change. */
    public void before(String state, String kind) {
        later.clear();
        if (kind.equals(lastKind) && !kind.isEmpty() && !earlier.isEmpty()) {
            return;
        }
        lastKind = kind;
        earlier.push(state);
        held += state.length();
        while (held > MOST_CHARACTERS && earlier.size() > 1) {
            held -= earlier.removeLast().length();
        }
    }

    /** The state before the last change; {@code now} can be had again. */
    public Optional<String> undo(String now) {
        lastKind = "";
        if (earlier.isEmpty()) {
            return Optional.empty();
        }
        later.push(now);
        String state = earlier.pop();
        held -= state.length();
        return Optional.of(state);
    }

    /** The state that was undone last. */
    public Optional<String> redo(String now) {
        lastKind = "";
        if (later.isEmpty()) {
            return Optional.empty();
        }
        earlier.push(now);
        held += now.length();
        return Optional.of(later.pop());
    }

    /** Forgets everything. */
    public void clear() {
        earlier.clear();
        later.clear();
        lastKind = "";
        held = 0;
    }
}
