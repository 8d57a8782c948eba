package dev.mockbell.message;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PatternSamplesTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = ' ',
            quoteCharacter = '^',
            value = {
                "[A-Z]{2}[0-9]{4} 0 10",
                "(ab|cd)+ 5 8",
                "a?b*c+ 3 3",
                "[^0-9]{3} 3 3",
                "\\d{2}:\\d{2} 5 5",
                "x{0,3}y 1 4",
                "((a|b)(c|d)){2} 4 4",
                "[\\-+]?\\d+(\\.\\d+)? 6 9",
                "\\p{Lu}\\p{Ll}+ 4 4"
            })
    void somethingThatMatchesIsFoundWithinTheLengths(String pattern, int least, int most) {
        assertThat(PatternSamples.of(pattern, least, most))
                .anyMatch(s -> Pattern.matches(pattern, s) && s.length() >= least && s.length() <= most);
    }

    @Test
    void theSameComesEveryTime() {
        assertThat(PatternSamples.of("[a-z]{3,9}(x|y)*", 4, 9)).isEqualTo(PatternSamples.of("[a-z]{3,9}(x|y)*", 4, 9));
    }

    @Test
    void whatCannotBeReadGivesNothing() {
        assertThat(PatternSamples.of("[a-", 0, 9)).isEmpty();
        assertThat(PatternSamples.of("a{x}", 0, 9)).isEmpty();
    }

    @Test
    void aCatastrophicPatternIsNoTrouble() {
        assertThat(PatternSamples.of("((a+)+)+((b*)*)*c{1,1000000}", 10, 50)).isNotNull();
    }
}
