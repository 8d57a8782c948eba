package dev.mockbell.mock;

import dev.mockbell.security.RequestSecurity;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.BiPredicate;
import java.util.function.Supplier;
import java.util.random.RandomGenerator;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmValue;

/**
 * What a running mock counts and remembers. It belongs to the host and outlives the plans that it serves by, so that editing an
 * answer forgets nothing. Counts are safe for many threads; who decides by turns, chance or memory holds its lock.
 */
final class MockState {
    private static final int MOST_CALLERS = 10_000;

    private final Map<String, Counts> operations = new ConcurrentHashMap<>();
    /** The names of what is remembered, in the order in which they came up: an answer that was prepared before finds them there. */
    private final List<String> names = new ArrayList<>();

    private final MockMemory memory = new MockMemory();
    private AskedLogin askedFor;
    private RequestSecurity security;
    private final Map<String, XdmValue> initial = new HashMap<>();
    private RandomGenerator random = new SplittableRandom(1);
    private long seed = 1;
    private long given;

    Counts of(String operation) {
        return operations.computeIfAbsent(operation, o -> new Counts());
    }

    MockMemory memory() {
        return memory;
    }

    /** Chance; another seed begins it anew. */
    synchronized void seed(long other) {
        if (other != seed) {
            seed = other;
            random = new SplittableRandom(other);
        }
    }

    synchronized RandomGenerator random() {
        return random;
    }

    /** So long. */
    long millis(Pause pause) {
        if (pause.isFixed()) {
            return pause.millis(null);
        }
        synchronized (this) {
            return pause.millis(random);
        }
    }

    /** What judges requests for a login; the same as long as it is asked for alike, so that no nonce is forgotten. */
    synchronized RequestSecurity security(AskedLogin asked, Supplier<RequestSecurity> made) {
        if (!asked.equals(askedFor)) {
            security = made.get();
            askedFor = asked;
        }
        return security;
    }

    /** What a name of which every caller has his own begins with. */
    synchronized XdmValue initial(String name) {
        return initial.getOrDefault(name, XdmEmptySequence.getInstance());
    }

    synchronized void initial(String name, XdmValue value) {
        initial.put(name, value);
    }

    /** The number of an answer given, of which none has the same. */
    long next() {
        return ++given;
    }

    /** All names that are remembered; those that were there keep their place. */
    synchronized List<String> names(Iterable<String> wanted) {
        for (String name : wanted) {
            if (!names.contains(name)) {
                names.add(name);
            }
        }
        return List.copyOf(names);
    }

    /** What is known of an answer as long as it is there. */
    static final class Given {
        private final MockAnswer answer;
        private final Known known;

        private Given(MockAnswer answer, Known known) {
            this.answer = answer;
            this.known = known;
        }
    }

    /** The counts of an answer, and its last version that could be given. */
    static final class Known {
        private final LongAdder hits = new LongAdder();
        private long met;
        private long last;
        private volatile PreparedAnswer good;
        private final Map<String, long[]> byCaller = new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<String, long[]> eldest) {
                return size() > MOST_CALLERS;
            }
        };

        LongAdder hits() {
            return hits;
        }

        /** The last version of it that could be given; null when there was none. */
        PreparedAnswer good() {
            return good;
        }

        void good(PreparedAnswer now) {
            good = now;
        }

        /** How many requests met its condition; of one caller, or all for an empty name. */
        long met(String caller) {
            return caller.isEmpty() ? met : byCaller.getOrDefault(caller, new long[2])[0];
        }

        void meet(String caller) {
            if (caller.isEmpty()) {
                met++;
            } else {
                byCaller.computeIfAbsent(caller, c -> new long[2])[0]++;
            }
        }

        /** When it was given last, as a number that grows; 0 for never. */
        long last(String caller) {
            return caller.isEmpty() ? last : byCaller.getOrDefault(caller, new long[2])[1];
        }

        void give(String caller, long number) {
            if (caller.isEmpty()) {
                last = number;
            } else {
                byCaller.computeIfAbsent(caller, c -> new long[2])[1] = number;
            }
        }
    }

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
         * What is known of each answer: one that was there before keeps its own, also when it moved or its body was changed; one that
         * is another takes over that of its place.
         */
        synchronized List<Known> of(List<MockAnswer> now) {
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
                if (made[i] == null) {
                    boolean changed = i < answers.size() && left.remove(answers.get(i));
                    made[i] = new Given(now.get(i), changed ? answers.get(i).known : new Known());
                } else {
                    made[i] = new Given(now.get(i), made[i].known);
                }
            }
            answers = List.of(made);
            return answers.stream().map(g -> g.known).toList();
        }
    }

    private static void take(
            List<MockAnswer> now, Given[] made, List<Given> left, BiPredicate<MockAnswer, MockAnswer> same) {
        for (int i = 0; i < made.length; i++) {
            MockAnswer answer = now.get(i);
            if (made[i] == null) {
                Given found = left.stream()
                        .filter(g -> same.test(g.answer, answer))
                        .findFirst()
                        .orElse(null);
                left.remove(found);
                made[i] = found;
            }
        }
    }
}
