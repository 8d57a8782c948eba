package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.util.List;
import org.junit.jupiter.api.Test;

class TableTextTest {
    @Test
    void cellsOfCsvMayBeQuotedAndHoldLineEnds() {
        assertThat(TableText.cells("name,age\r\n\"Okafor, Ines\",34\n\"two\nlines \"\"q\"\"\",\n"))
                .containsExactly(
                        List.of("name", "age"), List.of("Okafor, Ines", "34"), List.of("two\nlines \"q\"", ""));
    }

    @Test
    void linesOfASpreadsheetHaveTabs() {
        assertThat(TableText.cells("a, b\t1\nc\t2")).containsExactly(List.of("a, b", "1"), List.of("c", "2"));
    }

    @Test
    void aQuoteThatIsNotClosedIsToldInWords() {
        assertThatThrownBy(() -> TableText.cells("a,\"b"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("table cannot be read");
    }
}
