package dev.mockbell.problem;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TookTest {
    @ParameterizedTest
    @CsvSource({"0, 0 ms", "92, 92 ms", "999, 999 ms", "1000, 1 s", "1540, 1.5 s", "60000, 60 s", "720000, 12 min"})
    void aTimeIsSaidInOneForm(long millis, String words) {
        assertThat(Took.words(Duration.ofMillis(millis))).isEqualTo(words);
    }
}
