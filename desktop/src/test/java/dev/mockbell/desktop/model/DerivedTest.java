package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class DerivedTest {
    private final Queue<Runnable> back = new ConcurrentLinkedQueue<>();
    private final Tasks tasks = new Tasks(back::add);
    private final List<String> made = java.util.Collections.synchronizedList(new ArrayList<>());
    private final Queue<Problem> failures = new ArrayDeque<>();

    @AfterEach
    void close() {
        tasks.close();
    }

    private Derived<String, String> lengths(int most) {
        return new Derived<>(
                tasks,
                most,
                key -> {
                    made.add(key);
                    if (key.isEmpty()) {
                        throw Problem.input("An empty key has no length", null, null);
                    }
                    return String.valueOf(key.length());
                },
                failures::add);
    }

    /** Plays the interface thread until all work has come back. */
    private void settle() {
        while (tasks.running() > 0 || !back.isEmpty()) {
            Runnable next = back.poll();
            if (next != null) {
                next.run();
            } else {
                Thread.onSpinWait();
            }
        }
    }

    @Test
    void workThatNeedsMoreMemoryThanThereIsIsToldToWhoeverWaits() {
        tasks.run(
                () -> {
                    throw new OutOfMemoryError("as the machine says it");
                },
                done -> made.add("done"),
                failures::add);
        settle();
        assertThat(made).isEmpty();
        assertThat(failures)
                .singleElement()
                .satisfies(p -> assertThat(p.getMessage())
                        .startsWith("There is not enough memory for that")
                        .contains("MOCKBELL_OPTS"));
    }

    @Test
    void aValueIsWorkedOutOnceAKeyAndThereLater() {
        Derived<String, String> lengths = lengths(10);
        assertThat(lengths.of("abc")).isEmpty();
        assertThat(lengths.of("abc")).isEmpty();
        settle();
        assertThat(lengths.of("abc")).contains("3");
        assertThat(made).containsExactly("abc");
        assertThat(lengths.changesProperty().get()).isEqualTo(1);
    }

    @Test
    void onlyTheLastAreKept() {
        Derived<String, String> lengths = lengths(2);
        for (String key : List.of("a", "bb", "ccc")) {
            lengths.of(key);
            settle();
        }
        assertThat(lengths.of("ccc")).contains("3");
        assertThat(lengths.of("a")).as("worked out anew").isEmpty();
        settle();
        assertThat(made).containsExactly("a", "bb", "ccc", "a");
    }

    @Test
    void whatComesAfterItIsForgottenDoesNotCount() throws InterruptedException {
        CountDownLatch go = new CountDownLatch(1);
        List<String> worlds = new ArrayList<>(List.of("old", "new"));
        Derived<String, String> slow = new Derived<>(
                tasks,
                10,
                key -> {
                    String world = worlds.remove(0);
                    if (world.equals("old")) {
                        await(go);
                    }
                    return world;
                },
                failures::add);
        slow.of("k");
        while (worlds.size() > 1) {
            Thread.sleep(1);
        }
        slow.forget();
        go.countDown();
        settle();
        assertThat(slow.of("k")).isEmpty();
        settle();
        assertThat(slow.of("k")).contains("new");
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void aFailureIsToldOnceAndNotTriedAgainByEveryLook() {
        Derived<String, String> lengths = lengths(10);
        lengths.of("");
        settle();
        lengths.of("");
        settle();
        assertThat(failures).hasSize(1);
        assertThat(made).containsExactly("");
    }

    @Test
    void workThatRunsOutOfStackComesBackAsAProblem() {
        Derived<Integer, Integer> deep = new Derived<>(tasks, 10, DerivedTest::down, failures::add);
        deep.of(0);
        settle();
        assertThat(failures).hasSize(1);
        assertThat(tasks.running()).isZero();
    }

    private static Integer down(Integer at) {
        return down(at + 1) + 1;
    }
}
