package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Bindings that no port gives an address: they define the messages all the same (WSDL 1.1 §2.5, §2.6). */
class UnplacedTest {
    private static Contract contract(String service) {
        return Contracts.of("a.wsdl", """
                <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
                  xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:soap12="http://schemas.xmlsoap.org/wsdl/soap12/"
                  xmlns:xs="http://www.w3.org/2001/XMLSchema">
                  <types>%s</types>
                  <message name="In"><part name="b" element="t:Ask"/></message><message name="Out"><part name="b" element="t:Told"/></message>
                  <portType name="P"><operation name="Do"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
                  <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Do"><soap:operation soapAction="urn:do"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
                  <binding name="C" type="tns:P"><soap12:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Do"><soap12:operation soapAction="urn:do"/><input><soap12:body use="literal"/></input><output><soap12:body use="literal"/></output></operation></binding>
                  %s
                </definitions>""".formatted(
                Contracts.schema("<xs:element name='Ask' type='xs:int'/><xs:element name='Told' type='xs:string'/>"),
                service));
    }

    private static List<Finding> of(Contract contract, String rule) {
        return contract.findings().stream().filter(f -> f.rule().equals(rule)).toList();
    }

    @Test
    void withoutAServiceEveryBindingCanBeSampledAndCalledAtAnAddressThatIsGiven() {
        Contract contract = contract("");
        assertThat(contract.ports()).extracting(Port::name).containsExactly("B", "C");
        assertThat(contract.ports()).allMatch(p -> p.address().isEmpty());
        assertThat(contract.operations()).containsOnlyKeys("Do");
        assertThat(contract.operations().get("Do")).hasSize(2);
        assertThat(contract.serviceOf(contract.ports().get(0))).isEmpty();
        for (Port port : contract.soapPorts()) {
            Operation operation = port.binding().operations().get(0);
            for (SampleEnvelope sample : SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL)) {
                boolean request = sample.text().contains("Ask");
                MessageDef message = (request ? operation.input() : operation.output()).orElseThrow();
                assertThat(new MessageValidator(contract.schemas())
                                .validate(
                                        MessageOutline.of(contract, message),
                                        SoapMessage.parse(sample.text().getBytes(StandardCharsets.UTF_8), "sample")))
                        .isEmpty();
            }
        }
        assertThat(of(contract, "no-service")).hasSize(1);
        assertThat(of(contract, "nothing-to-call")).isEmpty();
        assertThat(of(contract, "binding-without-port"))
                .hasSize(2)
                .allMatch(f -> f.severity() == Severity.WARNING && f.place().line() > 0);
    }

    @Test
    void besideAServiceTheOthersComeLastUnderNamesOfTheirOwn() {
        Contract contract = contract(
                "<service name='S'><port name='C' binding='tns:B'><soap:address location='http://127.0.0.1:1/t'/></port></service>");
        assertThat(contract.ports()).extracting(Port::name).containsExactly("C", "C2");
        assertThat(contract.port("C2").orElseThrow().binding().protocol()).isEqualTo(Protocol.SOAP12);
        assertThat(contract.operation("Do", null).orElseThrow().port().address())
                .isPresent();
        assertThat(of(contract, "no-service")).isEmpty();
        assertThat(of(contract, "binding-without-port"))
                .singleElement()
                .satisfies(f -> assertThat(f.severity()).isEqualTo(Severity.NOTE));
    }
}
