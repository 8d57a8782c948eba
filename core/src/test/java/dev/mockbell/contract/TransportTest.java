package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Transport.Kind;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.request.RequestText;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.wire.EventLoops;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The envelope does not depend on what carries it (SOAP 1.1 §4, SOAP 1.2 part 1 §4). */
class TransportTest {
    private static final String OVER_HTTP = "http://schemas.xmlsoap.org/soap/http";

    @ParameterizedTest
    @CsvSource({
        "http://schemas.xmlsoap.org/soap/http, HTTP, HTTP",
        "http://schemas.xmlsoap.org/soap/http/, HTTP, HTTP",
        "http://schemas.xmlsoap.org/soap/https, HTTP, HTTP",
        "http://www.w3.org/2003/05/soap/bindings/HTTP/, HTTP, HTTP",
        "http://mail.example.com/soap/http, HTTP, HTTP",
        "http://www.w3.org/2010/soapjms/, OTHER, JMS",
        "http://www.example.com/transports/jms/2, OTHER, JMS",
        "http://schemas.xmlsoap.org/soap/smtp, OTHER, SMTP",
        "http://www.w3.org/2003/05/soap/bindings/mail, OTHER, SMTP",
        "http://schemas.example.com/soap/tcp, OTHER, TCP",
        "urn:example:transport:named-pipe, OTHER, named pipe",
        "urn:example:pigeon, UNKNOWN, urn:example:pigeon",
        "http://jms.example.com/post/pigeon, UNKNOWN, http://jms.example.com/post/pigeon",
        "not a uri at all, UNKNOWN, not a uri at all",
        "'', HTTP, HTTP"
    })
    void aTransportIsKnownByTheWordsOfItsUri(String uri, Kind kind, String name) {
        Transport transport = Transport.of(Optional.of(uri));
        assertThat(transport.kind()).isEqualTo(kind);
        assertThat(transport.name()).isEqualTo(name);
    }

    private static Contract over(String transport, String address) {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"));
        return Contracts.of("a.wsdl", text.replace(OVER_HTTP, transport).replace("http://127.0.0.1:1/t", address));
    }

    private static RequestRecipe recipe(Contract contract, Optional<String> endpoint) {
        BoundOperation bound = contract.operation("Do", null).orElseThrow();
        return RequestRecipe.of(bound, new RequestText("<t:Root xmlns:t='urn:t'>1</t:Root>", "", List.of()), endpoint);
    }

    @Test
    void whatGoesByAQueueKeepsItsVersionAndIsSampledAndValid() {
        Contract contract = over("http://www.w3.org/2010/soapjms/", "jms:queue:huts");
        Port port = contract.ports().get(0);
        assertThat(port.binding().protocol()).isEqualTo(Protocol.SOAP11);
        assertThat(port.binding().title()).isEqualTo("SOAP 1.1 over JMS");
        assertThat(contract.operations()).containsOnlyKeys("Do");
        Operation operation = port.binding().operations().get(0);
        List<SampleEnvelope> samples = SampleEnvelope.of(contract, port.binding(), operation, Detail.FULL);
        assertThat(samples).hasSize(2);
        for (SampleEnvelope sample : samples) {
            SoapMessage read = SoapMessage.parse(sample.text().getBytes(StandardCharsets.UTF_8), "sample");
            assertThat(read.version()).isEqualTo(SoapVersion.V11);
            assertThat(new MessageValidator(contract.schemas())
                            .validate(MessageOutline.ofRequest(contract, operation), read))
                    .isEmpty();
        }
    }

    @Test
    void whatTheWsdlSaysOfAQueueBesideItsAddressIsPartOfIt() {
        String properties = "<j:jndiURL xmlns:j='http://www.w3.org/2010/soapjms/'>tcp://127.0.0.1:61616</j:jndiURL>"
                + "<j:priority xmlns:j='http://www.w3.org/2010/soapjms/'>3</j:priority>"
                + "<j:jndiContextParameter xmlns:j='http://www.w3.org/2010/soapjms/' name='queue.huts' value='a b'/>";
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace(OVER_HTTP, "http://www.w3.org/2010/soapjms/")
                .replace("http://127.0.0.1:1/t", "jms:queue:huts?priority=8")
                .replace("<service name=\"S\">", "<service name=\"S\">" + properties);
        assertThat(Contracts.of("a.wsdl", text).ports().get(0).address())
                .contains("jms:queue:huts?priority=8&jndiURL=tcp://127.0.0.1:61616&jndi-queue.huts=a%20b");
        String looked = text.replace("<soap:address location=\"jms:queue:huts?priority=8\"/>", "")
                .replace(
                        "<soap:binding",
                        "<j:lookupVariant xmlns:j='http://www.w3.org/2010/soapjms/'>topic</j:lookupVariant>"
                                + "<j:destinationName xmlns:j='http://www.w3.org/2010/soapjms/'>huts.news</j:destinationName><soap:binding");
        assertThat(Contracts.of("a.wsdl", looked).ports().get(0).address().orElseThrow())
                .startsWith("jms:topic:huts.news?jndiURL=")
                .contains("priority=3");
    }

    @Test
    void itAloneIsNotSentAndThatIsSaidWithTheReason() {
        Contract contract = over("http://schemas.xmlsoap.org/soap/smtp", "mailto:huts@northfell.example");
        assertThatThrownBy(() -> recipe(contract, Optional.empty()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("Port Port is spoken over SMTP; requests are sent by HTTP and JMS");
        assertThatThrownBy(() -> recipe(contract, Optional.of("http://127.0.0.1:1/")))
                .isInstanceOf(Problem.class);
    }

    @Test
    void aTransportThatIsNotKnownIsSentToAnHttpAddress() {
        RequestRecipe recipe = recipe(over("urn:example:pigeon", "http://127.0.0.1:1/t"), Optional.empty());
        assertThat(recipe.address()).hasToString("http://127.0.0.1:1/t");
    }

    @Test
    void aMockOfWhatGoesByMailIsRefused() {
        Contract contract = over("http://schemas.xmlsoap.org/soap/smtp", "mailto:huts@northfell.example");
        try (EventLoops loops = new EventLoops("test", 1)) {
            assertThatThrownBy(() -> MockHost.start(
                            contract,
                            MockPlan.sampling("a", 0),
                            MockSurroundings.alone(loops, new Expressions(), null, event -> {})))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("no port of this contract is spoken so");
        }
    }

    @Test
    void besideAnHttpPortItComesSecondAndItsAddressStaysInTheMocksWsdl() throws Exception {
        String text = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"));
        String binding = text.substring(text.indexOf("<binding"), text.indexOf("</binding>") + 10);
        String queue =
                binding.replace("name=\"B\"", "name=\"Q\"").replace(OVER_HTTP, "http://www.w3.org/2010/soapjms/");
        Contract contract = Contracts.of(
                "a.wsdl",
                text.replace("<binding", queue + "<binding")
                        .replace(
                                "<port name",
                                "<port name='Queue' binding='tns:Q'><soap:address location='jms:queue:huts'/></port><port name"));
        assertThat(contract.ports()).extracting(Port::name).containsExactly("Queue", "Port");
        assertThat(contract.operations().get("Do")).extracting(Port::name).containsExactly("Port", "Queue");
        assertThat(contract.operation("Do", null).orElseThrow().port().name()).isEqualTo("Port");
        try (EventLoops loops = new EventLoops("test", 1);
                MockHost mock = MockHost.start(
                        contract,
                        MockPlan.sampling("a", 0),
                        MockSurroundings.alone(loops, new Expressions(), null, event -> {}))) {
            assertThat(mock.addresses()).containsOnlyKeys("Port");
            String served = HttpClient.newHttpClient()
                    .send(HttpRequest.newBuilder(URI.create(mock.wsdl())).build(), BodyHandlers.ofString())
                    .body();
            assertThat(served)
                    .contains("location=\"jms:queue:huts\"")
                    .contains("location=\"" + mock.base() + "/t\"")
                    .doesNotContain("http://127.0.0.1:1/t");
        }
    }

    @Test
    void wsdl20KeepsTheVersionToo() {
        Contract contract =
                Contracts.of("a.wsdl", """
                <description xmlns="http://www.w3.org/ns/wsdl" targetNamespace="urn:s" xmlns:tns="urn:s" xmlns:t="urn:t"
                  xmlns:wsoap="http://www.w3.org/ns/wsdl/soap">
                  <types>%s</types>
                  <interface name="I"><operation name="Do" pattern="http://www.w3.org/ns/wsdl/in-out">
                    <input element="t:Root"/><output element="t:Root"/></operation></interface>
                  <binding name="B" interface="tns:I" type="http://www.w3.org/ns/wsdl/soap"
                    wsoap:protocol="http://www.w3.org/2010/soapjms/"/>
                  <service name="S" interface="tns:I"><endpoint name="E" binding="tns:B" address="jms:queue:huts"/></service>
                </description>""".formatted(Contracts.schema("<xs:element name='Root' type='xs:int'/>")));
        assertThat(contract.ports().get(0).binding().title()).isEqualTo("SOAP 1.2 over JMS");
        assertThat(contract.operations()).containsOnlyKeys("Do");
    }
}
