package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** What happens is said in its order, and whoever does not listen holds nothing up. */
class AloudTest {
    private static final int FLOOD = 5_000;
    private static final Pattern MORE = Pattern.compile("… and (\\d+) more");

    private final List<String> said = new CopyOnWriteArrayList<>();

    private void take(String lines) {
        said.addAll(lines.lines().toList());
    }

    @Test
    void linesAreSaidInTheirOrderAndTheLastOnesAtTheEnd() {
        try (Aloud aloud = new Aloud(this::take)) {
            for (int i = 0; i < 300; i++) {
                int number = i;
                aloud.say(() -> "line " + number);
            }
        }
        assertThat(said).hasSize(300).startsWith("line 0", "line 1").endsWith("line 298", "line 299");
    }

    @Test
    void whoeverDoesNotListenHoldsNothingUpAndIsToldHowMuchWasMissed() {
        CountDownLatch listens = new CountDownLatch(1);
        Aloud aloud = new Aloud(lines -> {
            try {
                listens.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            take(lines);
        });
        assertTimeoutPreemptively(Duration.ofSeconds(20), () -> {
            for (int i = 0; i < FLOOD; i++) {
                aloud.say(() -> "line");
            }
        });
        listens.countDown();
        aloud.say(() -> "line");
        aloud.close();
        long more = said.stream()
                .map(MORE::matcher)
                .filter(Matcher::matches)
                .mapToLong(m -> Long.parseLong(m.group(1)))
                .sum();
        assertThat(more).isPositive();
        assertThat(said.stream().filter("line"::equals).count() + more).isEqualTo(FLOOD + 1);
    }

    @Test
    void theEndDoesNotWaitForWhoeverDoesNotListen() {
        CountDownLatch never = new CountDownLatch(1);
        Aloud aloud = new Aloud(lines -> {
            boolean stuck = true;
            while (stuck) {
                try {
                    never.await();
                    stuck = false;
                } catch (InterruptedException e) {
                    // a write to a terminal that is paused cannot be interrupted either
                }
            }
        });
        aloud.say(() -> "line");
        assertTimeoutPreemptively(Duration.ofSeconds(20), aloud::close);
        never.countDown();
    }

    @Test
    void aLineThatCannotBeMadeDoesNotEndTheOthers() {
        try (Aloud aloud = new Aloud(this::take)) {
            aloud.say(() -> {
                throw new IllegalStateException("no words");
            });
            aloud.say(() -> "line");
        }
        assertThat(said).containsExactly("no words", "line");
    }
}
