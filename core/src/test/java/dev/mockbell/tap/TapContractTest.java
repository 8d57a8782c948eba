package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Clients that read the contract by way of a tap call by way of it. */
@Timeout(60)
class TapContractTest {
    private final TapUnderTest tap = new TapUnderTest();

    @AfterEach
    void close() {
        tap.close();
    }

    @Test
    void aContractReadThroughATapLeadsThroughIt() {
        try (EventLoops loops = new EventLoops("service", 1);
                MockHost service = MockHost.start(
                        Contracts.stay(),
                        MockPlan.sampling("stay", 0),
                        MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
                HttpCaller caller = new HttpCaller()) {
            tap.to(service.base() + "/stay");
            Contract read = new ContractReader(HttpFetcher.forEverything(caller, 1 << 20))
                    .read(tap.host.address() + "?wsdl", Progress.NONE, new StopSignal());
            assertThat(read.ports())
                    .isNotEmpty()
                    .allSatisfy(p -> assertThat(p.address().orElseThrow()).startsWith(tap.host.base() + "/"));
            assertThat(tap.recorded).hasSizeGreaterThanOrEqualTo(1);
            Exchange e = tap.recorded.get(0);
            assertThat(e.response().orElseThrow().text())
                    .as("the record has what the service said")
                    .contains(service.base());
        }
    }

    @Test
    void aCompressedDocumentInChunksIsRewrittenAndFramedAnew() throws Exception {
        String text = "<?xml version=\"1.0\" encoding=\"UTF-8\"?><a location=\"%s/x\">Äcker</a>";
        RawServer[] service = new RawServer[1];
        service[0] = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            ByteArrayOutputStream zipped = new ByteArrayOutputStream();
            try (GZIPOutputStream gzip = new GZIPOutputStream(zipped)) {
                gzip.write(text.formatted(service[0].base()).getBytes(StandardCharsets.UTF_8));
            }
            RawServer.write(
                    socket,
                    "HTTP/1.1 200 OK\r\nContent-Type: text/xml\r\nContent-Encoding: gzip\r\nETag: \"1\"\r\n"
                            + "Transfer-Encoding: chunked\r\n\r\n" + Integer.toHexString(zipped.size()) + "\r\n"
                            + zipped.toString(StandardCharsets.ISO_8859_1) + "\r\n0\r\n\r\n");
            RawServer.head(socket.getInputStream());
        });
        try (RawServer one = service[0]) {
            tap.to(one.base());
            String body = text.formatted("http://tap.example:99");
            int length = body.getBytes(StandardCharsets.UTF_8).length;
            String wanted = "HTTP/1.1 200 OK\r\nContent-Type: text/xml\r\nContent-Length: " + length + "\r\n\r\n"
                    + new String(body.getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1);
            assertThat(tap.said("GET /s?WSDL HTTP/1.1\r\nHost: tap.example:99\r\n\r\n", wanted.length()))
                    .isEqualTo(wanted);
        }
    }

    @Test
    void answersThatLeadElsewhereOnTheServiceLeadThroughTheTap() throws Exception {
        RawServer[] service = new RawServer[1];
        service[0] = new RawServer(socket -> {
            RawServer.head(socket.getInputStream());
            RawServer.write(
                    socket,
                    "HTTP/1.1 302 Found\r\nLocation: " + service[0].base()
                            + "/there\r\nContent-Length: 0\r\nConnection: close\r\n\r\n");
        });
        try (RawServer one = service[0]) {
            tap.to(one.base());
            assertThat(tap.said("GET /x HTTP/1.1\r\nHost: t:1\r\n\r\n", 1_000))
                    .contains("\r\nLocation: http://t:1/there\r\n");
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "<s:address location=\"http://h:81/a\"/>|<s:address location=\"HERE/a\"/>",
                "<s:address location='HTTP://H:81'/>|<s:address location='HERE'/>",
                "<xs:import schemaLocation = \"http://h:81/?xsd=1\"/>|<xs:import schemaLocation = \"HERE/?xsd=1\"/>",
                "<endpoint address=\"http://h:81/a\"/>|<endpoint address=\"HERE/a\"/>",
                "<wsa:Address>http://h:81/a</wsa:Address>|<wsa:Address>HERE/a</wsa:Address>",
                "<a targetNamespace=\"http://h:81/a\" xmlns:t=\"http://h:81/\"/>|<a targetNamespace=\"http://h:81/a\" xmlns:t=\"http://h:81/\"/>",
                "<s:address location=\"http://h:8100/a\"/>|<s:address location=\"http://h:8100/a\"/>",
                "<s:address location=\"http://h/a\"/>|<s:address location=\"http://h/a\"/>",
                "<s:address location=\"https://h:81/a\"/>|<s:address location=\"https://h:81/a\"/>"
            })
    void addressesMoveAndNamesStay(String text, String wanted) {
        Destination there = Destination.of(URI.create("http://h:81/stay"));
        assertThat(AddressRewriting.changed(text, there, "HERE")).isEqualTo(wanted);
    }

    @ParameterizedTest
    @CsvSource({
        "GET /s?wsdl, true",
        "GET /s?WSDL=1, true",
        "GET /s?a=b&xsd=2, true",
        "GET /s?singleWsdl, true",
        "GET /d/stay.wsdl, true",
        "GET /d/stay.xsd?v=3, true",
        "POST /s?wsdl, false",
        "GET /s?wsdlx=1, false",
        "GET /wsdl, false"
    })
    void documentsAreKnownByHowTheyAreAskedFor(String start, boolean concerns) {
        assertThat(AddressRewriting.concerns(Head.of(start + " HTTP/1.1\r\n\r\n")))
                .isEqualTo(concerns);
    }
}
