package dev.mockbell.written;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;

class SampleFieldsTest {
    private static List<String> lines(SampleFields sample) {
        return WrittenRows.of(sample.fields(), 0).stream()
                .map(r -> "  ".repeat(r.depth()) + r.name() + " " + (r.type().isEmpty() ? "group" : r.type())
                        + (r.often().isEmpty() ? "" : ", " + r.often()))
                .toList();
    }

    @Test
    void aMessageInItsEnvelopeGivesFieldsWithTypesAndHowOftenTheyAreThere() {
        SampleFields sample = SampleFields.of("""
                <s:Envelope xmlns:s="http://schemas.xmlsoap.org/soap/envelope/" xmlns:i="http://www.w3.org/2001/XMLSchema-instance"><s:Body>
                <FindItemsResponse xmlns="urn:n"><item wet="true"><tag>L-1</tag><worth>12.50</worth><found>2027-02-01</found></item>
                <item><tag>L-2</tag><worth>3</worth><found>2027-02-02</found><note i:nil="true"/></item><count>2</count></FindItemsResponse>
                </s:Body></s:Envelope>""");
        assertThat(sample.operation()).isEqualTo("FindItems");
        assertThat(sample.isAnswer()).isTrue();
        assertThat(lines(sample))
                .containsExactly(
                        "item group, once or more",
                        "  @wet yes or no, may be left out",
                        "  tag text",
                        "  worth number",
                        "  found date",
                        "  note text, may be left out, may be nil",
                        "count whole number");
    }

    @Test
    void jsonGivesFieldsTooAndNamesThatXmlDoesNotAllowAreChanged() {
        SampleFields sample = SampleFields.of(
                "{\"hut id\": \"NF-01\", \"beds\": 12, \"open\": true, \"party\": {\"guests\": [{\"name\": \"Ada\"}, {\"name\": \"Bo\", \"age\": 7}]}, \"note\": null}");
        assertThat(lines(sample))
                .containsExactly(
                        "hutId text",
                        "beds whole number",
                        "open yes or no",
                        "party group",
                        "  guests group, any number",
                        "    name text",
                        "    age whole number, may be left out",
                        "note text, once, may be nil");
        assertThat(sample.fields().get(0).means()).contains("hut id");
    }

    @Test
    void whatIsNoSampleIsRefusedWithItsPlace() {
        assertThatThrownBy(() -> SampleFields.of("<a><b></a>")).hasMessageContaining("the sample");
        assertThatThrownBy(() -> SampleFields.of("{\"a\": }")).hasMessageContaining("neither well-formed XML nor JSON");
        assertThatThrownBy(() -> SampleFields.of("12")).hasMessageContaining("whole message");
        assertThatThrownBy(() -> SampleFields.of(" ")).hasMessageContaining("no sample");
        assertThatThrownBy(() -> SampleFields.of("[".repeat(5_000))).hasMessageContaining("neither well-formed");
        assertThatThrownBy(() -> SampleFields.of("<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><a>&x;</a>"))
                .isInstanceOf(dev.mockbell.problem.Problem.class);
    }

    @Test
    void cellsOfAnotherTableAreReadByTheNamesOfItsColumns() {
        List<WrittenRow> rows = PastedTable.read("""
                Description;Field;Mandatory;Data type;Allowed values
                The hut;hutId;yes;string;
                Who comes;party;yes;object;
                ;. guest;1..n;object;
                A name;.. name;M;varchar;at most 40
                Kind of bunk;bunk;no;enum;"LOWER; UPPER"
                """);
        assertThat(rows)
                .containsExactly(
                        WrittenRow.field(0, "hutId", "string", "yes", "", "The hut"),
                        WrittenRow.field(0, "party", "object", "yes", "", "Who comes"),
                        WrittenRow.field(1, "guest", "object", "1..n", "", ""),
                        WrittenRow.field(2, "name", "varchar", "M", "at most 40", "A name"),
                        WrittenRow.field(0, "bunk", "enum", "no", "LOWER; UPPER", "Kind of bunk"));
        List<WrittenRow> all = new java.util.ArrayList<>(List.of(WrittenRow.operation("Reserve", false, "")));
        all.addAll(rows);
        assertThat(WrittenDocuments.of(WrittenContract.named("T").with(WrittenRows.operations(all)))
                        .flaws())
                .isEmpty();
    }
}
