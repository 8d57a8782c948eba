package dev.mockbell.desktop.model;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/**
 * Earlier and later states of a text, kept as what differs from one to the next, so that a session's worth of edits of a
 * large text fits. Steps of the same kind in a row, such as typing in one field, are one. The oldest go when all together
 * exceed 64 million characters.
 */
public final class Undo {
    private static final long MOST_CHARACTERS = 64L << 20;
    private static final int STRETCH = 1_024;

    private final Deque<Change> earlier = new ArrayDeque<>();
    private final Deque<Change> later = new ArrayDeque<>();
    private String lastKind = "";
    private String groupStart = "";
    private int groupSame;
    private int groupSameEnd;
    private long held;

    /** What stood at an offset before and after. */
    private record Change(int offset, String removed, String inserted) {
        /**
         * What differs.
         *
         * @param same how many characters at the start are surely alike
         * @param sameEnd how many at the end are
         */
        static Change between(String before, String after, int same, int sameEnd) {
            int least = Math.min(before.length(), after.length());
            int start = Math.min(same, least);
            // most of a text is as it was, and stretches are compared faster than characters
            while (start + STRETCH <= least && before.regionMatches(start, after, start, STRETCH)) {
                start += STRETCH;
            }
            while (start < least && before.charAt(start) == after.charAt(start)) {
                start++;
            }
            int tail = Math.min(sameEnd, least - start);
            while (tail + STRETCH <= least - start
                    && before.regionMatches(
                            before.length() - tail - STRETCH, after, after.length() - tail - STRETCH, STRETCH)) {
                tail += STRETCH;
            }
            while (tail < least - start
                    && before.charAt(before.length() - 1 - tail) == after.charAt(after.length() - 1 - tail)) {
                tail++;
            }
            return new Change(
                    start,
                    before.substring(start, before.length() - tail),
                    after.substring(start, after.length() - tail));
        }

        String back(String text) {
            return text.substring(0, offset) + removed + text.substring(offset + inserted.length());
        }

        String forth(String text) {
            return text.substring(0, offset) + inserted + text.substring(offset + removed.length());
        }

        long size() {
            return (long) removed.length() + inserted.length();
        }
    }

    /** Notes a change that has been made. */
    public void changed(String before, String after, String kind) {
        changed(before, after, kind, 0, 0);
    }

    /**
     * As {@link #changed(String, String, String)}, for whoever knows where.
     *
     * @param same how many characters at the start are surely alike
     * @param sameEnd how many at the end are
     */
    public void changed(String before, String after, String kind, int same, int sameEnd) {
        if (before.equals(after)) {
            return;
        }
        later.clear();
        boolean goesOn = kind.equals(lastKind) && !kind.isEmpty() && !earlier.isEmpty();
        if (goesOn) {
            held -= earlier.pop().size();
        } else {
            groupStart = before;
        }
        groupSame = goesOn ? Math.min(groupSame, same) : same;
        groupSameEnd = goesOn ? Math.min(groupSameEnd, sameEnd) : sameEnd;
        lastKind = kind;
        Change change = Change.between(groupStart, after, groupSame, groupSameEnd);
        earlier.push(change);
        held += change.size();
        while (held > MOST_CHARACTERS && earlier.size() > 1) {
            held -= earlier.removeLast().size();
        }
    }

    /** The state before the last change; {@code now} can be had again. */
    public Optional<String> undo(String now) {
        lastKind = "";
        if (earlier.isEmpty()) {
            return Optional.empty();
        }
        Change change = earlier.pop();
        held -= change.size();
        later.push(change);
        return Optional.of(change.back(now));
    }

    /** The state that was undone last. */
    public Optional<String> redo(String now) {
        lastKind = "";
        if (later.isEmpty()) {
            return Optional.empty();
        }
        Change change = later.pop();
        earlier.push(change);
        held += change.size();
        return Optional.of(change.forth(now));
    }

    /** Forgets everything. */
    public void clear() {
        earlier.clear();
        later.clear();
        lastKind = "";
        groupStart = "";
        held = 0;
    }
}
