package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Edits at random places, many times over: whatever a person does on the sheet, the message stays one that holds. */
class SheetRoundTripTest {
    private static final String SCHEMA = """
            <xs:element name='Root' type='t:Trip'/>
            <xs:complexType name='Trip'>
              <xs:sequence>
                <xs:element name='title' type='xs:string'/>
                <xs:element name='leg' type='t:Leg' minOccurs='0' maxOccurs='4'/>
                <xs:choice minOccurs='0'><xs:element name='cash' type='xs:decimal'/><xs:sequence><xs:element name='card' type='xs:string'/><xs:element name='until' type='xs:gYearMonth' minOccurs='0'/></xs:sequence></xs:choice>
                <xs:element name='remark' type='xs:string' nillable='true' minOccurs='0'/>
              </xs:sequence>
              <xs:attribute name='lang' type='xs:language'/>
            </xs:complexType>
            <xs:complexType name='Leg'>
              <xs:sequence>
                <xs:element name='from' type='xs:token'/>
                <xs:element name='hut' minOccurs='0'><xs:complexType><xs:all><xs:element name='name' type='xs:string'/><xs:element name='bunks' type='xs:int' minOccurs='0'/></xs:all></xs:complexType></xs:element>
                <xs:element name='side' type='t:Leg' minOccurs='0'/>
              </xs:sequence>
              <xs:attribute name='km' type='xs:decimal' use='required'/>
            </xs:complexType>""";

    private final Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(SCHEMA)));
    private final MessageOutline outline = MessageOutline.of(
            contract,
            contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());

    private void edit(Sheet sheet, SheetRow row, Random random) {
        if (row.kind() == Kind.CHOICE) {
            sheet.choose(row, row.options().get(random.nextInt(row.options().size())));
        } else if (row.state() == State.LEFT_OUT) {
            sheet.include(row);
        } else if (row.canBeNil() && random.nextInt(3) == 0) {
            sheet.setNil(row, row.state() != State.NIL);
        } else if (row.canRepeat() && random.nextBoolean()) {
            sheet.addRepeat(row);
        } else if (row.optional() && row.target().parent() != null && random.nextBoolean()) {
            sheet.leaveOut(row);
        } else if (row.editable() && "xs:string".equals(row.type())) {
            sheet.setValue(row, "x<&>\"" + random.nextInt(100) + " ø");
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
    void anyEditsLeaveAValidMessageThatReadsBackTheSame(long seed) {
        Random random = new Random(seed);
        Sheet sheet =
                Sheet.open(outline, SampleBuilder.text(outline, random.nextBoolean() ? Detail.FULL : Detail.REQUIRED));
        for (int i = 0; i < 60; i++) {
            List<SheetRow> rows = Sheets.all(sheet);
            SheetRow row = rows.get(random.nextInt(rows.size()));
            String before = sheet.text();
            edit(sheet, row, random);
            String text = sheet.text();
            assertThat(new MessageValidator(contract.schemas())
                            .validate(outline, Xml.parse(text, "m", XmlLimits.MESSAGE)))
                    .as("seed %s, edit of %s in%n%s%nto%n%s", seed, row.id(), before, text)
                    .isEmpty();
            assertThat(Sheet.open(outline, text).text()).isEqualTo(text);
            assertThat(Sheets.pictures(Sheet.open(outline, text)))
                    .as("seed %s: rows kept over edits are those of a fresh reading", seed)
                    .isEqualTo(Sheets.pictures(sheet));
            assertThat(Sheets.all(sheet)).extracting(SheetRow::problem).allMatch(java.util.Optional::isEmpty);
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {21, 22, 23})
    void leavingOutAndPuttingInAgainIsNoChangeAtAll(long seed) {
        Random random = new Random(seed);
        Sheet sheet = Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL));
        for (int i = 0; i < 20; i++) {
            List<SheetRow> optional = Sheets.all(sheet).stream()
                    .filter(r -> r.optional()
                            && r.state() == State.PRESENT
                            && r.kind() != Kind.CHOICE
                            && r.kind() != Kind.ATTRIBUTE
                            && r.count() == 1)
                    .toList();
            SheetRow row = optional.get(random.nextInt(optional.size()));
            String before = sheet.text().replaceAll(">\\s+<", "><");
            sheet.leaveOut(row);
            sheet.include(Sheets.all(sheet).stream()
                    .filter(r -> r.target().place().equals(row.target().place()))
                    .findFirst()
                    .orElseThrow());
            assertThat(sheet.text().replaceAll(">\\s+<", "><")).isEqualTo(before);
        }
    }

    /** Many repeats, groups that repeat, too few, and what is not allowed: flaws that a parent tells of its children. */
    @ParameterizedTest
    @ValueSource(longs = {41, 42, 43, 44, 45, 46, 47, 48, 49, 50})
    void rowsKeptOverEditsAreThoseOfAFreshReadingAlsoWithFlaws(long seed) {
        MessageOutline flawed = Sheets.outline(Sheets.root(
                "<xs:element name='guest' maxOccurs='unbounded'><xs:complexType><xs:sequence><xs:element name='name' type='xs:string'/><xs:element name='age' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>"
                        + "<xs:sequence minOccurs='0' maxOccurs='unbounded'><xs:element name='from' type='xs:date'/><xs:element name='nights' type='xs:int'/></xs:sequence>"
                        + "<xs:choice><xs:element name='cash' type='xs:decimal'/><xs:element name='card' type='xs:string'/></xs:choice>"
                        + "<xs:element name='bunk' type='xs:int' minOccurs='4' maxOccurs='9'/>"
                        + "<xs:any namespace='##other' processContents='strict' minOccurs='0'/>"));
        Random random = new Random(seed);
        StringBuilder text = new StringBuilder("<t:Root xmlns:t='urn:t'>");
        for (int i = 0; i < 20 + random.nextInt(3); i++) {
            text.append("<t:guest><t:name>G").append(i).append("</t:name><t:age>9</t:age></t:guest>");
        }
        text.append("<t:from>2027-02-02</t:from><t:nights>2</t:nights><t:from>soon</t:from><t:nights>x</t:nights>");
        text.append("<t:cash>1</t:cash><t:bunk>7</t:bunk><t:bunk>y</t:bunk><o:odd xmlns:o='urn:o' k='1'>v</o:odd>");
        Sheet sheet = Sheet.open(flawed, text.append("</t:Root>").toString());
        for (int i = 0; i < 60; i++) {
            List<SheetRow> rows = Sheets.all(sheet);
            SheetRow row = rows.get(random.nextInt(rows.size()));
            if (row.editable() && random.nextInt(4) > 0) {
                sheet.setValue(row, random.nextBoolean() ? Integer.toString(i) : "wrong " + i);
            } else if (row.canRepeatGroup() && random.nextInt(3) == 0) {
                sheet.addGroup(row);
            } else if (row.label().equals("bunk") && random.nextBoolean()) {
                sheet.remove(row);
            } else if (row.target().parent() != null) {
                edit(sheet, row, random);
            }
            if (random.nextInt(3) > 0) {
                String now = sheet.text();
                assertThat(Sheets.pictures(sheet))
                        .as("seed %s, step %s, %s", seed, i, now)
                        .isEqualTo(Sheets.pictures(Sheet.open(flawed, now)));
            }
        }
    }
}
