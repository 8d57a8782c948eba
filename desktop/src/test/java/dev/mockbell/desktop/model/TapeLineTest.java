package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.Ties;
import dev.mockbell.ledger.Listing;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class TapeLineTest {
    private static final Instant START = Instant.parse("2026-11-28T08:00:00Z");

    private static Listing line(long id, long second, Way way, Outcome outcome) {
        return new Listing(
                id, START.plusSeconds(second), way, "", "", "", "", 200, 1, 0, 0, outcome, "", Ties.NONE, false);
    }

    @Test
    void theNewestAreHeldAndThoseOfASpanAreGiven() {
        TapeLine tape = new TapeLine(5);
        for (int i = 1; i <= 8; i++) {
            tape.add(line(i, i, i % 2 == 0 ? Way.TAPPED : Way.CALLED, i == 7 ? Outcome.FAILED : Outcome.FINE));
        }
        assertThat(tape.newest(3)).extracting(Listing::id).containsExactly(8L, 7L, 6L);
        TapeLine.Part all = tape.since(Instant.EPOCH);
        assertThat(all.lines()).extracting(Listing::id).containsExactly(4L, 5L, 6L, 7L, 8L);
        TapeLine.Part some = tape.since(START.plusSeconds(6));
        assertThat(some.lines()).extracting(Listing::id).containsExactly(6L, 7L, 8L);
        assertThat(some.way(0)).isEqualTo(Way.TAPPED);
        assertThat(some.outcome(1)).isEqualTo(Outcome.FAILED);
        assertThat(some.count(Outcome.FAILED)).isEqualTo(1);
        assertThat(some.started()[2]).isEqualTo(START.plusSeconds(8).toEpochMilli());
    }

    @Test
    void whatWasThereBeforeComesInFrontWhileThereIsRoom() {
        TapeLine tape = new TapeLine(4);
        tape.add(line(10, 50, Way.CALLED, Outcome.FINE));
        tape.before(List.of(
                line(10, 50, Way.CALLED, Outcome.FINE),
                line(9, 40, Way.CALLED, Outcome.FINE),
                line(8, 30, Way.CALLED, Outcome.FINE),
                line(7, 20, Way.CALLED, Outcome.FINE),
                line(6, 10, Way.CALLED, Outcome.FINE)));
        assertThat(tape.since(Instant.EPOCH).lines()).extracting(Listing::id).containsExactly(7L, 8L, 9L, 10L);
        tape.add(line(11, 60, Way.CALLED, Outcome.FINE));
        assertThat(tape.newest(9)).extracting(Listing::id).containsExactly(11L, 10L, 9L, 8L);
    }

    @Test
    void oneThatEndedLateIsFoundInItsOwnTime() {
        TapeLine tape = new TapeLine(10);
        tape.add(line(1, 100, Way.CALLED, Outcome.FINE));
        tape.add(line(2, 10, Way.CALLED, Outcome.FINE));
        assertThat(tape.since(START.plusSeconds(50)).lines())
                .extracting(Listing::id)
                .containsExactly(1L);
        assertThat(tape.since(START).lines()).extracting(Listing::id).containsExactly(1L, 2L);
    }
}
