package dev.mockbell.change;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.task.StopSignal;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ContractChangesTest {
    @ParameterizedTest(name = "{0} to {1}")
    @CsvSource(delimiter = '|', textBlock = """
            # what stands in the sequence before | and now | path: kind, before to after, callers, service (of the request)
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:long'/> | n: CHANGED xs:int to xs:long HOLDS BREAKS
            <xs:element name='n' type='xs:long'/> | <xs:element name='n' type='xs:int'/> | n: CHANGED xs:long to xs:int BREAKS HOLDS
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:string'/> | n: CHANGED xs:int to xs:string HOLDS BREAKS
            <xs:element name='n' type='xs:date'/> | <xs:element name='n' type='xs:dateTime'/> | n: CHANGED xs:date to xs:dateTime BREAKS BREAKS
            <xs:element name='n' type='xs:decimal'/> | <xs:element name='n' type='xs:integer'/> | n: CHANGED xs:decimal to xs:integer BREAKS HOLDS
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:int' minOccurs='0'/> | n: CHANGED required to may be left out HOLDS BREAKS
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:int' maxOccurs='3'/> | n: CHANGED required to 1 to 3 times HOLDS BREAKS
            <xs:element name='n' type='xs:int' maxOccurs='unbounded'/> | <xs:element name='n' type='xs:int' maxOccurs='5'/> | n: CHANGED once or more to 1 to 5 times BREAKS HOLDS
            <xs:element name='n' type='xs:int' nillable='true'/> | <xs:element name='n' type='xs:int'/> | n: CHANGED may be nil to never nil BREAKS HOLDS
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:int' fixed='3'/> | n: CHANGED any value to always 3 BREAKS HOLDS
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:int'/><xs:element name='guest' type='xs:string'/> | guest: ADDED not there to required · xs:string BREAKS MAY_BREAK
            <xs:element name='n' type='xs:int'/> | <xs:element name='n' type='xs:int'/><xs:element name='guest' type='xs:string' minOccurs='0'/> | guest: ADDED not there to may be left out · xs:string HOLDS MAY_BREAK
            <xs:element name='n' type='xs:int'/><xs:element name='guest' type='xs:string' minOccurs='0'/> | <xs:element name='n' type='xs:int'/> | guest: GONE may be left out · xs:string to not there BREAKS HOLDS
            <xs:element name='refund' type='xs:int'/> | <xs:element name='refundTotal' type='xs:int'/> | refund: RENAMED required · xs:int to renamed refundTotal? BREAKS BREAKS
            <xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/> | <xs:element name='b' type='xs:int'/><xs:element name='a' type='xs:int'/> | : CHANGED a, b to b, a BREAKS BREAKS
            <xs:choice><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/></xs:choice> | <xs:element name='a' type='xs:int' minOccurs='0'/><xs:element name='b' type='xs:int' minOccurs='0'/> | : CHANGED (a or b) to a 0..1, b 0..1 HOLDS BREAKS
            <xs:element name='a' type='xs:int'/> | <xs:element name='a' type='xs:int'/><xs:any minOccurs='0' processContents='lax'/> | : CHANGED a to a, any of any 0..1 HOLDS BREAKS
            <xs:element name='n' type='xs:int' default='2'/> | <xs:element name='n' type='xs:int' default='3'/> | n: CHANGED 2 when left out to 3 when left out MAY_BREAK MAY_BREAK
            """)
    void saysWhatChangedInAFieldAndWhomItBreaks(String before, String after, String said) {
        List<ContractChange> found = changes(sequence(before), sequence(after)).stream()
                .filter(c -> c.half() == Half.TAKES)
                .toList();
        assertThat(found.stream().map(ContractChangesTest::line)).containsExactly(said.strip());
    }

    @ParameterizedTest(name = "{0} to {1}")
    @CsvSource(delimiter = '|', textBlock = """
            <xs:maxInclusive value='14'/> | <xs:maxInclusive value='10'/> | xs:int | up to 14 to up to 10 BREAKS HOLDS
            <xs:minInclusive value='1'/><xs:maxInclusive value='14'/> | <xs:minInclusive value='1'/><xs:maxInclusive value='14.0'/> | xs:decimal |
            <xs:maxExclusive value='10'/> | <xs:maxInclusive value='10'/> | xs:decimal | under 10 to up to 10 HOLDS BREAKS
            <xs:minInclusive value='2027-01-01'/> | <xs:minInclusive value='2026-01-01'/> | xs:date | from 2027-01-01 to from 2026-01-01 HOLDS BREAKS
            <xs:maxLength value='20'/> | <xs:maxLength value='40'/> | xs:string | at most 20 long to at most 40 long HOLDS BREAKS
            <xs:length value='4'/> | <xs:minLength value='3'/><xs:maxLength value='5'/> | xs:string | length 4 to 3 to 5 long HOLDS BREAKS
            <xs:pattern value='NF-[0-9]{2}'/> | <xs:pattern value='NF-[0-9]{3}'/> | xs:string | NF-[0-9]{2} to NF-[0-9]{3} MAY_BREAK MAY_BREAK
            <xs:pattern value='NF-[0-9]{2}'/> | <xs:maxLength value='99'/> | xs:string | any length · NF-[0-9]{2} to at most 99 long · any form BREAKS BREAKS
            <xs:enumeration value='HALF'/><xs:enumeration value='FULL'/> | <xs:enumeration value='FULL'/><xs:enumeration value='HALF'/> | xs:string |
            <xs:enumeration value='HALF'/><xs:enumeration value='FULL'/> | <xs:enumeration value='FULL'/><xs:enumeration value='NONE'/> | xs:string | 2 values to + NONE, − HALF BREAKS BREAKS
            <xs:enumeration value='HALF'/><xs:enumeration value='FULL'/> | <xs:maxLength value='4'/> | xs:string | 2 values to xs:string · max 4 HOLDS BREAKS
            <xs:totalDigits value='5'/> | <xs:totalDigits value='4'/> | xs:decimal | at most 5 digits to at most 4 digits BREAKS HOLDS
            """)
    void saysWhatChangedInAFacet(String before, String after, String base, String said) {
        List<ContractChange> found = changes(value(base, before), value(base, after)).stream()
                .filter(c -> c.half() == Half.TAKES)
                .toList();
        String expected = said == null ? "" : "n: CHANGED " + said.strip();
        assertThat(found.stream().map(ContractChangesTest::line).collect(Collectors.joining("; ")))
                .isEqualTo(expected);
    }

    @Test
    void whatWidensTheRequestHelpsCallersWhereTheSameInTheAnswerBreaksThem() {
        List<ContractChange> found = changes(
                sequence("<xs:element name='n' type='xs:int'/>"), sequence("<xs:element name='n' type='xs:long'/>"));
        assertThat(found)
                .extracting(ContractChange::half, ContractChange::callers, ContractChange::service)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple(Half.TAKES, Effect.HOLDS, Effect.BREAKS),
                        org.assertj.core.groups.Tuple.tuple(Half.GIVES, Effect.BREAKS, Effect.HOLDS));
    }

    @Test
    void attributesAndTypesThatMayStandForAnotherAreCompared() {
        String base =
                "<xs:complexType name='Guest'><xs:sequence><xs:element name='name' type='xs:string'/></xs:sequence>%s</xs:complexType>%s<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='guest' type='t:Guest'/></xs:sequence></xs:complexType></xs:element>";
        String member =
                "<xs:complexType name='Member'><xs:complexContent><xs:extension base='t:Guest'><xs:sequence><xs:element name='card' type='xs:%s'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>";
        String old = base.formatted("<xs:attribute name='age' type='xs:int'/>", member.formatted("int"));
        String now =
                base.formatted("<xs:attribute name='age' type='xs:int' use='required'/>", member.formatted("short"));
        assertThat(changes(old, now).stream()
                        .filter(c -> c.half() == Half.TAKES)
                        .map(ContractChangesTest::line))
                .containsExactly(
                        "guest/@age: CHANGED may be left out to required BREAKS HOLDS",
                        "guest/(Member)/card: CHANGED xs:int to xs:short BREAKS HOLDS");
        String without = base.formatted("<xs:attribute name='age' type='xs:int'/>", "");
        assertThat(changes(old, without).stream()
                        .filter(c -> c.half() == Half.TAKES)
                        .map(ContractChangesTest::line))
                .containsExactly("guest: CHANGED may be of type Member to not there BREAKS HOLDS");
    }

    @Test
    void aTypeThatHoldsItselfAndOneThatIsUsedOverAndOverAreComparedOnce() {
        String recursive =
                "<xs:complexType name='Hut'><xs:sequence><xs:element name='beds' type='xs:%s'/><xs:element name='annex' type='t:Hut' minOccurs='0' maxOccurs='unbounded'/></xs:sequence></xs:complexType><xs:element name='Root' type='t:Hut'/>";
        assertThat(changes(recursive.formatted("int"), recursive.formatted("long")).stream()
                        .filter(c -> c.half() == Half.TAKES)
                        .map(ContractChange::path))
                .containsExactly("beds");
        StringBuilder doubling = new StringBuilder(
                "<xs:complexType name='T0'><xs:sequence><xs:element name='v' type='xs:%s'/></xs:sequence></xs:complexType>");
        for (int i = 1; i <= 30; i++) {
            doubling.append("<xs:complexType name='T" + i + "'><xs:sequence><xs:element name='a' type='t:T" + (i - 1)
                    + "'/><xs:element name='b' type='t:T" + (i - 1) + "'/></xs:sequence></xs:complexType>");
        }
        String text = doubling.append("<xs:element name='Root' type='t:T30'/>").toString();
        assertThat(changes(text.formatted("int"), text.formatted("long"))).hasSizeBetween(2, 800);
    }

    @Test
    void anotherNamespaceIsToldOnceAndNotForEachFieldOfIt() {
        String text = Contracts.wsdl(
                Contracts.schema(
                        "<xs:element name='Root'><xs:complexType><xs:sequence>"
                                + "<xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/></xs:sequence></xs:complexType></xs:element>"));
        ContractChanges changes =
                between(text, text.replace("urn:t'", "urn:t:2'").replace("urn:t\"", "urn:t:2\""));
        assertThat(changes.changes().stream().map(ContractChangesTest::line))
                .containsExactly(
                        ": CHANGED namespace urn:t to namespace urn:t:2 BREAKS BREAKS",
                        ": CHANGED namespace urn:t to namespace urn:t:2 BREAKS BREAKS");
    }

    @Test
    void operationsPortsActionsAndPatternsAreCompared() {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:string'/>"));
        assertThat(between(text, text.replace("name=\"Do\"", "name=\"Dos\"")).changes().stream()
                        .map(ContractChangesTest::line))
                .containsExactly(
                        ": RENAMED request and answer to renamed Dos? BREAKS HOLDS",
                        ": ADDED not there to request and answer HOLDS BREAKS");
        assertThat(between(text, text.replace("soapAction=\"do\"", "soapAction=\"urn:do\"")).changes().stream()
                        .map(ContractChangesTest::line))
                .containsExactly(
                        ": CHANGED action “do” at SOAP 1.1 to action “urn:do” at SOAP 1.1 MAY_BREAK MAY_BREAK");
        assertThat(between(text, text.replace(":1/t", ":2/t")).changes().stream()
                        .map(ContractChangesTest::line))
                .containsExactly("Port: CHANGED http://127.0.0.1:1/t to http://127.0.0.1:2/t TO_KNOW TO_KNOW");
        assertThat(between(
                                text,
                                text.replace("<output message=\"tns:M\"/>", "")
                                        .replace("<output><soap:body use=\"literal\"/></output>", ""))
                        .changes()
                        .stream()
                        .map(ContractChangesTest::line))
                .containsExactly(": CHANGED request-response to one-way BREAKS BREAKS");
    }

    @Test
    void theSameContractHasNotChangedAndAnotherCommentIsToldOfDocumentsAlone() {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:string'/>"));
        assertThat(between(text, text).isEmpty()).isTrue();
        assertThat(between(text, text).documents()).isEmpty();
        ContractChanges commented = between(text, text.replace("<message ", "<!-- as agreed -->\n<message "));
        assertThat(commented.isEmpty()).isTrue();
        assertThat(commented.documents()).singleElement().satisfies(d -> {
            assertThat(d.added()).isEqualTo(2);
            assertThat(d.gone()).isEqualTo(1);
        });
    }

    static List<ContractChange> changes(String before, String after) {
        return between(Contracts.wsdl(Contracts.schema(before)), Contracts.wsdl(Contracts.schema(after)))
                .changes();
    }

    static ContractChanges between(String before, String after) {
        Contract was = Contracts.of("a.wsdl", before);
        Contract is = Contracts.of("a.wsdl", after);
        return ContractChanges.between(was, is, new StopSignal());
    }

    static String sequence(String inside) {
        return "<xs:element name='Root'><xs:complexType><xs:sequence>" + inside
                + "</xs:sequence></xs:complexType></xs:element>";
    }

    private static String value(String base, String facets) {
        return sequence("<xs:element name='n'><xs:simpleType><xs:restriction base='" + base + "'>" + facets
                + "</xs:restriction></xs:simpleType></xs:element>");
    }

    private static String line(ContractChange c) {
        return c.path() + ": " + c.kind() + " " + c.before() + " to " + c.after() + " " + c.callers() + " "
                + c.service();
    }
}
