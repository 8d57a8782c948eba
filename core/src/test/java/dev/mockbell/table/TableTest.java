package dev.mockbell.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessagePath;
import dev.mockbell.problem.Problem;
import dev.mockbell.table.TableWriter.Form;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.w3c.dom.Document;
import org.w3c.dom.Node;

/** Repeated elements as rows and columns. */
class TableTest {
    static final String CLOSURES = """
            <r:List xmlns:r="urn:trail" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><r:head>h</r:head>
              <r:closure id="7"><r:trail>Skarn ridge</r:trail><r:from>2027-02-14</r:from><r:grade>4</r:grade><r:height><r:metres>1240.5</r:metres><r:feet>4070</r:feet></r:height></r:closure>
              <r:closure id="8"><r:trail>Tarn, "loop"</r:trail><r:from>2027-02-12</r:from><r:until>2027-02-20</r:until><r:grade>10</r:grade><r:height><r:metres>880</r:metres></r:height></r:closure>
              <r:closure id="9"><r:trail>Birch saddle</r:trail><r:from>2027-02-11</r:from><r:until xsi:nil="true"/><r:grade>5</r:grade><r:note>a</r:note><r:note>b</r:note></r:closure>
            </r:List>""";
    private static final Expressions EXPRESSIONS = new Expressions();

    @TempDir
    private Path folder;

    static Document read(String xml) {
        return Xml.parse(xml, "m", XmlLimits.MESSAGE);
    }

    static Table table(Shape shape) {
        return Table.of(read(CLOSURES), shape, EXPRESSIONS, Scope.EMPTY);
    }

    private static List<String> column(Table table, String path) {
        return table.rows().stream()
                .map(r -> String.valueOf(r.value(new Column(path, path, Type.TEXT, false, true))))
                .toList();
    }

    @Test
    void fieldsAttributesAndWhatStandsInThemOnceAreColumns() {
        Table table = table(Shape.of("//closure"));
        assertThat(table.columns().stream().map(c -> c.path() + " " + c.type().code()))
                .containsExactly(
                        "@id whole",
                        "trail text",
                        "from date",
                        "grade whole",
                        "height/metres decimal",
                        "height/feet whole",
                        "until date",
                        "note text");
        assertThat(table.columns().stream().map(Column::name)).contains("metres", "feet", "id");
        assertThat(column(table, "note")).containsExactly("null", "null", "a; b");
        assertThat(column(table, "until")).containsExactly("null", "2027-02-20", Table.NIL);
        assertThat(table.total()).isEqualTo(3);
    }

    @Test
    void rowsAreChosenByAConditionSortedByTheirTypeAndCounted() {
        Shape shape = Shape.of("//closure").where("grade >= 5");
        assertThat(column(table(shape), "trail")).containsExactly("Tarn, \"loop\"", "Birch saddle");
        assertThat(table(shape).kept()).isEqualTo(2);
        assertThat(table(shape).total()).isEqualTo(3);
        Shape sorted = Shape.of("//closure").sorted(Optional.of(new Shape.Sort("grade", true)));
        assertThat(column(table(sorted), "grade")).as("as numbers").containsExactly("10", "5", "4");
        Shape until = Shape.of("//closure").sorted(Optional.of(new Shape.Sort("until", true)));
        assertThat(column(table(until), "until")).as("nothing comes last").startsWith("2027-02-20");
        assertThat(table(sorted.most(1)).rows()).hasSize(1);
        assertThat(table(sorted.most(1)).kept()).isEqualTo(3);
        assertThatThrownBy(() -> table(Shape.of("//closure").where("grade ><"))).isInstanceOf(Problem.class);
        assertThat(table(Shape.of("//nothing")).rows()).isEmpty();
    }

    @Test
    void whatWasChosenOfColumnsStaysWithOtherData() {
        Shape chosen = table(Shape.of("//closure"))
                .shape()
                .change("grade", c -> c.withType(Type.TEXT).withName("how hard"))
                .change("from", c -> c.shown(false))
                .move("note", 0);
        Document other = read("<l><closure><grade>1</grade><extra>x</extra></closure></l>");
        Table table = Table.of(other, chosen, EXPRESSIONS, Scope.EMPTY);
        assertThat(table.columns().get(0).path()).isEqualTo("note");
        assertThat(table.columns().stream().map(Column::path))
                .doesNotContain("from")
                .endsWith("until", "extra");
        Column grade = table.columns().stream()
                .filter(c -> c.path().equals("grade"))
                .findFirst()
                .orElseThrow();
        assertThat(grade.type()).isEqualTo(Type.TEXT);
        assertThat(grade.name()).isEqualTo("how hard");
    }

    @Test
    void aTableIsWrittenAsCsvAsJsonAndForASpreadsheet() throws IOException {
        Table table = table(Shape.of("//closure"));
        assertThat(TableWriter.text(table, Form.CSV)).isEqualTo("""
                id,trail,from,grade,metres,feet,until,note
                7,Skarn ridge,2027-02-14,4,1240.5,4070,,
                8,"Tarn, ""loop\""",2027-02-12,10,880,,2027-02-20,
                9,Birch saddle,2027-02-11,5,,,,a; b
                """.replace("\n", "\r\n"));
        assertThat(TableWriter.text(table, Form.TABS))
                .startsWith("id\ttrail\tfrom")
                .contains("7\tSkarn ridge\t");
        var json = new ObjectMapper().readTree(TableWriter.text(table, Form.JSON));
        assertThat(json.get(0).get("metres").decimalValue()).isEqualByComparingTo("1240.5");
        assertThat(json.get(0).get("grade").isIntegralNumber()).isTrue();
        assertThat(json.get(2).get("until").isNull()).isTrue();
        Path file = folder.resolve("out.csv");
        Files.writeString(file, "old");
        TableWriter.write(table, Form.CSV, file);
        assertThat(Files.readString(file)).isEqualTo(TableWriter.text(table, Form.CSV));
        assertThat(Files.list(folder)).as("nothing is left beside it").hasSize(1);
        Path blocked = Files.createDirectory(folder.resolve("folder.csv"));
        assertThatThrownBy(() -> TableWriter.write(table, Form.CSV, blocked)).isInstanceOf(Problem.class);
    }

    @Test
    void repeatedElementsAreFoundAndLedBackTo() {
        Document document = read(CLOSURES);
        assertThat(Table.repeated(document, 5))
                .containsExactly(new Table.Repeated("/List/closure", 3), new Table.Repeated("/List/closure/note", 2));
        Node metres = MessagePath.node(document.getDocumentElement(), "/List/closure[2]/height/metres")
                .orElseThrow();
        assertThat(Table.rowsAround(metres)).contains("/List/closure");
        assertThat(Table.rowsAround(document.getDocumentElement())).isEmpty();
        Table table = table(Shape.of("/List/closure"));
        assertThat(Table.path(table.rows().get(1), table.columns().get(4))).isEqualTo("/List/closure[2]/height/metres");
    }

    @Test
    void whatRepeatsInARowHoweverOftenIsOneValueOfIt() {
        StringBuilder text = new StringBuilder("<l><r>");
        for (int i = 0; i < 100_000; i++) {
            text.append("<n><v>").append(i).append("</v></n>");
        }
        Table table = Table.of(
                read(text.append("</r><r><n><v>1</v></n></r></l>").toString()),
                Shape.of("/l/r"),
                EXPRESSIONS,
                Scope.EMPTY);
        assertThat(column(table, "n/v").get(0)).startsWith("0; 1; 2; 3").endsWith("; 99998; 99999");
        assertThat(column(table, "n/v").get(1)).isEqualTo("1");
    }

    @Test
    void whatIsNilAmongWhatRepeatsIsNothing() {
        Table table = Table.of(
                read(
                        "<l xmlns:i='http://www.w3.org/2001/XMLSchema-instance'><r><a i:nil='true'/><a>1</a><a i:nil='true'/></r>"
                                + "<r><a i:nil='true'/></r></l>"),
                Shape.of("/l/r"),
                EXPRESSIONS,
                Scope.EMPTY);
        assertThat(column(table, "a")).containsExactly("; 1; ", Table.NIL);
    }

    @Test
    void rowsOfWhichEachHasOtherFieldsHaveTheirOwnAndNoMoreThanAreTold() {
        StringBuilder text = new StringBuilder("<l>");
        for (int i = 0; i < 600; i++) {
            text.append("<r k='")
                    .append(i)
                    .append("'><f")
                    .append(i)
                    .append(">")
                    .append(i)
                    .append("</f")
                    .append(i)
                    .append("><same>s</same></r>");
        }
        Document document = read(text.append("</l>").toString());
        Table table = Table.of(document, Shape.of("/l/r"), EXPRESSIONS, Scope.EMPTY);
        assertThat(table.columns()).hasSize(500);
        assertThat(column(table, "f3").subList(2, 5)).containsExactly("null", "3", "null");
        assertThat(column(table, "same")).containsOnly("s");
        assertThat(column(table, "@k")).startsWith("0", "1").endsWith("599");
        assertThat(column(table, "f599")).as("none of the first").containsOnly("null");
        Shape known = Shape.of("/l/r").with(List.of(new Column("f599", "the last", Type.WHOLE, true, true)));
        Table again = Table.of(document, known, EXPRESSIONS, Scope.EMPTY);
        assertThat(again.columns())
                .hasSize(500)
                .first()
                .extracting(Column::name)
                .isEqualTo("the last");
        assertThat(column(again, "f599")).as("one that was chosen before").endsWith("null", "599");
    }

    @Test
    void elementsOfTextAloneAreRowsOfOneColumn() {
        Table table = Table.of(read("<l><a>1</a><a>2</a></l>"), Shape.of("/l/a"), EXPRESSIONS, Scope.EMPTY);
        assertThat(table.columns()).containsExactly(new Column(".", "a", Type.WHOLE, false, true));
        assertThat(Table.path(table.rows().get(1), table.columns().get(0))).isEqualTo("/l/a[2]");
    }

    @ParameterizedTest
    @CsvSource({
        "WHOLE, 1 -20 +3",
        "DECIMAL, 1 2.5 1e3",
        "TEXT, 007 8",
        "TEXT, 1 two",
        "BOOLEAN, true false",
        "WHOLE, 1 0",
        "DATE, 2027-02-14 2028-01-01",
        "TIME, 10:00:00 11:30",
        "DATE_TIME, 2027-02-14T10:00:00 2027-02-14T10:00:00.5",
        "MOMENT, 2027-02-14T10:00:00Z 2027-02-14T10:00:00+01:00",
        "TEXT, 2027-02-14 2027-02-14T10:00:00",
        "TEXT, 2027-02-14Z",
        "TEXT, ''",
    })
    void aTypeIsWhatAllValuesAre(Type type, String values) {
        assertThat(Type.of(List.of(values.split(" ")))).isEqualTo(type);
    }
}
