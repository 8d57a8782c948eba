package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contracts;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.schema.SimpleType;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FunctionsTest {
    private final Expressions expressions = new Expressions(7);
    private final Scope scope =
            Scope.EMPTY.with(Map.of("code", "R-1")).with(RandomValues.of(List.of(Contracts.stay())));

    private String fill(String text) {
        return expressions.fill(text, scope);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "{bell:base64('Skarn ø')}|U2thcm4gw7g=",
                "{bell:from-base64('U2thcm4gw7g=')}|Skarn ø",
                "{bell:hash('SHA-256', '')}|e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855",
                "{bell:hash('md5', 'abc')}|900150983cd24fb0d6963f7d28e17f72",
                "{bell:between(3, 3)}|3",
                "{bell:one-of('HALF')}|HALF"
            })
    void functionsGiveWhatTheyShould(String text, String value) {
        assertThat(fill(text)).isEqualTo(value);
    }

    @Test
    void randomnessDiffersEachTimeAndStaysWithinItsBounds() {
        Set<String> uuids = new HashSet<>();
        Set<String> nights = new HashSet<>();
        for (int i = 0; i < 200; i++) {
            uuids.add(fill("{bell:uuid()}"));
            nights.add(fill("{bell:between(1, 14)}"));
            assertThat(fill("{bell:one-of(('NONE', 'HALF'))}")).isIn("NONE", "HALF");
            assertThat(fill("{bell:like('NF-[0-9][0-9]')}")).matches("NF-[0-9]{2}");
        }
        assertThat(uuids)
                .hasSize(200)
                .allMatch(u -> u.matches("[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}"));
        assertThat(nights).hasSize(14).contains("1", "14");
        assertThat(fill("{for $i in 1 to 3 return bell:uuid()}").split(" "))
                .as("each turn of a loop gives another")
                .doesNotHaveDuplicates();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "xs:date",
                "xs:int",
                "xs:byte",
                "xs:positiveInteger",
                "xs:negativeInteger",
                "xs:boolean",
                "xs:dateTime",
                "xs:time",
                "xs:base64Binary",
                "xs:hexBinary",
                "xs:decimal",
                "xs:double",
                "xs:gYearMonth",
                "xs:gMonthDay",
                "xs:duration",
                "xs:language",
                "xs:token",
                "xs:NCName",
                "xs:anyURI",
                "xs:unsignedShort",
                "xs:string",
                "xs:NMTOKENS"
            })
    void aRandomValueIsAlwaysOneOfItsType(String type) {
        SimpleType simple = Contracts.stay()
                .schemas()
                .type(new QName("http://www.w3.org/2001/XMLSchema", type.substring(3)))
                .orElseThrow()
                .simple()
                .orElseThrow();
        for (int i = 0; i < 50; i++) {
            String value = fill("{bell:random('" + type + "')}");
            assertThat(simple.whyNot(value)).as(value).isEmpty();
        }
    }

    @Test
    void aTypeOfTheContractIsKnownByItsNameWithAndWithoutPrefix() {
        Contract types = new Contract();
        for (int i = 0; i < 30; i++) {
            assertThat(types.fill("{bell:random('t:Hut')}", i)).matches("NF-[0-9]{2}");
            assertThat(Integer.parseInt(types.fill("{bell:random('Nights')}", i)))
                    .isBetween(1, 14);
        }
        assertThatThrownBy(() -> types.fill("{bell:random('t:Nobody')}", 1))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no type t:Nobody");
    }

    private static final class Contract {
        private final Scope scope = Scope.EMPTY.with(
                RandomValues.of(
                        List.of(
                                Contracts.of(
                                        "a.wsdl",
                                        Contracts.wsdl(
                                                Contracts.schema(
                                                        "<xs:element name='Root' type='t:Hut'/><xs:simpleType name='Hut'><xs:restriction base='xs:token'><xs:pattern value='NF-[0-9]{2}'/></xs:restriction></xs:simpleType><xs:simpleType name='Nights'><xs:restriction base='xs:int'><xs:minInclusive value='1'/><xs:maxInclusive value='14'/></xs:restriction></xs:simpleType>"))))));

        String fill(String text, long seed) {
            return new Expressions(seed).fill(text, scope);
        }
    }

    @Test
    void countersCountByNameAndLookingDoesNotCount() {
        assertThat(fill("{bell:counter('a')}{bell:counter('a')}{bell:counter('b')}"))
                .isEqualTo("121");
        Expressions looking = expressions.looking();
        assertThat(looking.fill("{bell:counter('a')}", scope)).isEqualTo("3");
        assertThat(looking.fill("{bell:counter('a')}", scope)).isEqualTo("3");
        assertThat(fill("{bell:counter('a')}")).isEqualTo("3");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{bell:hash('CRC', 'x')}",
                "{bell:between(2, 1)}",
                "{bell:like('[')}",
                "{bell:from-base64('%%')}",
                "{bell:nothing()}",
                "{bell:one-of(())}",
                "{bell:rows('huts.csv')}",
                "{bell:look-up('huts.csv', 'hutId', 'NF-07')}"
            })
    void aWrongUseIsToldInWords(String text) {
        assertThatThrownBy(() -> fill(text)).isInstanceOf(Problem.class).hasMessageMatching("(?s).*(bell:|no table).*");
    }

    @Test
    void everyExampleOfTheHelpWorks() {
        Map<String, String> tarn = Map.of("hutId", "NF-07", "name", "Skarn Tarn Hut");
        Scope tables = scope.with(new RowFinder() {
            @Override
            public Optional<Map<String, String>> row(String table, String column, String value) {
                return rows(table).stream()
                        .filter(r -> value.equals(r.get(column)))
                        .findFirst();
            }

            @Override
            public List<Map<String, String>> rows(String table) {
                return table.equals("huts.csv") ? List.of(tarn, Map.of("name", "Wolfgill Hut")) : List.of();
            }
        });
        assertThat(expressions.fill("{bell:rows('huts.csv')[2]?name}", tables)).isEqualTo("Wolfgill Hut");
        assertThat(expressions.fill("{empty(bell:look-up('huts.csv', 'hutId', ()))}", tables))
                .isEqualTo("true");
        for (FunctionDoc doc : FunctionDoc.ALL) {
            assertThat(expressions.fill(doc.example(), tables))
                    .as(doc.signature())
                    .isNotEmpty()
                    .doesNotContain("{");
        }
    }

    @Test
    void aSecretIsReferredToByItsPrefixAndMasked() {
        Scope with = scope.withSecret("token", "s3cr<t");
        assertThat(expressions.fill("Bearer {$secret:token}", with)).isEqualTo("Bearer s3cr<t");
        assertThat(with.redactor().text("a s3cr<t b s3cr&lt;t")).isEqualTo("a ••• b •••");
        assertThatThrownBy(() -> fill("{$secret:token}"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("“token” has no value")
                .hasMessageContaining("MOCKBELL_SECRET_TOKEN");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<a>{$v}</a>|<a>A &amp; &lt;B&gt; &quot;C&quot;</a>",
                "<a b=\"{$v}\"/>|<a b=\"A &amp; &lt;B&gt; &quot;C&quot;\"/>",
                "<a><![CDATA[{$v}{$w}]]></a>|<a><![CDATA[A & <B> \"C\"]]]]><![CDATA[>]]></a>",
                "<a><!-- {todo -->{1}</a>|<a><!-- {todo -->1</a>",
                "<a><?x {y ?>{1}</a>|<a><?x {y ?>1</a>",
                "<a>{if (1 &lt; 2) then 'y' else 'n'}</a>|<a>y</a>",
                "<a>{concat(&quot;}&quot;, 'z')}</a>|<a>}z</a>",
                "<a>{{1}} &amp; {1}&lt;</a>|<a>{1} &amp; 1&lt;</a>"
            })
    void expressionsInXmlAreReadAndWrittenAsXml(String text, String filled) {
        Scope values = scope.with("v", "A & <B> \"C\"").with("w", "]]>");
        assertThat(expressions.fillXml(text, values)).isEqualTo(filled);
        expressions.read(expressions.fillXml(text, values));
    }

    @Test
    void aBraceThatIsWrongInXmlIsToldWithItsLine() {
        assertThatThrownBy(() -> expressions.fillXml("<a>\n  {1</a>", scope))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("line 2, column 3");
    }
}
