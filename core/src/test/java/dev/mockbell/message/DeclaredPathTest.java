package dev.mockbell.message;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contracts;
import dev.mockbell.schema.ElementDecl;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;

class DeclaredPathTest {
    private final ElementDecl root = Contracts.of(
                    "a.wsdl",
                    Contracts.wsdl(
                            Contracts.schema(
                                    "<xs:complexType name='Node'><xs:sequence><xs:choice><xs:element name='left' type='t:Node'/><xs:element name='leaf'><xs:complexType>"
                                            + "<xs:attribute name='kind' type='xs:string'/></xs:complexType></xs:element></xs:choice><xs:element ref='t:Head' minOccurs='0'/></xs:sequence></xs:complexType>"
                                            + "<xs:element name='Head' type='xs:string'/><xs:element name='Other' substitutionGroup='t:Head' type='xs:string'/>"
                                            + "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='tree' type='t:Node'/></xs:sequence></xs:complexType></xs:element>")))
            .schemas()
            .element(new QName("urn:t", "Root"))
            .orElseThrow();

    @Test
    void theNearestPlaceOfANameIsFoundWhereverItIs() {
        assertThat(DeclaredPath.to(root, "Root")).contains("/Root");
        assertThat(DeclaredPath.to(root, "leaf")).contains("/Root/tree/leaf");
        assertThat(DeclaredPath.to(root, "Other")).contains("/Root/tree/Other");
        assertThat(DeclaredPath.to(root, "@kind")).contains("/Root/tree/leaf/@kind");
    }

    @Test
    void recursionEnds() {
        assertThat(DeclaredPath.to(root, "nowhere")).isEmpty();
    }
}
