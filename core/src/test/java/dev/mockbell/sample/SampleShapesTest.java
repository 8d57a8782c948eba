package dev.mockbell.sample;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.SecondValidator;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Samples of every kind of content that XML Schema knows, each held against the schema. */
class SampleShapesTest {
    private static Contract contract(String... schemas) {
        StringBuilder all = new StringBuilder();
        for (String schema : schemas) {
            all.append(schema);
        }
        return Contracts.of("a.wsdl", Contracts.wsdl(all.toString()));
    }

    private static MessageOutline outline(Contract contract) {
        return MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
    }

    private static String sample(Contract contract, Detail detail) {
        assertThat(contract.findings().stream().filter(f -> f.severity() == Finding.Severity.ERROR))
                .isEmpty();
        MessageOutline outline = outline(contract);
        String text = SampleBuilder.text(outline, detail);
        assertThat(new MessageValidator(contract.schemas())
                        .validate(outline, Xml.parse(text, "sample", XmlLimits.MESSAGE)))
                .as(text)
                .isEmpty();
        assertThat(new SecondValidator(contract.schemas()).errors(text))
                .as("to a second validator: %s", text)
                .isEmpty();
        assertThat(SampleBuilder.text(outline, detail)).isEqualTo(text);
        return text;
    }

    private static String holds(String inside) {
        Contract contract = contract(Contracts.schema(inside));
        sample(contract, Detail.REQUIRED);
        return sample(contract, Detail.FULL);
    }

    private static String root(String content) {
        return "<xs:element name='Root'><xs:complexType>" + content + "</xs:complexType></xs:element>";
    }

    private static String value(String type) {
        return root("<xs:sequence><xs:element name='v'><xs:simpleType>" + type
                + "</xs:simpleType></xs:element></xs:sequence>");
    }

    private static String restriction(String base, String facets) {
        return "<xs:restriction base='" + base + "'>" + facets + "</xs:restriction>";
    }

    private static String of(String text, String element) {
        Matcher m = Pattern.compile("<(?:\\w+:)?" + element + "[^>]*>([^<]*)<").matcher(text);
        assertThat(m.find()).as(text).isTrue();
        return m.group(1);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "xs:string|<xs:pattern value='[A-Z]{3}-\\d{4}'/>",
                "xs:string|<xs:pattern value='[A-Z]+'/><xs:length value='12'/>",
                "xs:string|<xs:pattern value='(ab|cde)*'/><xs:minLength value='7'/><xs:maxLength value='8'/>",
                "xs:token|<xs:pattern value='[a-z ]{20}'/>",
                "xs:string|<xs:pattern value='AB'/><xs:pattern value='CD'/>",
                "xs:int|<xs:pattern value='\\d{6}'/><xs:minInclusive value='500'/>",
                "xs:decimal|<xs:pattern value='\\d{3}\\.\\d{2}'/>",
                "xs:decimal|<xs:totalDigits value='4'/><xs:fractionDigits value='2'/><xs:minExclusive value='99.9'/>",
                "xs:decimal|<xs:minExclusive value='0'/><xs:maxExclusive value='0.01'/><xs:fractionDigits value='3'/>",
                "xs:integer|<xs:minInclusive value='123456789012345678901234567890'/>",
                "xs:long|<xs:maxExclusive value='-9000000000000000000'/>",
                "xs:double|<xs:minExclusive value='2.5'/><xs:maxExclusive value='2.6'/>",
                "xs:float|<xs:minInclusive value='1e30'/>",
                "xs:date|<xs:minExclusive value='2030-12-31'/>",
                "xs:date|<xs:maxExclusive value='1900-01-01'/>",
                "xs:dateTime|<xs:pattern value='.*\\.\\d{3}Z'/>",
                "xs:dateTime|<xs:minInclusive value='2040-01-01T00:00:00Z'/>",
                "xs:time|<xs:minExclusive value='23:00:00'/>",
                "xs:gYear|<xs:minInclusive value='2100'/>",
                "xs:gYearMonth|<xs:maxInclusive value='1999-12'/>",
                "xs:gDay|<xs:enumeration value='---31'/>",
                "xs:duration|<xs:minInclusive value='P10D'/><xs:maxInclusive value='P20D'/>",
                "xs:hexBinary|<xs:length value='16'/>",
                "xs:base64Binary|<xs:minLength value='100'/>",
                "xs:anyURI|<xs:maxLength value='20'/>",
                "xs:anyURI|<xs:pattern value='urn:[a-z]+:\\d+'/>",
                "xs:NCName|<xs:length value='3'/>",
                "xs:NMTOKEN|<xs:pattern value='[0-9]{4}'/>",
                "xs:language|<xs:pattern value='[a-z]{2}-[A-Z]{2}'/>",
                "xs:boolean|<xs:pattern value='[01]'/>",
                "xs:normalizedString|<xs:minLength value='300'/>",
                "xs:string|<xs:whiteSpace value='collapse'/><xs:length value='9'/>",
                "xs:string|<xs:enumeration value=''/><xs:enumeration value='b'/>",
                "xs:string|<xs:length value='0'/>",
                "xs:string|<xs:pattern value='\\p{Lu}\\p{Ll}{2,}'/>",
                "xs:string|<xs:pattern value='[\\i-[:]][\\c-[:]]*'/><xs:minLength value='9'/>",
                "xs:string|<xs:pattern value='([^&lt;&gt;&amp;]|x)+'/>",
                "xs:string|<xs:pattern value='(a+)+b'/>",
                "xs:unsignedByte|<xs:minInclusive value='250'/>",
                "xs:string|<xs:pattern value='\\+?\\d{1,3}[ ]?\\(?\\d{2,4}\\)?[ ]?\\d{5,9}'/>"
            })
    void everyFacetIsMet(String typeAndFacets) {
        String[] both = typeAndFacets.split("\\|", 2);
        holds(value(restriction(both[0], both[1])));
    }

    @Test
    void patternsOfSeveralStepsMustAllMatch() {
        holds(
                "<xs:simpleType name='A'><xs:restriction base='xs:string'><xs:pattern value='[A-Z0-9]+'/></xs:restriction></xs:simpleType>"
                        + "<xs:simpleType name='B'><xs:restriction base='t:A'><xs:pattern value='.*7.*'/><xs:maxLength value='4'/></xs:restriction></xs:simpleType>"
                        + root("<xs:sequence><xs:element name='v' type='t:B'/></xs:sequence>"));
    }

    @Test
    void listsAndUnions() {
        holds(value("<xs:list itemType='xs:int'/>"));
        holds("<xs:simpleType name='L'><xs:list itemType='xs:date'/></xs:simpleType>"
                + value(restriction("t:L", "<xs:length value='3'/>")));
        holds("<xs:simpleType name='L'><xs:list itemType='xs:token'/></xs:simpleType>"
                + value(restriction("t:L", "<xs:minLength value='2'/><xs:pattern value='[a-z]+ [a-z]+'/>")));
        holds("<xs:simpleType name='U'><xs:union memberTypes='xs:int xs:date'/></xs:simpleType>"
                + value(restriction("t:U", "<xs:pattern value='\\d{4}-.*'/>")));
        holds("<xs:simpleType name='U'><xs:union memberTypes='xs:int xs:token'/></xs:simpleType>"
                + value(restriction("t:U", "<xs:enumeration value='n/a'/>")));
    }

    @Test
    void fixedAndDefaultValuesAreUsed() {
        String text = holds(root(
                "<xs:sequence><xs:element name='f' type='xs:int' fixed='7'/><xs:element name='d' type='xs:string' default='dry'/></xs:sequence>"
                        + "<xs:attribute name='a' type='xs:int' fixed='3'/><xs:attribute name='b' default='x'/>"));
        assertThat(text).contains("a=\"3\"").contains("b=\"x\"");
        assertThat(of(text, "f")).isEqualTo("7");
        assertThat(of(text, "d")).isEqualTo("dry");
    }

    @Test
    void identifiersAreUniqueAndReferencesFindThem() {
        String text = holds(
                root(
                        "<xs:sequence><xs:element name='first' minOccurs='2' maxOccurs='2'><xs:complexType><xs:attribute name='id' type='xs:ID' use='required'/></xs:complexType></xs:element>"
                                + "<xs:element name='ref' type='xs:IDREF'/><xs:element name='refs' type='xs:IDREFS'/></xs:sequence>"));
        assertThat(text).contains("id=\"id1\"").contains("id=\"id2\"");
        assertThat(of(text, "ref")).isEqualTo("id1");
    }

    @Test
    void aReferenceBringsInAnOptionalIdentifier() {
        String text = sample(
                contract(Contracts.schema(root(
                        "<xs:sequence><xs:element name='hut'><xs:complexType><xs:attribute name='id' type='xs:ID'/></xs:complexType></xs:element>"
                                + "<xs:element name='ref' type='xs:IDREF'/></xs:sequence>"))),
                Detail.REQUIRED);
        assertThat(text).contains("id=\"id1\"");
    }

    @Test
    void qualifiedNamesAndNotationsHaveDeclaredPrefixes() {
        holds(root("<xs:sequence><xs:element name='q' type='xs:QName'/></xs:sequence>"));
        holds(value(restriction("xs:QName", "<xs:enumeration value='t:one'/><xs:enumeration value='t:two'/>")));
        holds("<xs:notation name='png' public='image/png'/>"
                + value(restriction("xs:NOTATION", "<xs:enumeration value='t:png'/>")));
    }

    @Test
    void nillableChoiceAllAndGroups() {
        holds("<xs:group name='G'><xs:sequence><xs:element name='g' type='xs:int'/></xs:sequence></xs:group>"
                + "<xs:attributeGroup name='AG'><xs:attribute name='x' type='xs:int' use='required'/></xs:attributeGroup>"
                + root(
                        "<xs:sequence><xs:element name='n' type='xs:date' nillable='true'/><xs:choice minOccurs='2' maxOccurs='3'>"
                                + "<xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/></xs:choice><xs:group ref='t:G' maxOccurs='4'/></xs:sequence>"
                                + "<xs:attributeGroup ref='t:AG'/>"));
        holds(
                root(
                        "<xs:all><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int' minOccurs='0'/></xs:all>"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<xs:any/>",
                "<xs:any processContents='lax'/>",
                "<xs:any processContents='skip' minOccurs='3' maxOccurs='4'/>",
                "<xs:any namespace='##other' processContents='lax'/>",
                "<xs:any namespace='##local' processContents='skip'/>",
                "<xs:any namespace='##targetNamespace'/>",
                "<xs:any namespace='urn:a urn:b' processContents='lax'/>",
                "<xs:any minOccurs='0'/>",
                "<xs:element name='v' type='xs:anyType'/>",
                "<xs:element name='v'/>",
                "<xs:element name='v' type='xs:anySimpleType'/>"
            })
    void wildcardsAndAnyTypes(String content) {
        holds("<xs:element name='Small' type='xs:int'/>" + root("<xs:sequence>" + content + "</xs:sequence>"));
    }

    @Test
    void mixedContentHasWords() {
        String text = holds(
                "<xs:element name='Root'><xs:complexType mixed='true'><xs:sequence>"
                        + "<xs:element name='b' type='xs:string' minOccurs='0' maxOccurs='unbounded'/></xs:sequence></xs:complexType></xs:element>");
        assertThat(text).contains("<t:b>");
        assertThat(sample(
                        contract(Contracts.schema("<xs:element name='Root'><xs:complexType mixed='true'><xs:sequence>"
                                + "<xs:element name='b' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>")),
                        Detail.REQUIRED))
                .contains(">root<");
    }

    @Test
    void formsAreKeptByElementAndByDefault() {
        String text = sample(
                contract(
                        "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:t' attributeFormDefault='qualified'>"
                                + root(
                                        "<xs:sequence><xs:element name='plain' type='xs:int'/><xs:element name='named' form='qualified' type='xs:int'/></xs:sequence>"
                                                + "<xs:attribute name='q' type='xs:int'/><xs:attribute name='u' form='unqualified' type='xs:int'/>")
                                + "</xs:schema>"),
                Detail.FULL);
        assertThat(text)
                .contains("<plain>")
                .contains("<t:named>")
                .contains("t:q=")
                .contains(" u=");
    }

    @Test
    void abstractElementsAndTypesHaveConcreteStandIns() {
        String text = holds(
                "<xs:element name='Head' abstract='true' type='t:Base'/><xs:element name='One' substitutionGroup='t:Head' type='t:Big'/>"
                        + "<xs:complexType name='Base' abstract='true'><xs:sequence/></xs:complexType>"
                        + "<xs:complexType name='Big'><xs:complexContent><xs:extension base='t:Base'><xs:sequence><xs:element name='x' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                        + root(
                                "<xs:sequence><xs:element ref='t:Head'/><xs:element name='b' type='t:Base'/></xs:sequence>"));
        assertThat(text).contains("<t:One>").contains("xsi:type=\"t:Big\"");
    }

    @Test
    void barredDerivationsAreNotUsed() {
        String text = holds(
                "<xs:complexType name='Base' abstract='true'><xs:sequence><xs:element name='x' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType>"
                        + "<xs:complexType name='Ext'><xs:complexContent><xs:extension base='t:Base'/></xs:complexContent></xs:complexType>"
                        + "<xs:complexType name='Res'><xs:complexContent><xs:restriction base='t:Base'><xs:sequence><xs:element name='x' type='xs:int' minOccurs='1'/></xs:sequence></xs:restriction></xs:complexContent></xs:complexType>"
                        + root("<xs:sequence><xs:element name='b' type='t:Base' block='extension'/></xs:sequence>"));
        assertThat(text).contains("xsi:type=\"t:Res\"");
    }

    @Test
    void keysDifferAndReferencesToThemAgree() {
        String row =
                "<xs:complexType><xs:sequence><xs:element name='code' type='xs:string'/><xs:element name='n' type='xs:int'/></xs:sequence></xs:complexType>";
        holds(
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='hut' minOccurs='3' maxOccurs='9'>"
                        + row
                        + "</xs:element><xs:element name='stay' minOccurs='2' maxOccurs='9'><xs:complexType><xs:attribute name='in' type='xs:string' use='required'/></xs:complexType></xs:element></xs:sequence></xs:complexType>"
                        + "<xs:key name='k'><xs:selector xpath='t:hut'/><xs:field xpath='t:code'/></xs:key>"
                        + "<xs:unique name='u'><xs:selector xpath='.//t:hut'/><xs:field xpath='t:n'/><xs:field xpath='t:code'/></xs:unique>"
                        + "<xs:keyref name='r' refer='t:k'><xs:selector xpath='t:stay'/><xs:field xpath='@in'/></xs:keyref></xs:element>");
    }

    @Test
    void aStartingSampleFillsWhatCouldBeEmptyAndLeavesTheRestStrict() {
        Contract contract = contract(Contracts.schema(
                "<xs:complexType name='In'><xs:sequence><xs:element name='a' type='xs:int' minOccurs='0'/><xs:element name='more' type='t:In' minOccurs='0'/>"
                        + "<xs:element name='strict' minOccurs='0'><xs:complexType><xs:sequence><xs:element name='must' type='xs:int'/><xs:element name='may' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType>"
                        + "<xs:element name='Root' type='t:In'/>"));
        assertThat(sample(contract, Detail.REQUIRED)).doesNotContain("<t:a>");
        assertThat(sample(contract, Detail.STARTING))
                .contains("<t:a>")
                .contains("<t:must>")
                .doesNotContain("<t:may>")
                .doesNotContain("<t:more>");
        Contract strict = contract(
                Contracts.schema(
                        "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='must' type='xs:int'/><xs:element name='may' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>"));
        assertThat(sample(strict, Detail.STARTING)).isEqualTo(sample(strict, Detail.REQUIRED));
    }

    @Test
    void recursionEndsAtTheSmallestInstance() {
        holds(
                "<xs:complexType name='Node'><xs:sequence><xs:choice><xs:element name='node' type='t:Node'/><xs:element name='leaf' type='xs:int'/></xs:choice>"
                        + "<xs:element name='more' type='t:Node' minOccurs='0' maxOccurs='unbounded'/></xs:sequence></xs:complexType>"
                        + "<xs:element name='Root' type='t:Node'/>");
        holds("<xs:complexType name='A'><xs:sequence><xs:element name='b' type='t:B'/></xs:sequence></xs:complexType>"
                + "<xs:complexType name='B'><xs:sequence><xs:element name='a' type='t:A' nillable='true'/></xs:sequence></xs:complexType>"
                + "<xs:element name='Root' type='t:A'/>");
    }

    @Test
    void aTypeWithoutFiniteInstanceIsAFindingAndItsSampleEnds() {
        Contract contract = contract(
                Contracts.schema(
                        "<xs:complexType name='A'><xs:sequence><xs:element name='a' type='t:A'/></xs:sequence></xs:complexType><xs:element name='Root' type='t:A'/>"));
        assertThat(contract.findings()).extracting(Finding::rule).contains("endless-type");
        assertThat(SampleBuilder.text(outline(contract), Detail.FULL)).startsWith("<t:Root");
    }

    @Test
    void hugeCountsAreHonouredUpToABoundThenAFinding() {
        String many = root(
                "<xs:sequence><xs:element name='x' type='xs:int' minOccurs='%s' maxOccurs='unbounded'/></xs:sequence>");
        assertThat(holds(many.formatted("5000")).split("<t:x>")).hasSize(5_001);
        Contract huge = contract(Contracts.schema(many.formatted("1000000")));
        assertThat(huge.findings()).extracting(Finding::rule).contains("large-count");
        assertThat(SampleBuilder.text(outline(huge), Detail.REQUIRED).split("<t:x>"))
                .hasSizeGreaterThan(5_000);
    }

    @Test
    void typesThatMultiplyAreAFindingNotAFullMemory() {
        StringBuilder types = new StringBuilder();
        for (int i = 0; i < 12; i++) {
            types.append("<xs:complexType name='T").append(i).append("'><xs:sequence>");
            types.append(("<xs:element name='e' type='" + (i == 11 ? "xs:int" : "t:T" + (i + 1))
                    + "' minOccurs='10' maxOccurs='10'/>"));
            types.append("</xs:sequence></xs:complexType>");
        }
        Contract contract = contract(Contracts.schema(types + "<xs:element name='Root' type='t:T0'/>"));
        assertThat(contract.findings()).extracting(Finding::rule).contains("large-sample");
        assertThat(SampleBuilder.text(outline(contract), Detail.FULL)).hasSizeLessThan(10_000_000);
    }

    @Test
    void aFullSampleOfManyOptionalPartsStaysReadable() {
        StringBuilder types = new StringBuilder();
        for (int i = 0; i < 30; i++) {
            types.append("<xs:complexType name='T").append(i).append("'><xs:sequence>");
            for (int j = 0; j < 30; j++) {
                types.append("<xs:element name='e" + j + "' type='t:T" + j + "' minOccurs='0'/>");
            }
            types.append("</xs:sequence></xs:complexType>");
        }
        String text = sample(contract(Contracts.schema(types + "<xs:element name='Root' type='t:T0'/>")), Detail.FULL);
        assertThat(text.split("<t:")).hasSizeLessThan(5_000);
    }

    @Test
    void dataSetsWithTheirSchemaInLine() {
        holds(
                "<xs:element name='Small' type='xs:int'/>"
                        + root(
                                "<xs:sequence><xs:element name='GetResult'><xs:complexType><xs:sequence><xs:element ref='xs:schema'/><xs:any/></xs:sequence></xs:complexType></xs:element></xs:sequence>"));
    }

    @Test
    void prefixesAreThoseOfTheContractAndNothingIsAMarker() {
        String text = holds(root("<xs:sequence><xs:element name='guestName' type='xs:string'/></xs:sequence>"));
        assertThat(text)
                .startsWith("<t:Root xmlns:t=\"urn:t\">")
                .doesNotContain("<!--")
                .doesNotContain("?");
    }
}
