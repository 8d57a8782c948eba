package dev.mockbell.sample;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.Prefixes;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.SecondValidator;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class SampleBuilderTest {
    private static MessageOutline outline(String schema) {
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(schema)));
        assertThat(contract.findings()).isEmpty();
        return MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
    }

    private static void holds(String schema) {
        MessageOutline outline = outline(schema);
        SecondValidator second = new SecondValidator(outline.schemas());
        for (Detail detail : Detail.values()) {
            String text = SampleBuilder.text(outline, detail);
            assertThat(new MessageValidator(outline.schemas())
                            .validate(outline, Xml.parse(text, "sample", XmlLimits.MESSAGE)))
                    .as(text)
                    .isEmpty();
            assertThat(second.errors(text))
                    .as("to a second validator: %s", text)
                    .isEmpty();
            assertThat(SampleBuilder.text(outline, detail)).isEqualTo(text);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "xs:string",
                "xs:normalizedString",
                "xs:token",
                "xs:language",
                "xs:Name",
                "xs:NCName",
                "xs:NMTOKEN",
                "xs:NMTOKENS",
                "xs:boolean",
                "xs:decimal",
                "xs:integer",
                "xs:positiveInteger",
                "xs:negativeInteger",
                "xs:nonPositiveInteger",
                "xs:long",
                "xs:int",
                "xs:short",
                "xs:byte",
                "xs:unsignedByte",
                "xs:unsignedLong",
                "xs:float",
                "xs:double",
                "xs:duration",
                "xs:dateTime",
                "xs:date",
                "xs:time",
                "xs:gYear",
                "xs:gYearMonth",
                "xs:gMonthDay",
                "xs:gDay",
                "xs:gMonth",
                "xs:hexBinary",
                "xs:base64Binary",
                "xs:anyURI",
                "xs:anySimpleType"
            })
    void everyBuiltInTypeHasAValidValue(String type) {
        holds("<xs:element name='Root' type='" + type + "'/>");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<xs:restriction base='xs:string'><xs:minLength value='40'/><xs:maxLength value='45'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:length value='1'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:pattern value='[A-Z]{3}-\\d{4}(/[a-f]+)?'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:pattern value='[a-z]+'/><xs:minLength value='8'/><xs:maxLength value='9'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:pattern value='\\p{Lu}[^a-c\\s]{2}|x{5}'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:pattern value='[a-z-[aeiou]]{4}'/></xs:restriction>",
                "<xs:restriction base='xs:string'><xs:pattern value='\\i\\c*\\.\\w+'/></xs:restriction>",
                "<xs:restriction base='xs:decimal'><xs:totalDigits value='4'/><xs:fractionDigits value='1'/><xs:minExclusive value='99.9'/></xs:restriction>",
                "<xs:restriction base='xs:int'><xs:minInclusive value='1000'/><xs:maxExclusive value='1001'/></xs:restriction>",
                "<xs:restriction base='xs:double'><xs:minInclusive value='500'/></xs:restriction>",
                "<xs:restriction base='xs:date'><xs:maxInclusive value='1999-12-31'/></xs:restriction>",
                "<xs:restriction base='xs:hexBinary'><xs:length value='5'/></xs:restriction>",
                "<xs:restriction base='xs:base64Binary'><xs:minLength value='30'/></xs:restriction>",
                "<xs:list itemType='xs:int'/>",
                "<xs:union memberTypes='xs:int xs:boolean'/>"
            })
    void facetsAreMet(String restriction) {
        holds("<xs:element name='Root'><xs:simpleType>" + restriction + "</xs:simpleType></xs:element>");
    }

    @Test
    void choicesGroupsAttributesAndFixedValuesHold() {
        holds("""
                <xs:element name='Root'><xs:complexType>
                  <xs:sequence>
                    <xs:choice minOccurs='2' maxOccurs='3'><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:string'/></xs:choice>
                    <xs:group ref='t:G' minOccurs='0'/>
                    <xs:element name='f' type='xs:string' fixed='always'/>
                    <xs:any minOccurs='0' namespace='##other' processContents='lax'/>
                  </xs:sequence>
                  <xs:attribute name='need' type='xs:int' use='required'/><xs:attribute name='fix' type='xs:string' fixed='x'/>
                </xs:complexType></xs:element>
                <xs:group name='G'><xs:sequence><xs:element name='g' type='xs:date' maxOccurs='unbounded'/></xs:sequence></xs:group>""");
    }

    @Test
    void allGroupsMixedContentAndSimpleContentHold() {
        holds("""
                <xs:element name='Root'><xs:complexType mixed='true'><xs:all><xs:element name='x' type='t:P'/><xs:element name='y' minOccurs='0' type='xs:int'/></xs:all></xs:complexType></xs:element>
                <xs:complexType name='P'><xs:simpleContent><xs:extension base='xs:decimal'><xs:attribute name='unit' use='required' type='xs:token'/></xs:extension></xs:simpleContent></xs:complexType>""");
    }

    @Test
    void abstractTypesAndElementsAreReplacedByConcreteOnes() {
        holds("""
                <xs:element name='Root'><xs:complexType><xs:sequence><xs:element ref='t:Head'/><xs:element name='v' type='t:Base'/></xs:sequence></xs:complexType></xs:element>
                <xs:element name='Head' abstract='true' type='t:Base'/><xs:element name='Real' substitutionGroup='t:Head' type='t:Leaf'/>
                <xs:complexType name='Base' abstract='true'><xs:sequence/></xs:complexType>
                <xs:complexType name='Leaf'><xs:complexContent><xs:extension base='t:Base'><xs:sequence><xs:element name='n' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>""");
    }

    @Test
    void recursionEndsAtTheSmallestFiniteInstance() {
        holds("""
                <xs:element name='Root' type='t:Node'/>
                <xs:complexType name='Node'><xs:sequence><xs:element name='v' type='xs:int'/><xs:element name='kid' type='t:Node' minOccurs='0' maxOccurs='2'/></xs:sequence></xs:complexType>""");
        holds("""
                <xs:element name='Root' type='t:Expr'/>
                <xs:complexType name='Expr'><xs:choice><xs:sequence><xs:element name='left' type='t:Expr'/><xs:element name='right' type='t:Expr'/></xs:sequence><xs:element name='leaf' type='xs:int'/></xs:choice></xs:complexType>""");
    }

    @Test
    void unqualifiedLocalElementsHaveNoPrefix() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema(
                                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='bare' type='xs:int'/></xs:sequence></xs:complexType></xs:element>")
                        .replace("elementFormDefault='qualified'", "elementFormDefault='unqualified'")));
        MessageOutline outline = MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
        assertThat(SampleBuilder.text(outline, Detail.REQUIRED)).contains("<bare>");
    }

    @ParameterizedTest
    @EnumSource(Detail.class)
    void theStayContractSamplesAreValid(Detail detail) {
        Contract stay = Contracts.stay();
        stay.operations().forEach((key, ports) -> {
            MessageOutline outline = MessageOutline.of(
                    stay,
                    ports.get(0).binding().operation(key).orElseThrow().input().orElseThrow());
            String text = SampleBuilder.text(outline, detail);
            assertThat(new MessageValidator(stay.schemas()).validate(outline, Xml.parse(text, "s", XmlLimits.MESSAGE)))
                    .as(text)
                    .isEmpty();
        });
    }

    @ParameterizedTest
    @CsvSource({
        "urn:northfell:hut-booking, hb",
        "http://huts.example/stay/v2, sta",
        "urn:x, x",
        "http://example.org/2027/02, exam"
    })
    void prefixesComeFromTheNamespace(String namespace, String start) {
        assertThat(Prefixes.suggest(namespace)).startsWith(start.substring(0, 1));
    }
}
