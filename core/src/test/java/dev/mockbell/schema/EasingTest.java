package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

/** Types that break a rule of XML Schema are taken by what they declare; the rule stays broken and is told of. */
class EasingTest {
    private static final String BASE =
            "<xs:complexType name='Base'><xs:sequence><xs:element name='first' type='xs:int'/></xs:sequence>"
                    + "<xs:attribute name='kind' type='xs:string'/></xs:complexType>";

    private static Contract contract(String schema) {
        return Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(schema)));
    }

    private static String valid(Contract contract, String rule) {
        assertThat(contract.findings())
                .filteredOn(f -> f.severity() == Severity.ERROR)
                .as("said, with its place")
                .anySatisfy(f -> {
                    assertThat(f.rule()).startsWith(rule);
                    assertThat(f.advice()).startsWith("It is taken by what it declares");
                    assertThat(f.place().line()).isPositive();
                });
        MessageOutline outline = MessageOutline.ofRequest(
                contract, contract.ports().get(0).binding().operations().get(0));
        String text = SampleBuilder.text(outline, Detail.FULL);
        assertThat(new MessageValidator(contract.schemas())
                        .validate(
                                outline, Xml.parse(text.getBytes(StandardCharsets.UTF_8), "sample", XmlLimits.MESSAGE)))
                .isEmpty();
        return text;
    }

    @Test
    void allInAnExtensionIsTakenInTheOrderDeclared() {
        String text = valid(
                contract(BASE
                        + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:all>"
                        + "<xs:element name='second' type='xs:int'/><xs:element name='third' type='xs:date' minOccurs='0'/></xs:all>"
                        + "<xs:attribute name='tone' type='xs:string'/></xs:extension></xs:complexContent></xs:complexType>"
                        + "<xs:element name='Root' type='t:More'/>"),
                "cos-all-limited");
        assertThat(text).containsSubsequence("kind=", "tone=", "first>", "second>", "third>");
    }

    @Test
    void soIsTheExtensionOfAnAll() {
        String text = valid(
                contract(
                        "<xs:complexType name='Base'><xs:all><xs:element name='first' type='xs:int'/></xs:all></xs:complexType>"
                                + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:sequence>"
                                + "<xs:element name='second' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                                + "<xs:element name='Root' type='t:More'/>"),
                "cos-all-limited");
        assertThat(text).containsSubsequence("first>", "second>");
    }

    @Test
    void allByWayOfAGroupAndInATypeWithoutAName() {
        String text = valid(
                contract(BASE
                        + "<xs:group name='G'><xs:all><xs:element name='second' type='xs:int'/></xs:all></xs:group>"
                        + "<xs:element name='Root'><xs:complexType><xs:complexContent><xs:extension base='t:Base'>"
                        + "<xs:group ref='t:G'/></xs:extension></xs:complexContent></xs:complexType></xs:element>"),
                "cos-all-limited");
        assertThat(text).containsSubsequence("first>", "second>");
    }

    @Test
    void allWhereAnElementMayRepeat() {
        assertThat(valid(
                        contract(
                                "<xs:element name='Root'><xs:complexType><xs:all>"
                                        + "<xs:element name='second' type='xs:int' minOccurs='2' maxOccurs='2'/></xs:all></xs:complexType></xs:element>"),
                        "cos-all-limited"))
                .containsSubsequence("<t:second", "<t:second");
    }

    @Test
    void allWithinASequence() {
        String text = valid(
                contract(
                        "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='first' type='xs:int'/><xs:all>"
                                + "<xs:element name='second' type='xs:int'/></xs:all></xs:sequence></xs:complexType></xs:element>"),
                "s4s-elt-must-match");
        assertThat(text).containsSubsequence("first>", "second>");
    }

    @Test
    void ofATypeWhoseBaseIsNowhereItsOwnPartIsKept() {
        String text = valid(
                contract(
                        "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Gone'><xs:sequence>"
                                + "<xs:element name='second' type='xs:int'/></xs:sequence><xs:attribute name='tone' type='xs:string'/>"
                                + "</xs:extension></xs:complexContent></xs:complexType><xs:element name='Root' type='t:More'/>"),
                "src-resolve");
        assertThat(text).containsSubsequence("tone=", "second>");
    }

    @Test
    void ofATextWhoseBaseIsNowhereTheAttributesAreKept() {
        assertThat(valid(
                        contract(
                                "<xs:complexType name='More'><xs:simpleContent><xs:extension base='t:Gone'>"
                                        + "<xs:attribute name='tone' type='xs:string' use='required'/>"
                                        + "</xs:extension></xs:simpleContent></xs:complexType><xs:element name='Root' type='t:More'/>"),
                        "src-resolve"))
                .contains("tone=\"tone\"");
    }

    @Test
    void anExtensionThatIsNotMixedAsItsBaseIsTakenAsMixed() {
        String text = valid(
                contract(
                        "<xs:complexType name='Base' mixed='true'><xs:sequence><xs:element name='first' type='xs:int'/></xs:sequence></xs:complexType>"
                                + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:sequence>"
                                + "<xs:element name='second' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                                + "<xs:element name='Root' type='t:More'/>"),
                "cos-ct-extends");
        assertThat(text).containsSubsequence("first>", "second>");
    }

    @Test
    void anAttributeThatStandsTwiceCountsOnce() {
        String text = valid(
                contract(
                        BASE
                                + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:sequence>"
                                + "<xs:element name='second' type='xs:int'/></xs:sequence><xs:attribute name='kind' type='xs:int'/>"
                                + "</xs:extension></xs:complexContent></xs:complexType><xs:element name='Root' type='t:More'/>"),
                "ct-props-correct");
        assertThat(text).contains("kind=\"kind\"").containsSubsequence("first>", "second>");
    }

    @Test
    void aTypeThatItsBaseForbidsToExtendIsTakenAsItStands() {
        String text = valid(
                contract(BASE.replace("name='Base'", "name='Base' final='extension'")
                        + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:sequence>"
                        + "<xs:element name='second' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                        + "<xs:element name='Root' type='t:More'/>"),
                "cos-ct-extends");
        assertThat(text).containsSubsequence("first>", "second>");
    }

    @Test
    void whatIsDerivedFromAnEasedTypeIsWholeToo() {
        Contract contract = contract(BASE
                + "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'><xs:all>"
                + "<xs:element name='second' type='xs:int'/></xs:all></xs:extension></xs:complexContent></xs:complexType>"
                + "<xs:complexType name='Most'><xs:complexContent><xs:extension base='t:More'><xs:sequence>"
                + "<xs:element name='third' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                + "<xs:element name='Root' type='t:Most'/>");
        assertThat(valid(contract, "cos-all-limited")).containsSubsequence("first>", "second>", "third>");
    }

    @Test
    void anElementWhoseTypeIsNowhereIsAGuessAndIsKnownAsOne() {
        Contract contract =
                contract("<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='odd' type='t:Gone'/>"
                        + "<xs:element name='sound' type='xs:int'/></xs:sequence></xs:complexType></xs:element>");
        assertThat(contract.findings())
                .filteredOn(f -> f.rule().startsWith("src-resolve"))
                .singleElement()
                .satisfies(f -> assertThat(f.advice()).contains("a guess"));
        Particle.OfGroup parts = (Particle.OfGroup) contract.schemas()
                .element(new javax.xml.namespace.QName("urn:t", "Root"))
                .orElseThrow()
                .type()
                .particle()
                .orElseThrow();
        assertThat(contract.schemas()
                        .guessed(((Particle.OfElement) parts.parts().get(0)).element()))
                .hasValueSatisfying(f -> assertThat(f.text()).contains("Gone"));
        assertThat(contract.schemas()
                        .guessed(((Particle.OfElement) parts.parts().get(1)).element()))
                .isEmpty();
        assertThat(contract.findings()).extracting(Finding::rule).doesNotContain("schema");
    }
}
