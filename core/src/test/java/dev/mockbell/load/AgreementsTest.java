package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class AgreementsTest {
    private static final long QUICK = 10_000_000;

    private final Agreements agreements = new Agreements();

    private int most() {
        int most = 0;
        while (agreements.admits(most)) {
            most++;
        }
        return most;
    }

    @Test
    void thereAreMoreAtATimeWhileThatMakesNoneOfThemSlower() {
        assertThat(most()).isEqualTo(2);
        for (int i = 0; i < 100; i++) {
            agreements.ended(QUICK, most());
        }
        // a server far away, for whom they are no work: twice as many with each that comes back
        assertThat(most()).isEqualTo(102);
    }

    @Test
    void whatIsNotAskedForDoesNotGrow() {
        for (int i = 0; i < 100; i++) {
            agreements.ended(QUICK, 1);
        }
        assertThat(most()).isEqualTo(2);
    }

    @Test
    void thoseInEachOthersWayBecomeFewerButSomeAlwaysGoOn() {
        agreements.ended(QUICK, 1);
        for (int i = 0; i < 1_000; i++) {
            // two processors between them
            agreements.ended(QUICK * most() / 2, most());
        }
        assertThat(most()).isBetween(4, 12);
        for (int i = 0; i < 20; i++) {
            agreements.ended(100 * QUICK, most());
        }
        assertThat(most()).isEqualTo(2);
    }

    @Test
    void whatWasQuickOnceIsForgotten() {
        agreements.ended(QUICK / 20, 1);
        for (int i = 0; i < 1_000; i++) {
            agreements.ended(QUICK, most());
        }
        assertThat(most()).isGreaterThan(100);
    }
}
