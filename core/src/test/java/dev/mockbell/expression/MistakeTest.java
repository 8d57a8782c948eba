package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MistakeTest {
    private final Expressions expressions = new Expressions();
    private final Scope scope = Scope.EMPTY.with(Map.of("nights", "2"));

    /** The mark stands before the character at which reading stops. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "a {$nights} b {1 + ^}",
                "{1 +* ^2}",
                "{concat('a', 'b'^}",
                "{^$nope}",
                "{1 + ^$nope + 2}",
                "one {2} ^}",
                "one ^{2",
                "{$nights[^}",
                "{if (1) then 2^}"
            })
    void theFirstIsFoundAtItsCharacter(String marked) {
        String text = marked.replace("^", "");
        assertThat(Mistake.in(text, expressions, scope))
                .hasValueSatisfying(m -> assertThat(new StringBuilder(text).insert(m.offset(), '^'))
                        .hasToString(marked));
    }

    @Test
    void linesOfAnExpressionAreCounted() {
        String text = "{$nights +\n  1 +\n  )}";
        assertThat(Mistake.in(text, expressions, scope))
                .hasValueSatisfying(m -> assertThat(m.offset()).isEqualTo(text.indexOf(')')));
    }

    @Test
    void whatGivesAValueHasNone() {
        assertThat(Mistake.in("{$nights} nights, {{or so}}", expressions, scope))
                .isEmpty();
    }

    @Test
    void theMessageNamesTheCharacter() {
        assertThatThrownBy(() -> expressions.text("1 + $nope", scope))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("1 + $nope, character 5");
        assertThatThrownBy(() -> expressions.text("1 + ", scope)).hasMessageContaining("1 + , at its end");
    }
}
