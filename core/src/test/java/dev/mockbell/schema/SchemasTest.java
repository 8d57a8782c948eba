package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import java.util.List;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SchemasTest {
    private final Contract stay = Contracts.stay();
    private final ElementDecl book =
            stay.schemas().element(new QName("urn:northfell:stay", "Book")).orElseThrow();

    private ElementDecl child(String name) {
        Particle.OfGroup sequence = (Particle.OfGroup) book.type().particle().orElseThrow();
        return sequence.parts().stream()
                .map(p -> ((Particle.OfElement) p).element())
                .filter(e -> e.name().getLocalPart().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void theOutlineHasOrderOccurrenceAndDocumentation() {
        Particle.OfGroup sequence = (Particle.OfGroup) book.type().particle().orElseThrow();
        assertThat(sequence.parts())
                .extracting(p -> p.occurs().toString())
                .containsExactly("1", "1", "1..6", "0..1", "0..1", "0..1");
        assertThat(child("hutId").documentation()).isEqualTo("The hut's number.");
        assertThat(child("note").nillable()).isTrue();
        assertThat(book.type().attributes())
                .extracting(a -> a.name().getLocalPart())
                .containsExactly("channel");
    }

    @Test
    void globalComponentsKnowTheirPlace() {
        assertThat(book.place()).hasValueSatisfying(p -> {
            assertThat(p.document()).endsWith("stay.xsd");
            assertThat(p.line()).isEqualTo(5);
        });
    }

    @ParameterizedTest
    @CsvSource({"hutId, 'NF-[0-9]{2}'", "nights, xs:int · 1 to 14", "board, NONE | HALF", "note, xs:string"})
    void typesAreToldInShort(String element, String words) {
        assertThat(child(element).type().summary()).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({
        "hutId, XX, does not match the pattern NF-[0-9]{2}",
        "nights, 15, is more than 14",
        "nights, 0, is less than 1",
        "nights, two, is not a value of type int",
        "board, FULL, 'is not one of NONE, HALF'"
    })
    void whatIsWrongWithAValueIsSaidByItsFacet(String element, String value, String words) {
        assertThat(child(element).type().simple().orElseThrow().whyNot(value))
                .hasValueSatisfying(w -> assertThat(w).contains(words));
    }

    @Test
    void rightValuesAreAccepted() {
        assertThat(child("hutId").type().simple().orElseThrow().accepts("NF-07"))
                .isTrue();
        assertThat(child("nights").type().simple().orElseThrow().accepts(" 14 "))
                .isTrue();
    }

    @Test
    void substitutesAndDerivedTypesAreFoundAndAbstractOnesLeftOut() {
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema("""
                <xs:element name='Root' type='t:Base' abstract='true'/>
                <xs:element name='One' type='t:Leaf' substitutionGroup='t:Root'/>
                <xs:element name='Two' type='t:Leaf' substitutionGroup='t:Root' abstract='true'/>
                <xs:complexType name='Base' abstract='true'/>
                <xs:complexType name='Leaf'><xs:complexContent><xs:extension base='t:Base'/></xs:complexContent></xs:complexType>""")));
        ElementDecl root =
                contract.schemas().element(new QName("urn:t", "Root")).orElseThrow();
        assertThat(root.substitutes()).extracting(e -> e.name().getLocalPart()).containsExactly("One");
        assertThat(root.type().derived())
                .extracting(t -> t.name().orElseThrow().getLocalPart())
                .containsExactly("Leaf");
    }

    @Test
    void noSchemasAtAllAreNoTrouble() {
        Schemas none = Schemas.compile(List.of());
        assertThat(none.flaws()).isEmpty();
        assertThat(none.type(new QName("http://www.w3.org/2001/XMLSchema", "int")))
                .isPresent();
    }
}
