package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

/** The corners of the documented shape: what is absent is null, and every kind of thing has its word. */
class ContractJsonTest {
    private static final String WSDL = """
            <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:http="http://schemas.xmlsoap.org/wsdl/http/"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:soap12="http://schemas.xmlsoap.org/wsdl/soap12/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <message name="In"><part name="a" type="xs:int"/><part name="h" type="xs:string"/></message>
              <message name="Out"><part name="b" type="xs:int"/></message>
              <portType name="PT">
                <operation name="Ask"><input message="tns:In"/><output message="tns:Out"/></operation>
                <operation name="Tell"><input message="tns:In"/></operation>
                <operation name="Hear"><output message="tns:Out"/></operation>
                <operation name="Offer"><output message="tns:Out"/><input message="tns:In"/></operation>
              </portType>
              <binding name="Rpc" type="tns:PT"><soap12:binding style="rpc" transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Ask"><soap12:operation soapAction=""/><input><soap12:header message="tns:In" part="h" use="literal"/><soap12:body use="literal" parts="a" namespace="urn:w"/></input><output><soap12:body use="literal" namespace="urn:w"/></output></operation>
                <operation name="Tell"><input><soap12:body use="encoded" namespace="urn:w"/></input></operation>
                <operation name="Hear"><output><soap12:body use="literal" namespace="urn:w"/></output></operation>
                <operation name="Offer"><input/><output/></operation>
              </binding>
              <binding name="Get" type="tns:PT"><http:binding verb="GET"/></binding>
              <binding name="Odd" type="tns:PT"><soap:binding transport="http://www.w3.org/2010/soapjms/"/></binding>
              <service name="S"><port name="P" binding="tns:Rpc"/><port name="G" binding="tns:Get"><http:address location="http://h/"/></port></service>
            </definitions>""";

    private final Contract contract = new ContractReader((DocumentFetcher)
                    (uri, stop) -> new DocumentFetcher.Fetched(uri, WSDL.getBytes(StandardCharsets.UTF_8), ""))
            .read("x", URI.create("mem:/x"), Progress.NONE, new StopSignal());
    private final JsonNode json = ContractJson.of(contract);

    private JsonNode operation(int index) {
        return json.path("services")
                .path(0)
                .path("ports")
                .path(0)
                .path("operations")
                .path(index);
    }

    @Test
    void everyPatternHasItsWord() {
        assertThat(operation(0).path("pattern").asText()).isEqualTo("request-response");
        assertThat(operation(1).path("pattern").asText()).isEqualTo("one-way");
        assertThat(operation(2).path("pattern").asText()).isEqualTo("notification");
        assertThat(operation(3).path("pattern").asText()).isEqualTo("solicit-response");
    }

    @Test
    void whatIsAbsentIsNullAndNotLeftOut() {
        assertThat(json.path("services")
                        .path(0)
                        .path("ports")
                        .path(0)
                        .get("address")
                        .isNull())
                .isTrue();
        assertThat(operation(1).get("output").isNull()).isTrue();
        assertThat(operation(1).get("soapAction").isNull()).isTrue();
        assertThat(operation(0).get("soapAction").asText()).isEmpty();
        assertThat(operation(2).get("input").isNull()).isTrue();
    }

    @Test
    void styleUseAndHeadersAreToldByOperation() {
        assertThat(operation(0).path("style").asText()).isEqualTo("rpc");
        assertThat(operation(0).path("use").asText()).isEqualTo("literal");
        assertThat(operation(0).path("input").path("headers").asInt()).isEqualTo(1);
        assertThat(operation(1).path("use").asText()).isEqualTo("encoded");
    }

    @Test
    void everyProtocolHasItsWordAndUnusedBindingsAreListed() {
        JsonNode ports = json.path("services").path(0).path("ports");
        assertThat(ports.path(0).path("protocol").asText()).isEqualTo("soap12");
        assertThat(ports.path(1).path("protocol").asText()).isEqualTo("http");
        assertThat(json.path("unusedBindings")).hasSize(1);
        assertThat(json.path("unusedBindings").path(0).path("protocol").asText())
                .isEqualTo("soap11");
        assertThat(json.path("unusedBindings").path(0).path("transport").asText())
                .isEqualTo("jms");
        assertThat(ports.path(0).path("transport").asText()).isEqualTo("http");
        assertThat(ports.path(1).get("transport").isNull()).isTrue();
        assertThat(json.path("unusedBindings").path(0).path("name").asText()).isEqualTo("{urn:s}Odd");
    }

    @Test
    void findingsHaveAPlace() {
        JsonNode finding = json.path("findings").path(0);
        assertThat(finding.path("rule").asText()).isEqualTo("no-address");
        assertThat(finding.path("severity").asText()).isEqualTo("warning");
        assertThat(finding.path("document").asText()).isEqualTo("mem:/x");
        assertThat(finding.path("line").asInt()).isEqualTo(19);
    }
}
