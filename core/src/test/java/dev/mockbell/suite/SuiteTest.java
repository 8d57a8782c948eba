package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SuiteTest {
    private final Step a = Step.call("A", "c/O/a");
    private final Step b = new Step.Pause("B", true, 5);
    private final Step group = new Step.Group("G", true, List.of(a, b));
    private final Suite suite = new Suite("s", "S", List.of(b), List.of(a, group), List.of());

    @Test
    void stepsAreFoundTakenOutAndPutInAtAnyDepth() {
        assertThat(suite.at(StepPath.parse("2.2"))).contains(b);
        assertThat(suite.at(StepPath.parse("set-up 1"))).contains(b);
        assertThat(suite.at(StepPath.parse("2.3"))).isEmpty();
        Suite without = suite.replacing(StepPath.parse("2.1"), List.of());
        assertThat(without.at(StepPath.parse("2.1"))).contains(b);
        assertThat(without.inserting(StepPath.parse("2.1"), a)).isEqualTo(suite);
        List<String> order = new ArrayList<>();
        suite.each((path, step) -> order.add(path.text() + " " + step.name()));
        assertThat(order).containsExactly("set-up 1 B", "1 A", "2 G", "2.1 A", "2.2 B");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "0", "1.", "x", "set-up", "1..2", "-1"})
    void whatIsNoPathIsSaid(String text) {
        assertThatThrownBy(() -> StepPath.parse(text))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no step");
    }

    @ParameterizedTest
    @CsvSource({"1, 2, true", "2, 2.1, true", "2.1, 2, false", "set-up 3, 1, true", "1.9, 2, true", "2, 2, false"})
    void placesAreInOrder(String one, String other, boolean before) {
        assertThat(StepPath.parse(one).isBefore(StepPath.parse(other))).isEqualTo(before);
    }

    @ParameterizedTest
    @ValueSource(strings = {"a,b\n1,2\n", "\uFEFFa;b\r\n1;2\r\n", "a\tb\n1\t2"})
    void tablesAreReadHoweverTheyAreSeparated(String text) {
        DataTable table = DataTable.parse("t.csv", text);
        assertThat(table.columns()).containsExactly("a", "b");
        assertThat(table.rows()).containsExactly(List.of("1", "2"));
    }

    @Test
    void aTableIsWrittenAsItIsRead() {
        DataTable table = new DataTable(
                "t.csv",
                List.of("a", "b"),
                List.of(List.of("x, \"y\"", "line\nbreak"), List.of("", " "), List.of("{$n}", "ü")));
        assertThat(DataTable.parse("t.csv", table.csv())).isEqualTo(table);
        DataTable single = new DataTable("t.csv", List.of("a"), List.of(List.of(""), List.of("x")));
        assertThat(DataTable.parse("t.csv", single.csv())).isEqualTo(single);
    }

    @Test
    void unevenRowsAndNamelessColumnsAreSaidWithTheirPlace() {
        assertThatThrownBy(() -> DataTable.parse("t.csv", "a,b\n1,2\n1,2,3\n"))
                .hasMessageContaining("Row 2")
                .hasMessageContaining("3 values")
                .hasMessageContaining("t.csv");
        assertThatThrownBy(() -> DataTable.parse("t.csv", "a,a\n1,2\n")).hasMessageContaining("no name of its own");
        assertThatThrownBy(() -> DataTable.parse("t.csv", "")).hasMessageContaining("empty");
        assertThatThrownBy(() -> DataTable.parse("t.csv", "a,b\n\"1,2\n")).hasMessageContaining("cannot be read");
    }
}
