package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class KnownSchemasTest {
    @ParameterizedTest
    @CsvSource({
        "http://www.w3.org/2005/08/addressing,element,EndpointReference",
        "http://schemas.xmlsoap.org/ws/2004/08/addressing,type,EndpointReferenceType",
        "http://schemas.xmlsoap.org/soap/encoding/,type,Array",
        "http://schemas.xmlsoap.org/soap/encoding/,element,int",
        "http://www.w3.org/2003/05/soap-encoding,type,Array",
        "http://schemas.xmlsoap.org/soap/envelope/,element,Fault",
        "http://www.w3.org/2003/05/soap-envelope,element,Envelope",
        "http://www.w3.org/2005/05/xmlmime,type,base64Binary",
        "http://www.w3.org/2004/11/xmlmime,type,hexBinary",
        "http://www.w3.org/2004/06/xmlmime,type,hexBinary",
        "http://www.w3.org/2004/08/xop/include,element,Include",
        "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd,element,Timestamp",
        "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd,element,Security",
        "http://ws-i.org/profiles/basic/1.1/xsd,type,swaRef",
        "http://microsoft.com/wsdl/types/,type,guid",
        "http://schemas.microsoft.com/2003/10/Serialization/,element,guid"
    })
    void namespacesOfStandardsNeedNoNetworkAndNoLocation(String namespace, String kind, String name) {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema(
                        "<xs:import namespace='" + namespace + "'/><xs:element name='Root' type='xs:int'/>")));
        assertThat(contract.findings()).singleElement().satisfies(f -> {
            assertThat(f.severity()).isEqualTo(Finding.Severity.NOTE);
            assertThat(f.rule()).isEqualTo("known-schema");
            assertThat(f.text()).contains(namespace);
            assertThat(f.place().line()).isPositive();
        });
        QName wanted = new QName(namespace, name);
        Schemas schemas = contract.schemas();
        assertThat(
                        "type".equals(kind)
                                ? schemas.type(wanted).isPresent()
                                : schemas.element(wanted).isPresent())
                .isTrue();
        assertThat(contract.documents()).hasSize(1);
    }

    @Test
    void attributesOfXmlAndXlinkAreKnown() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:import namespace='http://www.w3.org/XML/1998/namespace'/><xs:import namespace='http://www.w3.org/1999/xlink'/>"
                                        + "<xs:element name='Root'><xs:complexType><xs:attribute ref='xml:lang' use='required'/><xs:attribute xmlns:x='http://www.w3.org/1999/xlink' ref='x:href'/></xs:complexType></xs:element>")));
        assertThat(contract.findings()).extracting(Finding::rule).containsOnly("known-schema");
    }

    @Test
    void anImportFromWhereAStandardIsPublishedIsNotFetched() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:import namespace='http://www.w3.org/2005/08/addressing' schemaLocation='http://www.w3.org/2006/03/addressing/ws-addr.xsd'/><xs:element name='Root' type='xs:int'/>")));
        assertThat(contract.findings()).extracting(Finding::rule).containsExactly("known-schema");
    }

    @Test
    void aLocalCopyThatIsMissingIsMadeUpForWithANote() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:import namespace='http://www.w3.org/2005/08/addressing' schemaLocation='gone.xsd'/><xs:element name='Root' type='xs:int'/>")));
        assertThat(contract.findings()).extracting(Finding::severity).containsOnly(Finding.Severity.NOTE);
        assertThat(contract.findings())
                .extracting(Finding::rule)
                .containsExactlyInAnyOrder("missing-import", "known-schema");
        assertThat(contract.schemas().element(new QName("http://www.w3.org/2005/08/addressing", "To")))
                .isPresent();
    }

    @Test
    void aNamespaceThatIsUsedWithoutImportWorksWithAFinding() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        "<xs:schema targetNamespace='urn:u'><xs:simpleType name='S'><xs:restriction base='xs:int'/></xs:simpleType></xs:schema>"
                                + Contracts.schema("<xs:element name='Root' xmlns:u='urn:u' type='u:S'/>")));
        assertThat(contract.findings()).extracting(Finding::rule).containsExactly("R2102");
        assertThat(contract.schemas()
                        .element(new QName("urn:t", "Root"))
                        .orElseThrow()
                        .type()
                        .name())
                .contains(new QName("urn:u", "S"));
    }
}
