package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;

class Wsdl20Test {
    private static final String TYPES = """
            <types><xs:schema targetNamespace="urn:t" elementFormDefault="qualified">
              <xs:element name="Book"><xs:complexType><xs:sequence><xs:element name="nights" type="xs:int"/></xs:sequence></xs:complexType></xs:element>
              <xs:element name="Booked" type="xs:string"/><xs:element name="Full" type="xs:string"/><xs:element name="Token" type="xs:string"/>
            </xs:schema></types>""";

    private static String description(String inside) {
        return """
                <description xmlns="http://www.w3.org/ns/wsdl" xmlns:s="http://www.w3.org/ns/wsdl/soap" xmlns:tns="urn:s" xmlns:t="urn:t"
                  xmlns:xs="http://www.w3.org/2001/XMLSchema" xmlns:h="http://www.w3.org/ns/wsdl/http" targetNamespace="urn:s">%s%s</description>""".formatted(TYPES, inside);
    }

    private static final String INTERFACES = """
            <interface name="Base"><fault name="NoRoom" element="t:Full"/>
              <operation name="Ping" pattern="http://www.w3.org/ns/wsdl/in-only"><input element="#none"/></operation></interface>
            <interface name="Stay" extends="tns:Base">
              <operation name="Book" pattern="http://www.w3.org/ns/wsdl/in-out"><documentation>Books bunks.</documentation>
                <input messageLabel="Ask" element="t:Book"/><output element="t:Booked"/><outfault ref="tns:NoRoom"/></operation>
              <operation name="Tell" pattern="http://www.w3.org/ns/wsdl/out-only"><output element="t:Booked"/></operation>
            </interface>""";

    private static final String SERVICE = """
            <binding name="B12" interface="tns:Stay" type="http://www.w3.org/ns/wsdl/soap" s:protocol="http://www.w3.org/2003/05/soap/bindings/HTTP/">
              <operation ref="tns:Book" s:action="urn:book"><input><s:header element="t:Token"/></input></operation></binding>
            <binding name="B11" type="http://www.w3.org/ns/wsdl/soap" s:version="1.1" s:protocol="http://www.w3.org/2006/01/soap11/bindings/HTTP/"/>
            <binding name="H" interface="tns:Stay" type="http://www.w3.org/ns/wsdl/http"/>
            <binding name="Loose" interface="tns:Base" type="http://www.w3.org/ns/wsdl/soap"/>
            <service name="S" interface="tns:Stay"><endpoint name="E12" binding="tns:B12" address="http://127.0.0.1:1/12"/>
              <endpoint name="E11" binding="tns:B11" address="http://127.0.0.1:1/11"/><endpoint name="EH" binding="tns:H"/></service>""";

    private final Contract contract = Contracts.of("a.wsdl", description(INTERFACES + SERVICE));

    private Operation operation(String port, String name) {
        return contract.port(port).orElseThrow().binding().operation(name).orElseThrow();
    }

    @Test
    void servicesEndpointsAndBindingsAreRead() {
        assertThat(contract.wsdl()).isEqualTo("2.0");
        assertThat(contract.findings())
                .extracting(Finding::rule)
                .as("the binding that no endpoint uses")
                .containsExactly("binding-without-port");
        assertThat(contract.ports()).extracting(Port::name).containsExactly("E12", "E11", "EH", "Loose");
        assertThat(contract.ports())
                .extracting(p -> p.binding().protocol())
                .containsExactly(Protocol.SOAP12, Protocol.SOAP11, Protocol.HTTP, Protocol.SOAP12);
        assertThat(contract.port("EH").orElseThrow().address()).isEmpty();
        assertThat(contract.unusedBindings())
                .singleElement()
                .satisfies(b ->
                        assertThat(b.operations()).extracting(Operation::name).containsExactly("Ping"));
    }

    @Test
    void operationsAreInheritedAndABindingWithoutInterfaceTakesTheServices() {
        assertThat(contract.port("E11").orElseThrow().binding().operations())
                .extracting(Operation::name)
                .containsExactly("Book", "Tell", "Ping");
        assertThat(operation("E12", "Ping").pattern()).isEqualTo(Operation.Pattern.ONE_WAY);
        assertThat(operation("E12", "Tell").pattern()).isEqualTo(Operation.Pattern.NOTIFICATION);
        assertThat(operation("E12", "Ping").input().orElseThrow().body()).isEmpty();
    }

    @Test
    void actionHeadersFaultsAndLabelsAreRead() {
        Operation book = operation("E12", "Book");
        assertThat(book.soapAction()).contains("urn:book");
        assertThat(book.documentation()).isEqualTo("Books bunks.");
        assertThat(book.input().orElseThrow().name()).isEqualTo("Ask");
        assertThat(book.output().orElseThrow().name()).isEqualTo("Out");
        assertThat(book.input().orElseThrow().headers())
                .extracting(h -> h.part().element())
                .containsExactly(Optional.of(new QName("urn:t", "Token")));
        assertThat(book.faults())
                .extracting(FaultDef::name, FaultDef::element)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("NoRoom", Optional.of(new QName("urn:t", "Full"))));
        assertThat(book.input().orElseThrow().action()).isEqualTo("urn:s:Stay:BookRequest");
    }

    @Test
    void samplesAreValid() {
        for (Port port : contract.soapPorts()) {
            for (Operation o : port.binding().operations()) {
                o.input().ifPresent(in -> {
                    String text = SampleEnvelope.of(contract, port.binding(), o, Detail.FULL)
                            .get(0)
                            .text();
                    SoapMessage message = SoapMessage.parse(text.getBytes(StandardCharsets.UTF_8), "sample");
                    assertThat(new MessageValidator(contract.schemas())
                                    .validate(MessageOutline.of(contract, in), message))
                            .isEmpty();
                });
            }
        }
        assertThat(SampleEnvelope.of(
                                contract,
                                contract.port("E12").orElseThrow().binding(),
                                operation("E12", "Book"),
                                Detail.REQUIRED)
                        .get(0)
                        .text())
                .contains("soap-envelope")
                .contains("<t:Token")
                .contains("<t:nights>2</t:nights>");
    }

    @Test
    void namesThatAreNotThereAreFindings() {
        Contract broken = Contracts.of("a.wsdl", description("""
                        <interface name="I" extends="tns:Gone"><operation name="O" pattern="x"><input element="t:Nope"/><outfault ref="tns:Lost"/></operation></interface>
                        <binding name="B" interface="tns:I" type="http://www.w3.org/ns/wsdl/soap"><operation ref="tns:Missing"/></binding>
                        <service name="S" interface="tns:None"><endpoint name="E" binding="tns:Absent"/></service>"""));
        assertThat(broken.findings())
                .extracting(Finding::rule)
                .contains(
                        "unresolved-interface",
                        "unresolved-element",
                        "unresolved-fault",
                        "unresolved-operation",
                        "unresolved-binding");
        assertThat(broken.findings())
                .allSatisfy(f -> assertThat(f.place().line()).isPositive());
    }

    @Test
    void includesAndImportsComeAlong() {
        Contract several = Contracts.of(
                "a.wsdl",
                "<description xmlns='http://www.w3.org/ns/wsdl' targetNamespace='urn:s'><include location='b.wsdl'/><import namespace='urn:none'/></description>",
                "b.wsdl",
                description(INTERFACES + SERVICE));
        assertThat(several.documents()).hasSize(2);
        assertThat(several.ports()).hasSize(4);
    }
}
