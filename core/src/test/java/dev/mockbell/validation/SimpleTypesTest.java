package dev.mockbell.validation;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.Sheets;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.w3c.dom.Document;

/**
 * Every built-in type of XML Schema and every facet: what is made as a sample, at random or at a limit, and what the sheet
 * says of it, held against the schema library's own validator.
 */
class SimpleTypesTest {
    private static final String XSD = "http://www.w3.org/2001/XMLSchema";

    private static final List<String> BUILT_IN = List.of(
            "string",
            "normalizedString",
            "token",
            "language",
            "Name",
            "NCName",
            "NMTOKEN",
            "NMTOKENS",
            "boolean",
            "decimal",
            "integer",
            "long",
            "int",
            "short",
            "byte",
            "nonNegativeInteger",
            "positiveInteger",
            "nonPositiveInteger",
            "negativeInteger",
            "unsignedLong",
            "unsignedInt",
            "unsignedShort",
            "unsignedByte",
            "float",
            "double",
            "duration",
            "dateTime",
            "date",
            "time",
            "gYear",
            "gYearMonth",
            "gMonth",
            "gMonthDay",
            "gDay",
            "hexBinary",
            "base64Binary",
            "anyURI");

    private static final List<String> RESTRICTED = List.of(
            "int|<xs:minInclusive value='3'/><xs:maxInclusive value='5'/>",
            "integer|<xs:totalDigits value='4'/>",
            "integer|<xs:maxExclusive value='-1000000'/>",
            "decimal|<xs:totalDigits value='5'/><xs:fractionDigits value='3'/>",
            "decimal|<xs:minExclusive value='0'/><xs:maxExclusive value='0.01'/><xs:fractionDigits value='4'/>",
            "decimal|<xs:fractionDigits value='2'/><xs:totalDigits value='2'/>",
            "double|<xs:minInclusive value='-1.5'/><xs:maxInclusive value='1e3'/>",
            "float|<xs:maxExclusive value='1'/>",
            "date|<xs:minInclusive value='2027-01-30'/><xs:maxInclusive value='2027-02-02'/>",
            "dateTime|<xs:maxInclusive value='2027-01-01T00:00:00Z'/>",
            "gYear|<xs:minInclusive value='2027'/>",
            "date|<xs:minInclusive value='2090-01-01'/>",
            "dateTime|<xs:minInclusive value='1990-01-01T12:00:00Z'/><xs:maxInclusive value='1990-03-01T12:00:00Z'/>",
            "date|<xs:maxExclusive value='1950-01-01'/>",
            "time|<xs:minInclusive value='08:00:00'/>",
            "duration|<xs:maxInclusive value='P14D'/>",
            "string|<xs:length value='7'/>",
            "string|<xs:minLength value='2'/><xs:maxLength value='3'/>",
            "token|<xs:pattern value='NF-[0-9]{2}'/>",
            "string|<xs:pattern value='[A-Z]{3,}'/><xs:maxLength value='4'/>",
            "string|<xs:enumeration value='north'/><xs:enumeration value='south'/>",
            "hexBinary|<xs:length value='3'/>",
            "base64Binary|<xs:maxLength value='5'/>",
            "anyURI|<xs:maxLength value='30'/>",
            "NMTOKENS|<xs:length value='3'/>",
            "language|<xs:enumeration value='nb'/><xs:enumeration value='en'/>",
            "byte|<xs:maxInclusive value='-1'/>",
            "unsignedByte|<xs:minInclusive value='200'/>");

    static Stream<String> types() {
        return Stream.concat(BUILT_IN.stream().map(t -> t + "|"), RESTRICTED.stream());
    }

    private static MessageOutline outline(String spec) {
        String base = spec.substring(0, spec.indexOf('|'));
        String facets = spec.substring(spec.indexOf('|') + 1);
        return Sheets.outline(Sheets.root("<xs:element name='v'><xs:simpleType><xs:restriction base='xs:" + base + "'>"
                + facets + "</xs:restriction></xs:simpleType></xs:element>"));
    }

    private static SimpleType type(MessageOutline outline) {
        return Sheets.row(Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL)), "v")
                .simple()
                .orElseThrow();
    }

    /** What the library's validator says of a value. */
    private static boolean valid(MessageOutline outline, String value) {
        Document document = Xml.parse("<t:Root xmlns:t='urn:t'><t:v/></t:Root>", "m", XmlLimits.MESSAGE);
        document.getDocumentElement().getFirstChild().setTextContent(value);
        return new MessageValidator(outline.schemas())
                .validate(outline, document)
                .isEmpty();
    }

    @ParameterizedTest
    @MethodSource("types")
    void aSampleIsValid(String spec) {
        MessageOutline outline = outline(spec);
        Sheet sheet = Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL));
        String value = Sheets.row(sheet, "v").value();
        assertThat(valid(outline, value)).as("%s: %s", spec, value).isTrue();
        assertThat(Sheets.row(sheet, "v").problem()).isEmpty();
    }

    @ParameterizedTest
    @MethodSource("types")
    void randomValuesAreValidAndDiffer(String spec) {
        MessageOutline outline = outline(spec);
        SimpleType type = type(outline);
        Random random = new Random(7);
        Set<String> seen = new HashSet<>();
        for (int i = 0; i < 60; i++) {
            String value = RandomValues.of(type, random);
            seen.add(value);
            assertThat(valid(outline, value)).as("%s: %s", spec, value).isTrue();
        }
        assertThat(seen).as("%s: %s", spec, seen).hasSizeGreaterThan(1);
    }

    /** Limits and nonsense: the sheet's word is the validator's. */
    @ParameterizedTest
    @MethodSource("types")
    void whatTheSheetAcceptsTheValidatorAcceptsToo(String spec) {
        MessageOutline outline = outline(spec);
        SimpleType type = type(outline);
        String usual = Sheets.row(Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL)), "v")
                .value();
        List<String> tried = Stream.concat(
                        BoundaryValue.of(type, usual).stream().map(BoundaryValue::value),
                        Stream.of(
                                "",
                                " ",
                                "0",
                                "-0",
                                "1.0",
                                "1e1",
                                "NaN",
                                "INF",
                                "true",
                                "2027-02-29",
                                "x y",
                                "é€",
                                "a&b<c"))
                .distinct()
                .toList();
        for (String value : tried) {
            assertThat(type.accepts(value))
                    .as(
                            "%s: “%s”, the sheet says %s",
                            spec, value, type.whyNot(value).orElse("fine"))
                    .isEqualTo(valid(outline, value));
            assertThat(type.whyNot(value).isEmpty()).isEqualTo(type.accepts(value));
        }
    }

    @ParameterizedTest
    @MethodSource("types")
    void limitsAreTriedOnBothSides(String spec) {
        MessageOutline outline = outline(spec);
        SimpleType type = type(outline);
        String usual = Sheets.row(Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL)), "v")
                .value();
        List<BoundaryValue> values = BoundaryValue.of(type, usual);
        assertThat(values).extracting(BoundaryValue::value).doesNotHaveDuplicates();
        assertThat(values).allSatisfy(v -> assertThat(v.why()).isNotBlank());
        for (BoundaryValue value : values) {
            boolean inside =
                    value.why().startsWith("just inside") || value.why().contains(" that is allowed");
            boolean outside = value.why().startsWith("just outside")
                    || value.why().startsWith("one too")
                    || value.why().contains("not allowed")
                    || value.why().startsWith("not ");
            if (inside) {
                assertThat(type.accepts(value.value()))
                        .as("%s: %s", spec, value)
                        .isTrue();
            }
            if (outside) {
                assertThat(type.accepts(value.value()))
                        .as("%s: %s", spec, value)
                        .isFalse();
            }
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '"',
            value = {
                "int|<xs:minInclusive value='3'/>|xs:int · from 3",
                "int|<xs:minInclusive value='3'/><xs:maxInclusive value='5'/>|xs:int · 3 to 5",
                "byte|<xs:maxInclusive value='-1'/>|xs:byte · up to -1",
                "unsignedByte|<xs:minInclusive value='200'/>|xs:unsignedByte · from 200",
                "positiveInteger|<xs:maxInclusive value='9'/>|xs:positiveInteger · 1 to 9",
                "long||xs:long",
                "unsignedInt||xs:unsignedInt",
                "nonPositiveInteger||xs:nonPositiveInteger",
                "negativeInteger||xs:negativeInteger",
                "language||xs:language",
                "NMTOKEN||xs:NMTOKEN"
            })
    void aTypeIsToldWithoutTheFacetsThatEveryoneKnows(String base, String facets, String expected) {
        String summary = Sheets.row(
                        Sheet.open(
                                outline(base + "|" + Optional.ofNullable(facets).orElse("")),
                                "<t:Root xmlns:t='urn:t'><t:v/></t:Root>"),
                        "v")
                .type();
        assertThat(summary).isEqualTo(expected);
    }

    @Test
    void listsAndUnionsAreMadeAndJudgedByTheirMembers() {
        MessageOutline outline = Sheets.outline(
                Sheets.root(
                        "<xs:element name='l'><xs:simpleType><xs:restriction><xs:simpleType><xs:list itemType='xs:int'/></xs:simpleType><xs:length value='2'/></xs:restriction></xs:simpleType></xs:element>"
                                + "<xs:element name='u'><xs:simpleType><xs:union memberTypes='xs:date xs:boolean'/></xs:simpleType></xs:element>"));
        Sheet sheet = Sheet.open(outline, SampleBuilder.text(outline, Detail.FULL));
        assertThat(Sheets.breaches(sheet)).isEmpty();
        for (String[] tried : new String[][] {{"1 2", "true"}, {"1", "2027-01-01"}, {"1 x", "maybe"}, {"1 2 3", "1"}}) {
            sheet.setValue(Sheets.row(sheet, "l"), tried[0]);
            sheet.setValue(Sheets.row(sheet, "u"), tried[1]);
            assertThat(Sheets.row(sheet, "l").problem().isEmpty()
                            && Sheets.row(sheet, "u").problem().isEmpty())
                    .as("%s and %s", tried[0], tried[1])
                    .isEqualTo(Sheets.breaches(sheet).isEmpty());
        }
        Random random = new Random(3);
        for (int i = 0; i < 30; i++) {
            sheet.setValue(
                    Sheets.row(sheet, "l"),
                    RandomValues.of(Sheets.row(sheet, "l").simple().orElseThrow(), random));
            sheet.setValue(
                    Sheets.row(sheet, "u"),
                    RandomValues.of(Sheets.row(sheet, "u").simple().orElseThrow(), random));
            assertThat(Sheets.breaches(sheet)).as(sheet.text()).isEmpty();
        }
    }

    @Test
    void randomValuesAreFoundByTheNamesOfTypes() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:simpleType name='HutId'><xs:restriction base='xs:token'><xs:pattern value='NF-[0-9]{2}'/></xs:restriction></xs:simpleType><xs:element name='Root' type='xs:string'/>")));
        RandomValues values = RandomValues.of(List.of(contract));
        Random random = new Random(1);
        assertThat(values.value("t:HutId", random))
                .hasValueSatisfying(v -> assertThat(v).matches("NF-[0-9]{2}"));
        assertThat(values.value("HutId", random)).isPresent();
        assertThat(values.value("xs:date", random))
                .hasValueSatisfying(v -> assertThat(v).matches("\\d{4}-\\d\\d-\\d\\d"));
        assertThat(values.value("other:HutId", random)).isEmpty();
        assertThat(values.value("xs:nothing", random)).isEmpty();
        assertThat(RandomValues.of(List.of()).value("int", random)).isPresent();
        TypeDef hut = contract.schemas().type(new QName("urn:t", "HutId")).orElseThrow();
        assertThat(hut.simple()).isPresent();
        assertThat(contract.schemas().type(new QName(XSD, "int"))).isPresent();
    }
}
