package dev.mockbell.schema;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.Finding;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DraftSchemasTest {
    private static Contract contract(String namespace, String inside) {
        return Contracts.of(
                "a.wsdl",
                Contracts.wsdl("<d:schema xmlns:d='" + namespace
                        + "' targetNamespace='urn:t' elementFormDefault='qualified'>" + inside + "</d:schema>"));
    }

    private static String full(Contract contract) {
        assertThat(contract.findings().stream().filter(f -> f.severity() == Finding.Severity.ERROR))
                .isEmpty();
        return SampleBuilder.text(
                MessageOutline.of(
                        contract,
                        contract.operation("Do", null)
                                .orElseThrow()
                                .operation()
                                .input()
                                .orElseThrow()),
                Detail.FULL);
    }

    @ParameterizedTest
    @ValueSource(strings = {"http://www.w3.org/1999/XMLSchema", "http://www.w3.org/2000/10/XMLSchema"})
    void schemasOfTheDraftsAreReadWithAFinding(String namespace) {
        Contract contract = contract(
                namespace,
                "<d:element name='Root' type='t:R'/><d:complexType name='R'><d:element name='when' type='d:timeInstant'/>"
                        + "<d:element name='many' type='d:int' minOccurs='2' maxOccurs='*' nullable='true'/><d:attribute name='kind' type='d:string' use='fixed' value='x'/></d:complexType>");
        assertThat(full(contract))
                .contains("kind=\"x\"")
                .contains("<t:when>2027-02-12T")
                .contains("<t:many>");
        assertThat(contract.findings()).extracting(Finding::rule).contains("R2801");
        assertThat(contract.findings().get(0).place().line()).isPositive();
    }

    @Test
    void derivationWrittenAsAttributesIsUnderstood() {
        Contract contract = contract(
                "http://www.w3.org/1999/XMLSchema",
                "<d:simpleType name='S' base='d:string'><d:maxLength value='3'/></d:simpleType><d:simpleType name='N' base='d:decimal'><d:precision value='4'/><d:scale value='1'/></d:simpleType>"
                        + "<d:complexType name='A'><d:element name='s' type='t:S'/></d:complexType>"
                        + "<d:complexType name='B' base='t:A' derivedBy='extension'><d:element name='n' type='t:N'/></d:complexType>"
                        + "<d:element name='Root' type='t:B'/>");
        assertThat(full(contract)).contains("<t:s>s</t:s>").contains("<t:n>");
    }

    @ParameterizedTest
    @CsvSource({
        "timeDuration,P1D",
        "binary,aHV0O2J1bmtzCg==",
        "uriReference,https://northfell.example/v",
        "CDATA,v",
        "month,2027-02"
    })
    void oldNamesOfTypesAreTranslated(String name, String value) {
        assertThat(full(contract(
                        "http://www.w3.org/1999/XMLSchema",
                        "<d:element name='Root'><d:complexType><d:sequence><d:element name='v' type='d:" + name
                                + "'/></d:sequence></d:complexType></d:element>")))
                .contains("<t:v>" + value + "</t:v>");
    }
}
