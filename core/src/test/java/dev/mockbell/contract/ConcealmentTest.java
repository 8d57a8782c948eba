package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ConcealmentTest {
    private static final String OVERLOADED = """
            <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:xs="http://www.w3.org/2001/XMLSchema"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/">
              <message name="ByName"><part name="name" type="xs:string"/></message><message name="ByNumber"><part name="number" type="xs:int"/></message>
              <portType name="P"><operation name="Find"><input name="ByNumber" message="tns:ByNumber"/></operation>
                <operation name="Find"><input name="ByName" message="tns:ByName"/></operation>
                <operation name="Tell"><input message="tns:ByName"/></operation></portType>
              <portType name="Other"><operation name="Tell"><input message="tns:ByName"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding style="rpc" transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Find"><input name="ByName"><soap:body use="literal" namespace="urn:w"/></input></operation>
                <operation name="Find"><input name="ByNumber"><soap:body use="literal" namespace="urn:w"/></input></operation>
                <operation name="Tell"><input><soap:body use="literal" namespace="urn:w"/></input></operation></binding>
              <service name="S"><port name="A" binding="tns:B"><soap:address location="http://127.0.0.1:1/a"/></port></service>
            </definitions>""";

    private static final String SECOND = """
            <description xmlns="http://www.w3.org/ns/wsdl" xmlns:s="http://www.w3.org/ns/wsdl/soap" xmlns:tns="urn:s" targetNamespace="urn:s">
              <interface name="Base"><operation name="Ping" pattern="http://www.w3.org/ns/wsdl/in-only"><input element="#none"/></operation></interface>
              <interface name="Stay" extends="tns:Base">
                <operation name="Book" pattern="http://www.w3.org/ns/wsdl/in-only"><input element="#none"/></operation>
                <operation name="Cancel" pattern="http://www.w3.org/ns/wsdl/in-only"><input element="#none"/></operation></interface>
              <binding name="B" interface="tns:Stay" type="http://www.w3.org/ns/wsdl/soap" s:protocol="http://www.w3.org/2003/05/soap/bindings/HTTP/">
                <operation ref="tns:Book" s:action="urn:book"/></binding>
              <service name="S" interface="tns:Stay"><endpoint name="E" binding="tns:B" address="http://127.0.0.1:1/a"/></service>
            </description>""";

    private static Map<String, String> without(String wsdl, String... keys) {
        return Endpoints.rewritten(Contracts.of("a.wsdl", wsdl), a -> Optional.empty(), uri -> uri, Set.of(keys));
    }

    private static Contract read(String wsdl, String... keys) {
        return Contracts.of("a.wsdl", without(wsdl, keys).values().iterator().next());
    }

    @ParameterizedTest
    @CsvSource({"Find, number", "Find#2, name"})
    void ofOverloadedOperationsTheOneThatIsMeantGoes(String key, String left) {
        Contract contract = read(OVERLOADED, key);
        assertThat(contract.findings()).noneMatch(f -> f.rule().startsWith("unresolved"));
        assertThat(contract.operations()).containsOnlyKeys("Find", "Tell");
        Operation find = contract.operation("Find", null).orElseThrow().operation();
        assertThat(find.input().orElseThrow().body())
                .extracting(MessagePart::name)
                .containsExactly(left);
        String text = without(OVERLOADED, key).values().iterator().next();
        assertThat(text.split("<operation name=\"Find\"", -1))
                .as("once bound, once declared")
                .hasSize(3);
    }

    @Test
    void whatIsDeclaredAndNotBoundGoesByItsName() {
        String text = without(OVERLOADED, "Tell", "Find", "Find#2")
                .values()
                .iterator()
                .next();
        assertThat(text).doesNotContain("<operation").contains("<portType name=\"Other\"");
    }

    @Test
    void nothingGoesWhereNothingIsConcealed() {
        assertThat(read(OVERLOADED).operations()).containsOnlyKeys("Find", "Find#2", "Tell");
    }

    @ParameterizedTest
    @CsvSource({"Book, Ping, Cancel", "Ping, Book, Cancel", "Cancel, Ping, Book"})
    void anInterfaceLosesWhatIsConcealedBoundOrInheritedOrNeither(String key, String one, String other) {
        assertThat(read(SECOND, key).operations()).containsOnlyKeys(one, other);
        assertThat(without(SECOND, key).values().iterator().next()).doesNotContain(key + "\"");
    }
}
