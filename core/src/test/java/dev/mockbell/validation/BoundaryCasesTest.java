package dev.mockbell.validation;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sheet.Sheets;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.BoundaryCases.Boundary;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BoundaryCasesTest {
    private static String simple(String base, String facets) {
        return Sheets.root("<xs:element name='v'><xs:simpleType><xs:restriction base='xs:" + base + "'>" + facets
                + "</xs:restriction></xs:simpleType></xs:element>");
    }

    private static List<Boundary> of(String schema) {
        return BoundaryCases.of(Sheets.outline(schema), new StopSignal());
    }

    private static String verdicts(List<Boundary> cases) {
        return cases.stream()
                .filter(b -> b.title().startsWith("v = "))
                .map(b -> b.title().replaceAll("^v = ([^,]*), .*", "$1") + (b.accepted() ? "+" : "-"))
                .collect(Collectors.joining(" "));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            value = {
                "int|<xs:minInclusive value='1'/><xs:maxInclusive value='14'/>|1+ 0- 14+ 13+ 15- not this type-",
                "int|<xs:minExclusive value='1'/><xs:maxExclusive value='14'/>|1- 14- 13+ not this type-",
                "decimal|<xs:maxInclusive value='9.5'/><xs:fractionDigits value='1'/>|9.5+ 9.4+ 9.6- 1.1+ 1.11- not this type-",
                "string|<xs:enumeration value='A'/><xs:enumeration value='B'/>|B+ unknown-",
                "date|<xs:minInclusive value='2027-01-01'/>|2027-01-01+ 2027-01-02+ 2026-12-31- not this type-"
            })
    void eachLimitIsTriedWithItsNeighbours(String base, String facets, String expected) {
        assertThat(verdicts(of(simple(base, facets)))).isEqualTo(expected);
    }

    /** WS-I Basic Profile 1.1 R2738: an envelope has all headers of its binding. */
    @Test
    void headersAreTriedToo() {
        Contract contract = Contracts.of("h.wsdl", """
                <definitions targetNamespace="urn:h" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:h" xmlns:t="urn:t"
                  xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
                  <types><xs:schema targetNamespace="urn:t" elementFormDefault="qualified"><xs:element name="Root" type="xs:string"/>
                    <xs:element name="Trace"><xs:complexType><xs:sequence><xs:element name="trip" type="xs:byte"/></xs:sequence></xs:complexType></xs:element></xs:schema></types>
                  <message name="M"><part name="p" element="t:Root"/></message><message name="H"><part name="t" element="t:Trace"/></message>
                  <portType name="P"><operation name="Do"><input message="tns:M"/></operation></portType>
                  <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Do"><input><soap:body use="literal"/><soap:header message="tns:H" part="t" use="literal"/></input></operation></binding>
                  <service name="S"><port name="Port" binding="tns:B"><soap:address location="http://127.0.0.1:1/t"/></port></service>
                </definitions>""");
        MessageOutline outline = MessageOutline.ofRequest(
                contract, contract.operation("Do", null).orElseThrow().operation());
        List<Boundary> cases = BoundaryCases.of(outline, new StopSignal());
        assertThat(cases)
                .filteredOn(b -> b.title().equals("Header Trace missing"))
                .singleElement()
                .satisfies(b -> {
                    assertThat(b.accepted()).isFalse();
                    assertThat(b.soapHeaders()).contains("");
                    assertThat(b.body()).contains("Root");
                });
        assertThat(cases)
                .filteredOn(b -> b.title().startsWith("Header Trace: trip = 128"))
                .singleElement()
                .satisfies(b -> {
                    assertThat(b.accepted()).isFalse();
                    assertThat(b.path()).isEqualTo("header::Trace/trip");
                    assertThat(b.soapHeaders().orElseThrow()).contains(">128<");
                });
        assertThat(cases)
                .filteredOn(b -> b.title().startsWith("Header Trace: trip = 127"))
                .allMatch(Boundary::accepted);
        assertThat(cases).filteredOn(b -> b.soapHeaders().isEmpty()).isNotEmpty();
    }

    @Test
    void lengthsAreTriedAtTheLimitAndOneBeyond() {
        List<Boundary> cases = of(simple("token", "<xs:minLength value='2'/><xs:maxLength value='5'/>"));
        assertThat(cases)
                .filteredOn(b -> b.title().contains("as long as is allowed, 5"))
                .singleElement()
                .matches(Boundary::accepted);
        assertThat(cases)
                .filteredOn(b -> b.title().contains("one too long, 6"))
                .singleElement()
                .matches(b -> !b.accepted() && !b.reason().isEmpty());
        assertThat(cases)
                .filteredOn(b -> b.title().contains("one too short, 1"))
                .singleElement()
                .matches(b -> !b.accepted());
    }

    @Test
    void aPatternIsBrokenOnce() {
        assertThat(of(simple("token", "<xs:pattern value='NF-[0-9]{2}'/>")))
                .filteredOn(b -> b.title().contains("does not match the pattern"))
                .singleElement()
                .matches(b -> !b.accepted());
    }

    @Test
    void structureIsTriedByTheRulesOfOccurrence() {
        List<Boundary> cases = of(
                Sheets.root(
                        "<xs:element name='a' type='xs:string' minOccurs='0'/><xs:element name='b' type='xs:string' minOccurs='0'/><xs:element name='g' minOccurs='2' maxOccurs='3'><xs:complexType><xs:sequence><xs:element name='n' type='xs:string' nillable='true'/></xs:sequence><xs:attribute name='k' type='xs:int' use='required'/></xs:complexType></xs:element>"));
        assertThat(cases.stream().collect(Collectors.toMap(Boundary::title, Boundary::accepted)))
                .containsEntry("a left out", true)
                .containsEntry("g missing", false)
                .containsEntry("g × 1, one too few", false)
                .containsEntry("g × 3, as many as are allowed", true)
                .containsEntry("g × 4, one too many", false)
                .containsEntry("a × 2, one too many", false)
                .containsEntry("n missing", false)
                .containsEntry("n nil", true)
                .containsEntry("@k missing", false)
                .containsEntry("Everything in", true)
                .containsEntry("Required only", true)
                .containsEntry("An element that the contract does not know in Root", false);
        assertThat(cases).extracting(Boundary::body).doesNotHaveDuplicates();
    }

    @Test
    void everyVerdictIsThatOfTheValidatorOnTheBodyThatIsKept() {
        MessageOutline outline = Sheets.outline(simple("int", "<xs:maxInclusive value='3'/>"));
        MessageValidator validator = new MessageValidator(outline.schemas());
        assertThat(BoundaryCases.of(outline, new StopSignal()))
                .isNotEmpty()
                .allMatch(b -> b.accepted()
                        == validator
                                .validate(outline, Xml.parse(b.body(), "b", XmlLimits.MESSAGE))
                                .isEmpty());
    }

    @Test
    void aMessageWithoutABodyHasNone() {
        assertThat(BoundaryCases.of(MessageOutline.empty(dev.mockbell.contract.Contracts.stay()), new StopSignal()))
                .isEmpty();
    }
}
