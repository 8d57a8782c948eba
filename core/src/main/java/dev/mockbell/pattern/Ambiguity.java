package dev.mockbell.pattern;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Whether a matcher that backtracks may take time exponential in the text's length: it may when some state leads back to
 * itself in two different ways over one and the same text, as in {@code (a+)+}.
 */
final class Ambiguity {
    private static final int MOST_PAIRS = 200_000;

    private final Automaton automaton;
    private final Map<Integer, Set<Integer>> follow = new HashMap<>();
    private final Map<Integer, Integer> component = new HashMap<>();
    private boolean twice;

    private Ambiguity(Automaton automaton) {
        this.automaton = automaton;
    }

    static boolean isExponential(Expression root) {
        try {
            return repeatsNothing(root) || new Ambiguity(Automaton.loose(root)).find();
        } catch (IllegalArgumentException tooLarge) {
            return true;
        }
    }

    /** Whether something that may be empty is repeated without bound, as in {@code (a*)*}. */
    private static boolean repeatsNothing(Expression e) {
        if (e instanceof Expression.Repeat r) {
            boolean endless = r.max() < 0 || r.max() > 3;
            boolean letter = r.part() instanceof Expression.Letter;
            return endless && !letter && mayBeEmpty(r.part()) || repeatsNothing(r.part());
        }
        if (e instanceof Expression.Sequence s) {
            return s.parts().stream().anyMatch(Ambiguity::repeatsNothing);
        }
        return e instanceof Expression.Choice c && c.branches().stream().anyMatch(Ambiguity::repeatsNothing);
    }

    private static boolean mayBeEmpty(Expression e) {
        if (e instanceof Expression.Repeat r) {
            return r.min() == 0 || mayBeEmpty(r.part());
        }
        if (e instanceof Expression.Sequence s) {
            return s.parts().stream().allMatch(Ambiguity::mayBeEmpty);
        }
        return e instanceof Expression.Choice c && c.branches().stream().anyMatch(Ambiguity::mayBeEmpty);
    }

    private boolean find() {
        List<Integer> readers = automaton.readers();
        for (int state : readers) {
            List<Integer> ways = automaton.ways(state);
            follow.put(state, new HashSet<>(ways));
        }
        components(readers);
        for (int state : readers) {
            Set<Integer> seen = new HashSet<>();
            for (int to : automaton.ways(state)) {
                twice |= !seen.add(to) && together(state, to);
            }
        }
        return twice || readers.stream().anyMatch(this::splits);
    }

    private boolean together(int a, int b) {
        return component.containsKey(a) && component.get(a).equals(component.get(b));
    }

    /** Numbers the strongly connected components; a state on no cycle gets no number. */
    private void components(List<Integer> readers) {
        Map<Integer, BitSet> reach = new HashMap<>();
        if (readers.size() > 3_000) {
            throw new IllegalArgumentException("too large to judge");
        }
        for (int from : readers) {
            BitSet seen = new BitSet();
            Deque<Integer> open = new ArrayDeque<>(follow.get(from));
            while (!open.isEmpty()) {
                int at = open.pop();
                if (!seen.get(at)) {
                    seen.set(at);
                    open.addAll(follow.get(at));
                }
            }
            reach.put(from, seen);
        }
        int number = 0;
        for (int a : readers) {
            if (reach.get(a).get(a) && !component.containsKey(a)) {
                number++;
                for (int b : readers) {
                    if (reach.get(a).get(b) && reach.get(b).get(a)) {
                        component.put(b, number);
                    }
                }
            }
        }
    }

    /** Whether two walks over the same text leave this state, differ, and come back to it. */
    private boolean splits(int state) {
        if (!component.containsKey(state)) {
            return false;
        }
        Set<Long> seen = new HashSet<>();
        Deque<long[]> open = new ArrayDeque<>();
        open.push(new long[] {state, state, 0});
        while (!open.isEmpty()) {
            long[] at = open.pop();
            for (int a : follow.get((int) at[0])) {
                for (int b : follow.get((int) at[1])) {
                    if (!together(state, a) || !together(state, b) || !meet(a, b)) {
                        continue;
                    }
                    long apart = at[2] == 1 || a != b ? 1 : 0;
                    if (apart == 1 && a == state && b == state) {
                        return true;
                    }
                    if (seen.size() > MOST_PAIRS) {
                        throw new IllegalArgumentException("too large to judge");
                    }
                    if (seen.add((long) a << 32 | (long) b << 1 | apart)) {
                        open.push(new long[] {a, b, apart});
                    }
                }
            }
        }
        return false;
    }

    private boolean meet(int a, int b) {
        return a == b || automaton.reads(a).meets(automaton.reads(b));
    }
}
