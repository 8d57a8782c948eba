package dev.mockbell.compare;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Which of several like things before is which now: those that are equal first, in their order where that can be, then those of
 * the same key, then those that stand in the same gap.
 *
 * @param before for each one now, the place of the one that it was; -1 for one that is more
 * @param gone the places of those that are not there any more
 */
record Alignment(int[] before, List<Integer> gone) {
    /** As many steps as may go into finding the best order; beyond, what is equal is paired as it comes. */
    private static final long MOST_STEPS = 1_000_000;

    /**
     * Pairs two lists.
     *
     * @param hashes of the things, equal for equal ones
     * @param key what tells a thing from its like; null when nothing does
     */
    static <T> Alignment of(List<T> was, List<T> is, Function<T, Long> hashes, Function<T, String> key) {
        long[] a = was.stream().mapToLong(hashes::apply).toArray();
        long[] b = is.stream().mapToLong(hashes::apply).toArray();
        int[] pairs = new int[b.length];
        java.util.Arrays.fill(pairs, -1);
        boolean[] taken = new boolean[a.length];
        int start = 0;
        while (start < a.length && start < b.length && a[start] == b[start]) {
            pair(pairs, taken, start, start);
            start++;
        }
        int tail = 0;
        while (tail < a.length - start && tail < b.length - start && a[a.length - 1 - tail] == b[b.length - 1 - tail]) {
            pair(pairs, taken, b.length - 1 - tail, a.length - 1 - tail);
            tail++;
        }
        int rows = a.length - tail - start;
        int columns = b.length - tail - start;
        if ((long) rows * columns <= MOST_STEPS) {
            inOrder(a, b, start, rows, columns, pairs, taken);
        }
        anywhere(a, b, pairs, taken);
        if (key != null) {
            byKey(was, is, key, pairs, taken);
        } else {
            byGap(pairs, taken);
        }
        List<Integer> gone = new ArrayList<>();
        for (int i = 0; i < taken.length; i++) {
            if (!taken[i]) {
                gone.add(i);
            }
        }
        return new Alignment(pairs, gone);
    }

    private static void pair(int[] pairs, boolean[] taken, int now, int before) {
        pairs[now] = before;
        taken[before] = true;
    }

    /** The longest common subsequence of the stretch that differs. */
    private static void inOrder(long[] a, long[] b, int start, int rows, int columns, int[] pairs, boolean[] taken) {
        int[][] longest = new int[rows + 1][columns + 1];
        for (int i = rows - 1; i >= 0; i--) {
            for (int j = columns - 1; j >= 0; j--) {
                longest[i][j] = a[start + i] == b[start + j]
                        ? longest[i + 1][j + 1] + 1
                        : Math.max(longest[i + 1][j], longest[i][j + 1]);
            }
        }
        int i = 0;
        int j = 0;
        while (i < rows && j < columns) {
            if (a[start + i] == b[start + j]) {
                pair(pairs, taken, start + j++, start + i++);
            } else if (longest[i + 1][j] >= longest[i][j + 1]) {
                i++;
            } else {
                j++;
            }
        }
    }

    /** What is equal but stands elsewhere. */
    private static void anywhere(long[] a, long[] b, int[] pairs, boolean[] taken) {
        Map<Long, Deque<Integer>> free = new HashMap<>();
        for (int i = 0; i < a.length; i++) {
            if (!taken[i]) {
                free.computeIfAbsent(a[i], h -> new ArrayDeque<>()).add(i);
            }
        }
        for (int j = 0; j < b.length && !free.isEmpty(); j++) {
            Deque<Integer> like = pairs[j] < 0 ? free.get(b[j]) : null;
            if (like != null && !like.isEmpty()) {
                pair(pairs, taken, j, like.poll());
            }
        }
    }

    private static <T> void byKey(List<T> was, List<T> is, Function<T, String> key, int[] pairs, boolean[] taken) {
        Map<String, Integer> free = new HashMap<>();
        for (int i = 0; i < taken.length; i++) {
            if (!taken[i]) {
                free.put(key.apply(was.get(i)), i);
            }
        }
        for (int j = 0; j < pairs.length; j++) {
            Integer before = pairs[j] < 0 ? free.remove(key.apply(is.get(j))) : null;
            if (before != null) {
                pair(pairs, taken, j, before);
            }
        }
    }

    /** What stands between the same two neighbours, one for one. */
    private static void byGap(int[] pairs, boolean[] taken) {
        int next = 0;
        for (int j = 0; j < pairs.length; j++) {
            if (pairs[j] >= 0) {
                next = Math.max(next, pairs[j] + 1);
            } else if (next < taken.length && !taken[next]) {
                pair(pairs, taken, j, next++);
            }
        }
    }
}
