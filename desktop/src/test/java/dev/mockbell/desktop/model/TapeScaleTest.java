package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Duration;
import java.time.Instant;
import java.util.Random;
import org.junit.jupiter.api.Test;

class TapeScaleTest {
    private static final Instant START = Instant.parse("2026-11-28T08:00:00Z");
    private static final Instant END = START.plus(Duration.ofHours(1));

    private static long at(long minutes) {
        return START.plus(Duration.ofMinutes(minutes)).toEpochMilli();
    }

    @Test
    void anEmptyHourIsAnHour() {
        TapeScale scale = TapeScale.of(START, END, new long[0], 600);
        assertThat(scale.pieces()).hasSize(1);
        assertThat(scale.x(at(30))).isCloseTo(300, within(0.1));
        assertThat(scale.at(150)).isEqualTo(START.plus(Duration.ofMinutes(15)));
    }

    @Test
    void theLastMinuteOfAnEmptyHourHasMostOfTheWidth() {
        TapeScale scale = TapeScale.of(START, END, new long[] {at(59)}, 600);
        assertThat(scale.pieces()).hasSize(2);
        assertThat(scale.pieces().get(0).folded()).isTrue();
        assertThat(scale.pieces().get(0).width()).isEqualTo(TapeScale.FOLD);
        assertThat(scale.pieces().get(0).time()).isEqualTo(Duration.ofMinutes(54));
        assertThat(scale.open()).isEqualTo(Duration.ofMinutes(6));
        assertThat(scale.x(at(59))).isBetween(400.0, 510.0);
        assertThat(scale.isFolded(at(20))).isTrue();
        assertThat(scale.isFolded(at(58))).isFalse();
    }

    @Test
    void quietTimesBetweenAndAfterAreFoldedAndShortOnesAreNot() {
        TapeScale scale = TapeScale.of(START, END, new long[] {at(40), at(5), at(8), at(6)}, 600);
        assertThat(scale.pieces()).extracting(TapeScale.Piece::folded).containsExactly(false, true, false, true);
        assertThat(scale.pieces().get(0).time()).isEqualTo(Duration.ofMinutes(13));
        double end = scale.pieces().get(3).x() + scale.pieces().get(3).width();
        assertThat(end).isCloseTo(600, within(0.01));
    }

    @Test
    void whereAMomentStandsLeadsBackToIt() {
        Random random = new Random(3);
        for (int round = 0; round < 200; round++) {
            long[] moments = random.longs(random.nextInt(40), at(0), at(60)).toArray();
            TapeScale scale = TapeScale.of(START, END, moments, 1_100);
            double before = -1;
            for (long minute = 0; minute <= 60; minute++) {
                double x = scale.x(at(minute));
                assertThat(x).as("time goes on").isGreaterThanOrEqualTo(before).isBetween(0.0, 1_100.01);
                before = x;
                if (!scale.isFolded(at(minute))) {
                    assertThat(Math.abs(scale.at(x).toEpochMilli() - at(minute)))
                            .isLessThan(10);
                }
            }
            for (long moment : moments) {
                assertThat(scale.isFolded(moment))
                        .as("what happened is never folded away")
                        .isFalse();
            }
        }
    }
}
