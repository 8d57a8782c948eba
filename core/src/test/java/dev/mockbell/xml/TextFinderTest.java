package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextFinder.Range;
import org.junit.jupiter.api.Test;

class TextFinderTest {
    @Test
    void aTextIsFoundLiterallyWithOrWithoutCase() {
        assertThat(TextFinder.of("a.b", false, false).in("a.b A.B axb"))
                .containsExactly(new Range(0, 3), new Range(4, 7));
        assertThat(TextFinder.of("a.b", false, true).in("a.b A.B axb")).containsExactly(new Range(0, 3));
    }

    @Test
    void aPatternReplacesByItsGroupsAndATextDoesNot() {
        assertThat(TextFinder.of("<n>(\\d+)<", true, true).replaceAll("<n>7</n>", "<n>1$1<"))
                .isEqualTo("<n>17</n>");
        assertThat(TextFinder.of("7", false, true).replaceAll("<n>7</n>", "$1")).isEqualTo("<n>$1</n>");
        assertThat(TextFinder.of("(\\d)", true, true).replacement("a7b", new Range(1, 2), "[$1]"))
                .isEqualTo("[7]");
    }

    @Test
    void whatIsNotWellFormedIsToldInWords() {
        assertThatThrownBy(() -> TextFinder.of("(", true, true))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("pattern is not well-formed");
        assertThatThrownBy(() -> TextFinder.of("a", true, true).replaceAll("a", "$3"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("replacement is not well-formed");
    }

    @Test
    void aPatternThatWouldTakeForEverEndsInWords() {
        assertThatThrownBy(
                        () -> TextFinder.of("(.*)".repeat(8) + "x", true, true).in("a".repeat(400)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("takes too long");
    }

    @Test
    void emptyMatchesAreNoPlaces() {
        assertThat(TextFinder.of("x*", true, true).in("axa")).containsExactly(new Range(1, 2));
    }
}
