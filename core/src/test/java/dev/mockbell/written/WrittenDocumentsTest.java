package dev.mockbell.written;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.HeaderDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WrittenDocumentsTest {
    /** The table of a service that takes in what was found in huts. */
    static final String TABLE = """
            Name	Type	How often	Limits	What it means
            ReportItem	operation			Something was found.
            takes
            hutId	text		NF-[0-9]{2}	where it was found
            item		1 to 20
              kind	one of		BOOT, POLE, GLOVE, OTHER
              description	text	once, may be nil	at most 200
              foundOn	date		from 2027-01-01
              photo	bytes	may be left out	as an attachment
              @wet	yes or no	may be left out
            gives
            tag	text		L-[0-9]{4}	hang it on the item
            fails with UnknownHut
            hutId	text
            Session	header of the request
            token	text
            FindItems	operation
            takes
            hutId	text	may be left out	NF-[0-9]{2}
            most	whole number	may be left out	1 to 100
            gives
            item	Item	any number
            fails with UnknownHut
            Discard	one-way
            takes
            tag	text
            worth	money	may be left out	from 0
            """;

    static WrittenContract lostAndFound() {
        return WrittenContract.named("Lost and found").with(WrittenRows.operations(PastedTable.read(TABLE)));
    }

    @Test
    void aTableBecomesAContractThatIsCleanByTheProfileAndHasNoFlaw() {
        WrittenDocuments documents = WrittenDocuments.of(lostAndFound());
        assertThat(documents.flaws()).isEmpty();
        Contract contract = documents.read(new StopSignal());
        assertThat(contract.findings()).extracting(Finding::text).isEmpty();
        assertThat(contract.operations().keySet()).containsExactly("ReportItem", "FindItems", "Discard");
        assertThat(contract.ports()).extracting(p -> p.binding().title()).containsExactly("SOAP 1.1", "SOAP 1.2");
        Operation report = contract.operation("ReportItem", null).orElseThrow().operation();
        assertThat(report.documentation()).isEqualTo("Something was found.");
        assertThat(report.faults())
                .extracting(f -> f.element().orElseThrow().getLocalPart())
                .containsExactly("UnknownHut");
        assertThat(report.input().orElseThrow().headers())
                .extracting(HeaderDef::part)
                .extracting(p -> p.element().orElseThrow().getLocalPart())
                .containsExactly("token");
        assertThat(contract.operation("Discard", null).orElseThrow().operation().pattern())
                .isEqualTo(Operation.Pattern.ONE_WAY);
    }

    @Test
    void everyMessageOfItHasASampleThatItsSchemaTakes() {
        Contract contract = WrittenDocuments.of(lostAndFound()).read(new StopSignal());
        contract.operations().forEach((key, ports) -> {
            Operation operation = ports.get(0).binding().operation(key).orElseThrow();
            List<MessageOutline> outlines = new ArrayList<>(List.of(MessageOutline.ofRequest(contract, operation)));
            MessageOutline.ofAnswer(contract, operation).ifPresent(outlines::add);
            for (MessageOutline outline : outlines) {
                String sample = SampleBuilder.text(outline, Detail.FULL);
                assertThat(new MessageValidator(contract.schemas())
                                .validate(outline, Xml.parse(sample, "sample", XmlLimits.MESSAGE)))
                        .as(sample)
                        .isEmpty();
            }
        });
    }

    @Test
    void theSchemaIsAsAPersonWouldWriteItAndEachRowLeadsToItsLines() {
        WrittenDocuments documents = WrittenDocuments.of(lostAndFound());
        assertThat(documents.xsd())
                .contains("<xs:element name=\"item\" type=\"tns:Item\" maxOccurs=\"20\"/>")
                .contains("<xs:element name=\"kind\" type=\"tns:Kind\"/>")
                .contains("<xs:enumeration value=\"BOOT\"/>")
                .contains("<xs:element name=\"description\" type=\"tns:Description\" nillable=\"true\"/>")
                .contains(
                        "<xs:element name=\"photo\" type=\"xs:base64Binary\" minOccurs=\"0\" xmime:expectedContentTypes=\"*/*\"/>")
                .contains("<xs:attribute name=\"wet\" type=\"xs:boolean\"/>")
                .contains("<xs:fractionDigits value=\"2\"/>")
                .containsOnlyOnce("<xs:simpleType name=\"HutId\">")
                .containsOnlyOnce("<xs:complexType name=\"Item\">");
        List<String> lines = documents.xsd().lines().toList();
        List<WrittenRow> rows = WrittenRows.of(lostAndFound());
        int kind = rows.indexOf(
                rows.stream().filter(r -> r.name().equals("kind")).findFirst().orElseThrow());
        assertThat(documents.lines(kind).stream().map(n -> lines.get(n - 1)))
                .hasSize(9)
                .anyMatch(l -> l.contains("name=\"kind\""))
                .anyMatch(l -> l.contains("POLE"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            text         |                         | at most 20       | xs:string | <xs:maxLength value="20"/>
            text         |                         | 3 to 5           | xs:string | <xs:minLength value="3"/><xs:maxLength value="5"/>
            String       | 0..1                    | length 4         | xs:string | <xs:length value="4"/>
            whole number | 1..*                    | over 0; under 10 | xs:int | <xs:minExclusive value="0"/><xs:maxExclusive value="10"/>
            whole number | once                    | up to 5000000000 | xs:long | <xs:maxInclusive value="5000000000"/>
            number       | any number              | 0 to 1; 4 digits after the point | xs:decimal | <xs:minInclusive value="0"/><xs:maxInclusive value="1"/><xs:fractionDigits value="4"/>
            xs:gYear     | 2 times                 |                  | xs:gYear |
            bytes        | may be left out         | image/jpeg       | xs:base64Binary |
            date         | 3 or more, may be nil   | 2027-01-01 to 2027-12-31 | xs:date | <xs:minInclusive value="2027-01-01"/><xs:maxInclusive value="2027-12-31"/>
            one of       |                         | A, B & C         | xs:string | <xs:enumeration value="A"/><xs:enumeration value="B &amp; C"/>
            """)
    void wordsOfAFieldMeanTypesAndFacets(String type, String often, String limits, String base, String facets) {
        List<String> flaws = new ArrayList<>();
        FieldWords words = FieldWords.of(
                new WrittenField("f", type, often == null ? "" : often, limits == null ? "" : limits, "", List.of()),
                java.util.Set.of(),
                flaws::add);
        assertThat(flaws).isEmpty();
        assertThat(words.base()).isEqualTo(base);
        assertThat(String.join("", words.facets())).isEqualTo(facets == null ? "" : facets);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            f        | txet         |           |             | no type
            f        | text         | sometimes |             | How often
            f        | text         | 5 to 2    |             | How often
            f        | whole number |           | 14 to 1     | larger one
            f        | yes or no    |           | at most 3   | not understood
            f        | one of       |           |             | Which ones
            f        | date         |           | soon        | not understood
            the name | text         |           |             | theName
            1st      | text         |           |             | _1st
            @f       | group        |           |             | attribute has a value
            """)
    void whatCannotBeSoIsSaidOfItsRowWithWhatToWrite(
            String name, String type, String often, String limits, String said) {
        List<WrittenRow> rows = List.of(
                WrittenRow.operation("Do", false, ""),
                WrittenRow.part(WrittenPart.Kind.TAKES, ""),
                WrittenRow.field(0, name, type, often == null ? "" : often, limits == null ? "" : limits, ""));
        WrittenDocuments documents =
                WrittenDocuments.of(WrittenContract.named("T").with(WrittenRows.operations(rows)));
        assertThat(documents.flaws()).singleElement().satisfies(f -> {
            assertThat(f.row()).isEqualTo(2);
            assertThat(f.text()).contains(said);
        });
        assertThat(documents.read(new StopSignal()).operations()).containsKey("Do");
    }

    @Test
    void flawsOfTheWholeAreSaid() {
        WrittenContract none =
                WrittenContract.named("123").withNamespace("no uri").speaking(false, false);
        assertThat(WrittenDocuments.of(none).flaws())
                .extracting(Flaw::text)
                .hasSize(3)
                .anyMatch(t -> t.contains("URI"));
        List<WrittenRow> twice = List.of(
                WrittenRow.operation("Do", false, ""),
                WrittenRow.operation("Do", true, ""),
                WrittenRow.operation("DoResponse", false, ""),
                WrittenRow.operation("Tell", true, ""),
                WrittenRow.part(WrittenPart.Kind.GIVES, ""));
        assertThat(WrittenDocuments.of(WrittenContract.named("T").with(WrittenRows.operations(twice)))
                        .flaws())
                .extracting(Flaw::text)
                .anyMatch(t -> t.contains("two operations Do"))
                .anyMatch(t -> t.contains("Two messages would be called DoResponse"))
                .anyMatch(t -> t.contains("one-way operation gives nothing"));
    }

    @Test
    void rowsAndOperationsAreTheSameThing() {
        List<WrittenRow> rows = WrittenRows.of(lostAndFound());
        assertThat(WrittenRows.of(lostAndFound().with(WrittenRows.operations(rows))))
                .isEqualTo(rows);
        assertThat(PastedTable.read(PastedTable.write(rows))).isEqualTo(rows);
    }

    @Test
    void whateverIsTypedGivesDocumentsThatCanBeRead() {
        Random random = new Random(8);
        List<String> words = List.of(
                "",
                "text",
                "group",
                "a b",
                "<x>",
                "one of",
                "1 to 3",
                "@a",
                "item",
                "Item",
                "\u0000",
                "x&y\"'",
                "5 to 2",
                "[",
                "any number",
                "xs:int",
                "ReportItem",
                "once, may be nil",
                "at most 99999999999",
                "fails with X",
                "\uD800");
        for (int i = 0; i < 300; i++) {
            List<WrittenRow> rows = new ArrayList<>();
            for (int n = random.nextInt(12); n >= 0; n--) {
                rows.add(new WrittenRow(
                        WrittenRow.Kind.values()[random.nextInt(3)],
                        random.nextInt(4),
                        words.get(random.nextInt(words.size())),
                        words.get(random.nextInt(words.size())),
                        words.get(random.nextInt(words.size())),
                        words.get(random.nextInt(words.size())),
                        words.get(random.nextInt(words.size()))));
            }
            List<WrittenOperation> operations = WrittenRows.operations(rows);
            List<WrittenRow> normal = WrittenRows.of(WrittenContract.named("T").with(operations));
            assertThat(WrittenRows.operations(normal)).isEqualTo(operations);
            WrittenDocuments documents =
                    WrittenDocuments.of(WrittenContract.named(words.get(random.nextInt(words.size())))
                            .with(operations));
            assertThat(documents.read(new StopSignal()).wsdl()).as("%s", rows).isEqualTo("1.1");
            assertThat(documents.flaws()).allMatch(f -> f.row() < normal.size());
        }
    }
}
