package dev.mockbell.written;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.written.RowEdits.Edited;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RowEditsTest {
    private final List<WrittenRow> rows = WrittenRows.of(WrittenDocumentsTest.lostAndFound());

    private static List<String> names(List<WrittenRow> rows) {
        return rows.stream()
                .map(r -> r.isField()
                        ? "  ".repeat(r.depth()) + r.name()
                        : r.kind() == WrittenRow.Kind.PART ? "[" + r.type() + r.name() + "]" : r.name() + ":")
                .toList();
    }

    private int at(String name) {
        return names(rows).indexOf(name);
    }

    @Test
    void aNewFieldComesBesideOrIntoTheRow() {
        assertThat(RowEdits.fieldAfter(rows, at("hutId"))
                        .rows()
                        .get(at("hutId") + 1)
                        .depth())
                .isZero();
        assertThat(RowEdits.fieldAfter(rows, at("item"))
                        .rows()
                        .get(at("item") + 1)
                        .depth())
                .isEqualTo(1);
        assertThat(RowEdits.fieldAfter(rows, at("[takes]")).at()).isEqualTo(at("[takes]") + 1);
        Edited bare = RowEdits.fieldAfter(List.of(WrittenRow.operation("Do", false, "")), 0);
        assertThat(names(bare.rows())).containsExactly("Do:", "[takes]", "");
        assertThat(bare.at()).isEqualTo(2);
    }

    @Test
    void aRowMovesGoesAndIsDoubledWithAllThatIsInIt() {
        Edited up = RowEdits.moved(rows, at("item"), true);
        assertThat(names(up.rows()).subList(2, 9))
                .containsExactly("item", "  kind", "  description", "  foundOn", "  photo", "  @wet", "hutId");
        assertThat(up.at()).isEqualTo(2);
        assertThat(RowEdits.moved(up.rows(), up.at(), false).rows()).isEqualTo(rows);
        assertThat(RowEdits.moved(rows, at("  kind"), true).rows()).isEqualTo(rows);
        assertThat(names(RowEdits.without(rows, at("item")).rows()))
                .doesNotContain("  kind")
                .contains("hutId");
        assertThat(names(RowEdits.doubled(rows, at("item")).rows()))
                .containsSubsequence("item", "  kind", "item2", "  kind");
        Edited operation = RowEdits.moved(rows, at("FindItems:"), true);
        assertThat(names(operation.rows()).get(0)).isEqualTo("FindItems:");
    }

    @Test
    void aFieldGoesInNoDeeperThanTheOneAboveAllows() {
        int kind = at("  kind");
        assertThat(RowEdits.deeper(rows, kind, 1).rows()).isEqualTo(rows);
        assertThat(RowEdits.deeper(rows, kind, -1).rows().get(kind).depth()).isZero();
        assertThat(RowEdits.deeper(rows, at("item"), 1).rows().get(kind).depth())
                .isEqualTo(2);
        assertThat(RowEdits.deeper(rows, at("[gives]"), 1).rows()).isEqualTo(rows);
    }

    @Test
    void pastedFieldsGoIntoThePartAndOperationsBehindTheOperation() {
        List<WrittenRow> two = PastedTable.read("a\ttext\nb\ttext");
        Edited fields = RowEdits.pasted(rows, at("  kind"), two);
        assertThat(names(fields.rows())).containsSubsequence("  kind", "  a", "  b", "  description");
        Edited begun = RowEdits.pasted(RowEdits.fieldAfter(rows, at("hutId")).rows(), at("hutId") + 1, two);
        assertThat(names(begun.rows()).subList(2, 6)).containsExactly("hutId", "a", "b", "item");
        Edited operation = RowEdits.pasted(rows, at("  kind"), List.of(WrittenRow.operation("New", true, "")));
        assertThat(names(operation.rows())).containsSubsequence("ReportItem:", "New:", "FindItems:");
        assertThat(RowEdits.part(rows, at("  kind"), WrittenPart.Kind.FAILS).rows())
                .hasSize(rows.size() + 2);
        assertThat(RowEdits.part(rows, at("  kind"), WrittenPart.Kind.GIVES).rows())
                .hasSize(rows.size() + 1);
    }

    @Test
    void noEditLosesARowThatItWasNotToldToTakeAway() {
        Random random = new Random(3);
        List<WrittenRow> now = rows;
        for (int i = 0; i < 2_000; i++) {
            int at = random.nextInt(now.size());
            Edited edited = switch (random.nextInt(4)) {
                case 0 -> RowEdits.moved(now, at, random.nextBoolean());
                case 1 -> RowEdits.deeper(now, at, random.nextBoolean() ? 1 : -1);
                case 2 -> now.size() < 80 ? RowEdits.fieldAfter(now, at) : RowEdits.moved(now, at, true);
                default -> RowEdits.moved(now, at, false);
            };
            List<WrittenRow> normal =
                    WrittenRows.of(WrittenContract.named("T").with(WrittenRows.operations(edited.rows())));
            assertThat(sorted(normal)).as("step %d", i).containsAll(sorted(now));
            assertThat(edited.at()).isBetween(0, normal.size() - 1);
            now = normal;
        }
    }

    private static List<String> sorted(List<WrittenRow> rows) {
        List<String> all =
                new ArrayList<>(rows.stream().map(r -> r.at(0).toString()).toList());
        all.sort(Comparator.naturalOrder());
        return all;
    }
}
