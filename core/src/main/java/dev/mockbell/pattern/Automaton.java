package dev.mockbell.pattern;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * A non-deterministic automaton: each state either reads a character of a set and goes on, or forks without reading, or
 * accepts. Built with at most {@link #MOST} states; repeats are copied out.
 */
final class Automaton {
    static final int MOST = 20_000;
    private static final int ACCEPT = 0;

    private CharSet[] reads = new CharSet[16];
    private int[] next = new int[16];
    private int[] other = new int[16];
    private int size = 1;
    private final int start;

    private Automaton(Expression root, boolean loose) {
        this.start = build(root, ACCEPT, loose);
    }

    /** @throws IllegalArgumentException when it would have too many states */
    static Automaton of(Expression root) {
        return new Automaton(root, false);
    }

    /** With every count above {@code 3} taken as endless, for judging how an expression behaves; small. */
    static Automaton loose(Expression root) {
        return new Automaton(root, true);
    }

    private int add(CharSet set, int to, int fork) {
        if (size >= MOST) {
            throw new IllegalArgumentException("the expression is too large");
        }
        if (size == next.length) {
            reads = Arrays.copyOf(reads, size * 2);
            next = Arrays.copyOf(next, size * 2);
            other = Arrays.copyOf(other, size * 2);
        }
        reads[size] = set;
        next[size] = to;
        other[size] = fork;
        return size++;
    }

    private int build(Expression e, int to, boolean loose) {
        if (e instanceof Expression.Letter letter) {
            return add(letter.set(), to, -1);
        }
        if (e instanceof Expression.Sequence sequence) {
            int at = to;
            for (int i = sequence.parts().size() - 1; i >= 0; i--) {
                at = build(sequence.parts().get(i), at, loose);
            }
            return at;
        }
        if (e instanceof Expression.Choice choice) {
            int at = -1;
            for (int i = choice.branches().size() - 1; i >= 0; i--) {
                int branch = build(choice.branches().get(i), to, loose);
                at = at < 0 ? branch : add(null, branch, at);
            }
            return at;
        }
        Expression.Repeat r = (Expression.Repeat) e;
        int min = loose ? Math.min(r.min(), 3) : r.min();
        int max = loose && r.max() > 3 ? -1 : r.max();
        return repeat(r.part(), min, max, to, loose);
    }

    private int repeat(Expression part, int min, int max, int to, boolean loose) {
        int at = to;
        if (max < 0) {
            int fork = add(null, to, to);
            // not in one statement: building may replace the array
            int body = build(part, fork, loose);
            next[fork] = body;
            at = fork;
        } else {
            for (int i = min; i < max; i++) {
                int copy = build(part, at, loose);
                at = add(null, copy, to);
            }
        }
        for (int i = 0; i < min; i++) {
            at = build(part, at, loose);
        }
        return at;
    }

    int size() {
        return size;
    }

    /** The states that read, or accept, that can be reached from the beginning without reading. */
    BitSet first() {
        BitSet set = new BitSet(size);
        reach(start, set);
        return set;
    }

    boolean accepts(BitSet states) {
        return states.get(ACCEPT);
    }

    CharSet reads(int state) {
        return reads[state];
    }

    BitSet after(BitSet states, int point) {
        BitSet found = new BitSet(size);
        for (int s = states.nextSetBit(0); s >= 0; s = states.nextSetBit(s + 1)) {
            if (s != ACCEPT && reads[s].contains(point)) {
                reach(next[s], found);
            }
        }
        return found;
    }

    /** The sets that can be read in these states. */
    List<CharSet> choices(BitSet states) {
        Set<CharSet> found = new LinkedHashSet<>();
        for (int s = states.nextSetBit(0); s >= 0; s = states.nextSetBit(s + 1)) {
            if (s != ACCEPT) {
                found.add(reads[s]);
            }
        }
        return new ArrayList<>(found);
    }

    private void reach(int state, BitSet into) {
        if (state == ACCEPT || reads[state] != null) {
            into.set(state);
            return;
        }
        int[] stack = new int[64];
        BitSet forks = new BitSet();
        int depth = 0;
        stack[depth++] = state;
        while (depth > 0) {
            int at = stack[--depth];
            if (at == ACCEPT || reads[at] != null) {
                into.set(at);
            } else if (!forks.get(at)) {
                forks.set(at);
                if (depth + 2 > stack.length) {
                    stack = Arrays.copyOf(stack, stack.length * 2);
                }
                stack[depth++] = next[at];
                stack[depth++] = other[at];
            }
        }
    }

    boolean matches(String text) {
        BitSet at = first();
        for (int i = 0; i < text.length() && !at.isEmpty(); ) {
            int point = text.codePointAt(i);
            at = after(at, point);
            i += Character.charCount(point);
        }
        return accepts(at);
    }

    /** The reading states that may follow a reading state, each as often as there are ways to it without reading. */
    List<Integer> ways(int state) {
        List<Integer> found = new ArrayList<>();
        walk(next[state], found, new BitSet());
        return found;
    }

    private void walk(int state, List<Integer> found, BitSet path) {
        if (state == ACCEPT || found.size() > 5_000) {
            return;
        }
        if (reads[state] != null) {
            found.add(state);
        } else if (!path.get(state)) {
            path.set(state);
            walk(next[state], found, path);
            walk(other[state], found, path);
            path.clear(state);
        }
    }

    /** Every state that reads. */
    List<Integer> readers() {
        List<Integer> found = new ArrayList<>();
        for (int s = 1; s < size; s++) {
            if (reads[s] != null) {
                found.add(s);
            }
        }
        return found;
    }
}
