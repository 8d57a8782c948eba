package dev.mockbell.sample;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.Operation;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.validation.SampleJudge;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What has no valid instance is said as a finding, and its samples say so themselves. */
class NoInstanceTest {
    private static Contract contract(String... schemas) {
        return Contracts.of("a.wsdl", Contracts.wsdl(String.join("", schemas)));
    }

    private static String root(String content) {
        return Contracts.schema(
                "<xs:element name='Root'><xs:complexType>" + content + "</xs:complexType></xs:element>");
    }

    private static List<Finding> of(Contract contract, String rule) {
        return contract.findings().stream().filter(f -> f.rule().equals(rule)).toList();
    }

    private static SampleEnvelope request(Contract contract, Detail detail) {
        var port = contract.ports().get(0);
        return SampleEnvelope.of(contract, port.binding(), operation(contract), detail)
                .get(0);
    }

    private static Operation operation(Contract contract) {
        return contract.ports().get(0).binding().operations().get(0);
    }

    private static List<String> breaches(Contract contract, Detail detail) {
        return new SampleJudge(contract).breaches(operation(contract), request(contract, detail));
    }

    @Test
    void aStrictWildcardThatNothingFillsIsAFindingAndHoldsAPlaceholderThatNamesItsType() {
        Contract contract = contract(root("<xs:sequence><xs:any namespace='urn:elsewhere'/></xs:sequence>"));
        assertThat(of(contract, "unfilled-wildcard"))
                .singleElement()
                .satisfies(f -> assertThat(f.text()).contains("{urn:t}Root").contains("urn:elsewhere"));
        SampleEnvelope sample = request(contract, Detail.REQUIRED);
        assertThat(sample.text()).contains("xsi:type=\"xs:string\"");
        assertThat(sample.notes()).singleElement().asString().contains("is a placeholder");
        assertThat(breaches(contract, Detail.REQUIRED)).isEmpty();
    }

    @Test
    void oneThatSomethingDeclaredFillsIsNone() {
        Contract contract = contract(
                root("<xs:sequence><xs:any namespace='urn:o'/></xs:sequence>"),
                "<xs:schema targetNamespace='urn:o'><xs:element name='other' type='xs:int'/></xs:schema>");
        assertThat(of(contract, "unfilled-wildcard")).isEmpty();
        assertThat(request(contract, Detail.REQUIRED).notes()).isEmpty();
        assertThat(breaches(contract, Detail.REQUIRED)).isEmpty();
    }

    @Test
    void oneThatOnlyItsOwnElementFillsHasNoEndAndIsCutShort() {
        Contract contract = contract(root("<xs:sequence><xs:any namespace='##targetNamespace'/></xs:sequence>"));
        assertThat(of(contract, "no-instance"))
                .singleElement()
                .satisfies(f -> assertThat(f.text()).contains("leads back to it"));
        assertThat(request(contract, Detail.REQUIRED).notes())
                .singleElement()
                .asString()
                .contains("cut short");
        assertThat(breaches(contract, Detail.REQUIRED)).isNotEmpty();
    }

    @Test
    void anOptionalOneIsLeftOutAndNothingIsSaid() {
        Contract contract =
                contract(root("<xs:sequence><xs:any namespace='urn:elsewhere' minOccurs='0'/></xs:sequence>"));
        assertThat(of(contract, "unfilled-wildcard")).isEmpty();
        assertThat(breaches(contract, Detail.FULL)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"ENTITY", "ENTITIES"})
    void aValueThatNamesAnEntityCannotBeGiven(String type) {
        Contract contract = contract(root("<xs:sequence><xs:element name='v' type='xs:" + type + "'/></xs:sequence>"));
        assertThat(of(contract, "no-instance"))
                .singleElement()
                .satisfies(f -> assertThat(f.text())
                        .contains("v names an unparsed entity")
                        .contains("SOAP allows none"));
        assertThat(breaches(contract, Detail.REQUIRED)).isNotEmpty();
    }

    @Test
    void aNotationNeedsOneThatIsListed() {
        Contract bad = contract(root("<xs:attribute name='a' type='xs:NOTATION' use='required'/>"));
        assertThat(of(bad, "no-instance"))
                .singleElement()
                .satisfies(f -> assertThat(f.text()).contains("attribute a").contains("NOTATION"));
        Contract good = contract(
                Contracts.schema(
                        "<xs:notation name='jpeg' public='image/jpeg'/><xs:simpleType name='N'><xs:restriction base='xs:NOTATION'>"
                                + "<xs:enumeration value='t:jpeg'/></xs:restriction></xs:simpleType>"
                                + "<xs:element name='Root'><xs:complexType><xs:attribute name='a' type='t:N' use='required'/></xs:complexType></xs:element>"));
        assertThat(of(good, "no-instance")).isEmpty();
        assertThat(breaches(good, Detail.REQUIRED)).isEmpty();
    }

    @Test
    void whatIsOptionalOfThatKindIsLeftOutOfAFullSample() {
        Contract contract = contract(root(
                "<xs:sequence><xs:element name='v' type='xs:ENTITY' minOccurs='0'/><xs:element name='n' type='xs:int'/></xs:sequence>"
                        + "<xs:attribute name='a' type='xs:ENTITY'/>"));
        assertThat(of(contract, "no-instance")).isEmpty();
        assertThat(request(contract, Detail.FULL).text()).doesNotContain("<t:v").doesNotContain(" a=");
        assertThat(breaches(contract, Detail.FULL)).isEmpty();
    }

    @Test
    void aChoiceTakesTheBranchThatHasAnInstance() {
        Contract contract = contract(root(
                "<xs:choice><xs:element name='v' type='xs:ENTITY'/><xs:element name='n' type='xs:int'/></xs:choice>"));
        assertThat(of(contract, "no-instance")).isEmpty();
        assertThat(request(contract, Detail.REQUIRED).text()).contains("<t:n>");
        assertThat(breaches(contract, Detail.REQUIRED)).isEmpty();
    }

    @Test
    void aNilNeedsNoValueButItsRequiredAttributes() {
        Contract nil =
                contract(root("<xs:sequence><xs:element name='v' type='xs:ENTITY' nillable='true'/></xs:sequence>"));
        assertThat(of(nil, "no-instance")).isEmpty();
        assertThat(breaches(nil, Detail.REQUIRED)).isEmpty();
        Contract both = contract(
                root(
                        "<xs:sequence><xs:element name='v' nillable='true'><xs:complexType>"
                                + "<xs:attribute name='a' type='xs:ENTITY' use='required'/></xs:complexType></xs:element></xs:sequence>"));
        assertThat(of(both, "no-instance")).hasSize(1);
    }

    @Test
    void somethingAbstractThatNothingStandsForIsNamed() {
        Contract contract = contract(
                Contracts.schema(
                        "<xs:element name='Head' abstract='true' type='xs:int'/>"
                                + "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element ref='t:Head'/></xs:sequence></xs:complexType></xs:element>"));
        assertThat(of(contract, "no-instance"))
                .singleElement()
                .satisfies(f -> assertThat(f.text()).contains("{urn:t}Head is abstract and nothing may stand for it"));
    }

    @Test
    void aGuessIsMarkedThoughTheValidatorTakesIt() {
        Contract contract = contract(root("<xs:sequence><xs:element name='odd' type='t:Gone'/></xs:sequence>"));
        assertThat(request(contract, Detail.REQUIRED).notes())
                .singleElement()
                .asString()
                .contains("t:odd is a guess")
                .contains("Gone");
    }
}
