package dev.mockbell.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZonedDateTime;
import org.junit.jupiter.api.Test;

class MomentsTest {
    @Test
    void whatWasOnAnotherDaySaysSo() {
        ZonedDateTime at = ZonedDateTime.parse("2026-11-26T07:12:01.250+01:00");
        assertThat(Moments.toTheSecond(at, LocalDate.of(2026, 11, 26))).isEqualTo("07:12:01");
        assertThat(Moments.toTheSecond(at, LocalDate.of(2026, 11, 27))).isEqualTo("26 Nov 07:12:01");
        assertThat(Moments.toTheSecond(at, LocalDate.of(2027, 1, 2))).isEqualTo("26 Nov 2026 07:12:01");
    }

    @Test
    void whatIsKeptSaysItsDayAndYearAlsoToday() {
        assertThat(Moments.withDay(Instant.parse("2027-01-20T12:00:09Z")))
                .matches("\\d{1,2} Jan 2027 \\d\\d:\\d\\d:09");
    }
}
