package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the sheet says of messages that do not fit, and that it says nothing of those that do. */
class SheetJudgesTest {
    private static final String LEG =
            "<xs:element name='from' type='xs:string'/><xs:element name='to' type='xs:string'/>";

    private static String message(String letters) {
        return letters.chars()
                .mapToObj(c -> "<t:" + (char) c + "/>")
                .collect(Collectors.joining("", "<t:Root xmlns:t='urn:t'>", "</t:Root>"));
    }

    private static String letters(String compositor, String occurs, String parts) {
        return parts.lines()
                .map(p -> p.split("/"))
                .map(p -> "<xs:element name='" + p[0] + "'" + (p.length > 1 ? " " + p[1] : "")
                        + "><xs:complexType/></xs:element>")
                .collect(Collectors.joining("", "<xs:" + compositor + " " + occurs + ">", "</xs:" + compositor + ">"));
    }

    private static List<String> problems(Sheet sheet) {
        return Sheets.all(sheet).stream()
                .flatMap(r -> r.problem().map(p -> r.label() + ": " + p).stream())
                .toList();
    }

    /** Each is held against the validator too, so that the table cannot be wrong by itself. */
    @ParameterizedTest
    @CsvSource({
        "minOccurs='2' maxOccurs='4', maxOccurs='3', aa, true",
        "minOccurs='2' maxOccurs='4', maxOccurs='3', a, false",
        "minOccurs='2' maxOccurs='4', maxOccurs='3', aaaaaaaaaaaa, true",
        "minOccurs='2' maxOccurs='4', maxOccurs='3', aaaaaaaaaaaaa, false",
        "minOccurs='1' maxOccurs='2', minOccurs='2' maxOccurs='3', aaaa, true",
        "minOccurs='1' maxOccurs='2', minOccurs='2' maxOccurs='3', aaaaaaa, false",
        "minOccurs='0' maxOccurs='unbounded', minOccurs='2' maxOccurs='2', aaaaaa, true",
        "minOccurs='0' maxOccurs='unbounded', minOccurs='2' maxOccurs='2', aaaaa, false",
        "minOccurs='0' maxOccurs='0', minOccurs='1' maxOccurs='1', a, false"
    })
    void elementsAreDividedAmongTheStandingsOfAGroupInAnyWay(
            String group, String element, String letters, boolean fits) {
        for (String compositor : List.of("sequence", "choice")) {
            Sheet sheet = Sheets.inside(letters(compositor, group, "a/" + element), message(letters));
            assertThat(Sheets.breaches(sheet).isEmpty()).as(compositor).isEqualTo(fits);
            assertThat(problems(sheet).isEmpty())
                    .as("%s: %s", compositor, problems(sheet))
                    .isEqualTo(fits);
        }
    }

    /** XML Schema part 1 §3.8.1: in any order, each once. */
    @ParameterizedTest
    @CsvSource({
        "'', abc, true",
        "'', cab, true",
        "'', ca, true",
        "'', ac, true",
        "'', bc, false",
        "'', aab, false",
        "'', '', false",
        "minOccurs='0', '', true",
        "minOccurs='0', b, false"
    })
    void ofAnAllGroupEachStandsOnceInAnyOrder(String group, String letters, boolean fits) {
        String inside = letters("all", group, "a\nb/minOccurs='0'\nc/minOccurs='0'");
        Sheet sheet = Sheets.sheet(
                "<xs:element name='Root'><xs:complexType>" + inside + "</xs:complexType></xs:element>",
                message(letters));
        assertThat(Sheets.breaches(sheet).isEmpty()).isEqualTo(fits);
        assertThat(problems(sheet).isEmpty()).as("%s", problems(sheet)).isEqualTo(fits);
    }

    @Test
    void aGroupThatStandsTooSeldomIsToldAtItsLastPart() {
        Sheet sheet = Sheets.inside(
                "<xs:sequence minOccurs='2' maxOccurs='5'>" + LEG + "</xs:sequence>",
                "<t:Root xmlns:t='urn:t'><t:from/><t:to/></t:Root>");
        assertThat(problems(sheet)).containsExactly("to: the contract requires at least 2 of from + to, here is 1");
        sheet.addGroup(Sheets.row(sheet, "from"));
        assertThat(problems(sheet)).isEmpty();
    }

    @Test
    void theRestOfAGroupStaysTogetherWhenItsFirstPartIsMissing() {
        Sheet sheet = Sheets.inside(
                "<xs:sequence minOccurs='0' maxOccurs='5'>" + LEG + "</xs:sequence>",
                "<t:Root xmlns:t='urn:t'><t:to>Lower Fell</t:to></t:Root>");
        assertThat(problems(sheet)).containsExactly("from: the contract requires this element");
        sheet.include(Sheets.row(sheet, "from"));
        assertThat(problems(sheet)).isEmpty();
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void whatStandsBehindAnOptionalGroupOfTheSameNameIsNotTakenForItsPart() {
        Sheet sheet = Sheets.inside(
                "<xs:sequence minOccurs='0'>" + LEG + "</xs:sequence><xs:element name='to' type='xs:string'/>",
                "<t:Root xmlns:t='urn:t'><t:to>Lower Fell</t:to></t:Root>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        assertThat(problems(sheet)).isEmpty();
        assertThat(Sheets.all(sheet).stream().map(r -> r.label() + " " + r.state()))
                .containsExactly("Root PRESENT", "from LEFT_OUT", "to LEFT_OUT", "to PRESENT");
    }

    @Test
    void typesThatCannotStandAreNamed() {
        String schema = Sheets.root("<xs:element name='hut' type='t:Place'/>")
                + "<xs:complexType name='Place' abstract='true'><xs:sequence/></xs:complexType>"
                + "<xs:complexType name='Hut'><xs:complexContent><xs:extension base='t:Place'/></xs:complexContent></xs:complexType>"
                + "<xs:complexType name='Boat'><xs:sequence/></xs:complexType>";
        assertThat(named(schema, ""))
                .containsExactly("hut: its type is abstract, so xsi:type must name one that is derived from it");
        assertThat(named(schema, " xsi:type='t:Hut'")).isEmpty();
        assertThat(named(schema, " xsi:type='t:Boat'"))
                .containsExactly("hut: xsi:type names “t:Boat”, which is not derived from Place");
        assertThat(named(schema, " xsi:type='t:Ship'"))
                .containsExactly("hut: xsi:type names “t:Ship”, a type that the contract does not know");
        assertThat(named(schema, " xsi:type='t:Place'"))
                .containsExactly("hut: xsi:type names “t:Place”, which is abstract");
        assertThat(named(schema, " xsi:type='{$kind}'"))
                .as("known when it is sent")
                .isEmpty();
    }

    private static List<String> named(String schema, String attribute) {
        return problems(Sheets.sheet(
                schema,
                "<t:Root xmlns:t='urn:t' xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance'><t:hut" + attribute
                        + "/></t:Root>"));
    }

    @Test
    void anAbstractElementMustBeSubstituted() {
        String schema = Sheets.root("<xs:element ref='t:extra'/>")
                + "<xs:element name='extra' type='xs:string' abstract='true'/>"
                + "<xs:element name='sauna' type='xs:string' substitutionGroup='t:extra'/>";
        assertThat(problems(Sheets.sheet(schema, "<t:Root xmlns:t='urn:t'><t:extra/></t:Root>")))
                .containsExactly("extra: it is abstract, so another of its substitution group must stand here");
        assertThat(problems(Sheets.sheet(schema, "<t:Root xmlns:t='urn:t'><t:sauna/></t:Root>")))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "xs:decimal, 1.50, 1.5, true",
        "xs:decimal, 1.50, 1.51, false",
        "xs:int, 7, 007, true",
        "xs:boolean, true, 1, true",
        "xs:string, so, SO, false",
        "xs:dateTime, 2027-02-12T10:00:00Z, 2027-02-12T11:00:00+01:00, true"
    })
    void aFixedValueIsAValueAndNotASpelling(String type, String fixed, String written, boolean fits) {
        Sheet sheet = Sheets.inside(
                "<xs:element name='v' type='" + type + "' fixed='" + fixed + "'/>",
                "<t:Root xmlns:t='urn:t'><t:v>" + written + "</t:v></t:Root>");
        assertThat(Sheets.breaches(sheet).isEmpty()).isEqualTo(fits);
        assertThat(problems(sheet).isEmpty()).as("%s", problems(sheet)).isEqualTo(fits);
    }

    @Test
    void whatIsNilIsEmptyAndWhatIsTextHasNoElements() {
        String nil = "<xs:element name='v' type='xs:string' nillable='true'/>";
        String open =
                "<t:Root xmlns:t='urn:t' xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance'><t:v xsi:nil='true'>";
        assertThat(problems(Sheets.inside(nil, open + "</t:v></t:Root>"))).isEmpty();
        assertThat(problems(Sheets.inside(nil, open + "x</t:v></t:Root>")))
                .containsExactly("v: it is nil, so it cannot have content");
        assertThat(problems(Sheets.inside(nil, "<t:Root xmlns:t='urn:t'><t:v>a<b/></t:v></t:Root>")))
                .containsExactly("v: the contract allows text alone here, and there are elements in it");
        String fixed = "<xs:element name='v' type='xs:string' nillable='true' fixed='so'/>";
        assertThat(problems(Sheets.inside(fixed, open + "</t:v></t:Root>")))
                .containsExactly("v: the contract fixes the value to “so”, so it cannot be nil");
    }
}
