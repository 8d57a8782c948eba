package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LimitTest {
    private static final StepFigures TOTAL =
            new StepFigures(StepFigures.Kind.ALL, "all", 200, 4, 1, 20, 1, 30, 20, 80, 120, 400, 700, 900, 20, 395);

    @ParameterizedTest
    @CsvSource({
        "P50, 21, true, p50 under 21 ms",
        "P50, 20, false, p50 under 20 ms",
        "P90, 100, true, p90 under 100 ms",
        "P95, 100, false, p95 under 100 ms",
        "P99, 500, true, p99 under 500 ms",
        "MAX, 900, false, max under 900 ms",
        "FAILED, 2.5, true, failed under 2.5 %",
        "FAILED, 2, false, failed under 2 %",
        "P999, 700, false, p99.9 under 700 ms",
        "MEAN, 30.5, true, mean under 30.5 ms",
        "CHECKS, 0.6, true, checks that fail under 0.6 %",
        "CHECKS, 0.5, false, checks that fail under 0.5 %",
        "HELD, 98, true, at least 98 % of what was planned",
        "HELD, 99, false, at least 99 % of what was planned",
        "RATE, 19.6, true, at least 19.6/s done",
        "RATE, 20, false, at least 20/s done"
    })
    void aLimitIsKeptOrNotAndSaysWhatItIs(Limit.Measure measure, double bound, boolean kept, String title) {
        Limit limit = new Limit(measure, bound);
        assertThat(limit.judge(TOTAL, 10, 98.5).kept()).isEqualTo(kept);
        assertThat(limit.title()).isEqualTo(title);
    }

    @Test
    void withoutASingleAnswerNoLimitIsKept() {
        StepFigures nothing = new StepFigures(StepFigures.Kind.ALL, "all", 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);
        for (Limit.Measure measure : Limit.Measure.values()) {
            assertThat(new Limit(measure, 1_000).judge(nothing, 10, 0).kept())
                    .as(measure.name())
                    .isFalse();
        }
    }

    @Test
    void bandsCoverAllTimesWithoutGaps() {
        assertThat(ResponseBands.lowerMicros(0)).isZero();
        assertThat(ResponseBands.lowerMicros(1)).isEqualTo(1_000);
        assertThat(ResponseBands.lowerMicros(5)).isEqualTo(10_000);
        for (int band = 1; band < ResponseBands.COUNT; band++) {
            assertThat(ResponseBands.lowerMicros(band)).isGreaterThan(ResponseBands.lowerMicros(band - 1));
        }
    }
}
