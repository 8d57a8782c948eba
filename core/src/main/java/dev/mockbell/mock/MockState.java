package dev.mockbell.mock;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.BiPredicate;

/**
 * What a running mock counts. It belongs to the host and outlives the plans that it serves by, so that editing an answer
 * forgets nothing. Safe for many threads.
 */
final class MockState {
    /** The counts of an operation. */
    static final class Counts {
        private final AtomicLong hits = new AtomicLong();
        private List<Given> answers = List.of();

        /** Counts a call; its number, counted from 1, is this call's alone. */
        long hit() {
            return hits.incrementAndGet();
        }

        long hits() {
            return hits.get();
        }

        /**
         * The counter of each answer: an answer that was there before keeps its own, also when it moved or its body was
         * changed; one that is another takes over that of its place.
         */
        synchronized List<LongAdder> of(List<MockAnswer> now) {
            List<Given> left = new ArrayList<>(answers);
            Given[] made = new Given[now.size()];
            take(now, made, left, MockAnswer::equals);
            take(
                    now,
                    made,
                    left,
                    (one, other) ->
                            one.title().equals(other.title()) && one.when().equals(other.when()));
            for (int i = 0; i < made.length; i++) {
                boolean changed = made[i] == null && i < answers.size() && left.remove(answers.get(i));
                LongAdder count = made[i] != null
                        ? made[i].count()
                        : changed ? answers.get(i).count() : new LongAdder();
                made[i] = new Given(now.get(i), count);
            }
            answers = List.of(made);
            return answers.stream().map(Given::count).toList();
        }
    }

    private static void take(
            List<MockAnswer> now, Given[] made, List<Given> left, BiPredicate<MockAnswer, MockAnswer> same) {
        for (int i = 0; i < made.length; i++) {
            MockAnswer answer = now.get(i);
            if (made[i] == null) {
                Given found = left.stream()
                        .filter(g -> same.test(g.answer(), answer))
                        .findFirst()
                        .orElse(null);
                left.remove(found);
                made[i] = found;
            }
        }
    }

    private record Given(MockAnswer answer, LongAdder count) {}

    private final Map<String, Counts> operations = new ConcurrentHashMap<>();

    Counts of(String operation) {
        return operations.computeIfAbsent(operation, o -> new Counts());
    }
}
