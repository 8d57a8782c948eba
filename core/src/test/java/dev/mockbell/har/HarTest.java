package dev.mockbell.har;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class HarTest {
    private static final ObjectMapper JSON = new ObjectMapper();

    private final List<String> remarks = new ArrayList<>();

    private static HttpMessage message(String title, Content body, String... fields) {
        List<Header> headers = new ArrayList<>();
        for (int i = 0; i < fields.length; i += 2) {
            headers.add(new Header(fields[i], fields[i + 1]));
        }
        return new HttpMessage(title, headers, body, Content.NONE);
    }

    private static Exchange exchange(HttpMessage request, HttpMessage response, Timing timing) {
        return new Exchange(
                        0,
                        Instant.parse("2026-11-28T08:00:00.123456Z"),
                        Way.ANSWERED,
                        "",
                        "",
                        "http://127.0.0.1:8480/stay?a=1&b=%C3%A4",
                        "mock answer 1",
                        request,
                        Optional.ofNullable(response),
                        timing,
                        response == null ? Outcome.FAILED : Outcome.FINE,
                        response == null ? "nothing answers" : "")
                .with(Ties.from("10.0.0.7"));
    }

    private static Content text(String text, Charset charset) {
        return Content.of(text.getBytes(charset));
    }

    private static List<Exchange> some() {
        return List.of(
                exchange(
                        message(
                                "POST /stay?a=1 HTTP/1.1",
                                text("<a>Äcker</a>", StandardCharsets.UTF_8),
                                "Content-Type",
                                "text/xml; charset=utf-8",
                                "Cookie",
                                "one=1; two=2"),
                        message(
                                "HTTP/1.1 200 OK",
                                text("<b>Ä</b>", StandardCharsets.ISO_8859_1),
                                "Content-Type",
                                "text/xml; charset=iso-8859-1",
                                "Set-Cookie",
                                "s=secret; Path=/"),
                        new Timing(1_000_000, 2_000_000, 3_000_000, 4_000_000, 5_000_000, 6_000_000)),
                exchange(
                        message(
                                "POST /stay HTTP/1.1",
                                Content.of(new byte[] {0, 1, (byte) 0xFF}),
                                "Content-Type",
                                "image/png"),
                        message("HTTP/1.1 204 No Content", Content.NONE),
                        new Timing(0, 0, 7_000_000, 0)),
                exchange(message("GET / HTTP/1.0", Content.NONE), null, Timing.NONE));
    }

    private static byte[] written(List<Exchange> all, Optional<Redactor> redactor, long most) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (HarWriter writer = new HarWriter(out, "1", redactor, most)) {
            for (Exchange e : all) {
                writer.write(e);
            }
        }
        return out.toByteArray();
    }

    private List<Exchange> read(byte[] har) {
        List<Exchange> all = new ArrayList<>();
        long count = new HarReader(new OperationFinder(Map.of("stay", Contracts.stay())), remarks::add)
                .read(new ByteArrayInputStream(har), "a.har", new StopSignal(), all::add);
        assertThat(count).isEqualTo(all.size());
        return all;
    }

    @Test
    void whatIsWrittenIsValidAndReadsBackTheSame() throws IOException {
        byte[] har = written(some(), Optional.empty(), Long.MAX_VALUE);
        valid(har);
        List<Exchange> back = read(har);
        assertThat(back).hasSize(3);
        for (int i = 0; i < 3; i++) {
            Exchange was = some().get(i);
            Exchange is = back.get(i);
            assertThat(is.request().body().bytes())
                    .isEqualTo(was.request().body().bytes());
            assertThat(is.request().headers()).isEqualTo(was.request().headers());
            assertThat(is.response().map(r -> r.body().size()))
                    .isEqualTo(was.response().map(r -> r.body().size()));
            assertThat(is.timing()).isEqualTo(was.timing());
            assertThat(List.of(
                            is.started(),
                            is.way(),
                            is.endpoint(),
                            is.origin(),
                            is.outcome(),
                            is.note(),
                            is.ties(),
                            is.status()))
                    .isEqualTo(List.of(
                            was.started(),
                            was.way(),
                            was.endpoint(),
                            was.origin(),
                            was.outcome(),
                            was.note(),
                            was.ties(),
                            was.status()));
        }
        assertThat(back.get(0).response().orElseThrow().text()).isEqualTo("<b>Ä</b>");
    }

    private static void valid(byte[] har) throws IOException {
        try (InputStream in = HarTest.class.getResourceAsStream("/har.schema.json")) {
            JsonSchema schema =
                    JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V7).getSchema(in);
            JsonNode node = JSON.readTree(har);
            assertThat(schema.validate(node)).isEmpty();
            ((com.fasterxml.jackson.databind.node.ObjectNode)
                            node.path("log").path("entries").get(0))
                    .remove("timings");
            assertThat(schema.validate(node)).as("the schema itself bites").isNotEmpty();
        }
    }

    @Test
    void secretsAreMaskedEverywhere() throws IOException {
        Exchange e = exchange(
                message(
                        "POST /stay HTTP/1.1",
                        text("<a><p>open sesame</p></a>", StandardCharsets.UTF_8),
                        "Authorization",
                        "Basic Z3VpZGU6b3BlbiBzZXNhbWU=",
                        "Cookie",
                        "session=abc123"),
                message("HTTP/1.1 200 OK", text("open sesame", StandardCharsets.UTF_8), "Set-Cookie", "session=abc123"),
                Timing.NONE);
        byte[] har = written(List.of(e), Optional.of(Redactor.of(Map.of("p", "open sesame"))), Long.MAX_VALUE);
        valid(har);
        assertThat(new String(har, StandardCharsets.UTF_8))
                .doesNotContain("open sesame")
                .doesNotContain("Z3VpZGU6b3BlbiBzZXNhbWU")
                .doesNotContain("abc123");
    }

    @Test
    void largeBodiesAreLeftOutByChoiceAndThatIsSaid() throws IOException {
        byte[] har = written(some(), Optional.empty(), 4);
        valid(har);
        JsonNode first = JSON.readTree(har).path("log").path("entries").get(0);
        assertThat(first.path("request").path("postData").path("text").asText()).isEmpty();
        assertThat(first.path("request").path("postData").path("comment").asText())
                .isEqualTo("The body of 13 bytes was left out.");
    }

    @Test
    void whatBrowsersWriteIsReadAsFarAsItGoes() {
        String har = """
                {"log":{"version":"1.2","creator":{"name":"Web tools","version":"9"},"pages":[{"id":"p","entries":[1]}],
                "entries":[
                 {"pageref":"p","startedDateTime":"2026-11-28T09:00:00.000+01:00","time":12.5,
                  "request":{"method":"POST","url":"https://huts.example/stay?x=1","httpVersion":"h2","headers":[{"name":":authority","value":"huts.example"},{"name":"content-type","value":"text/xml"}],
                   "postData":{"mimeType":"text/xml","text":"<e:Envelope xmlns:e=\\"http://schemas.xmlsoap.org/soap/envelope/\\"><e:Body><s:Book xmlns:s=\\"urn:northfell:stay\\"/></e:Body></e:Envelope>"}},
                  "response":{"status":500,"statusText":"","httpVersion":"h2","headers":[],"content":{"size":3,"mimeType":"text/xml","text":"PGEvPg==","encoding":"base64"}},
                  "timings":{"blocked":1.2,"dns":-1,"connect":4,"ssl":3,"send":0.5,"wait":10,"receive":2}},
                 {"startedDateTime":"nonsense","request":{"method":"GET","url":"https://huts.example/"},"response":{"status":0,"_error":"net::ERR_FAILED"}},
                 {"request":{}},
                 {"startedDateTime":"2026-11-28T09:00:01Z","time":3,"request":{"method":"GET","url":"not an address"},"response":{"status":200}}
                ],"comment":"x"}}""";
        List<Exchange> all = read(har.getBytes(StandardCharsets.UTF_8));
        assertThat(all).hasSize(3);
        assertThat(remarks).containsExactly("Entry 3 has no request; it is passed over.");
        Exchange first = all.get(0);
        assertThat(first.contract() + " " + first.operation()).isEqualTo("stay Book");
        assertThat(first.request().title()).isEqualTo("POST /stay?x=1 HTTP/2");
        assertThat(first.request().headers()).extracting(Header::name).containsExactly("content-type");
        assertThat(first.response().orElseThrow().text()).isEqualTo("<a/>");
        assertThat(first.outcome()).isEqualTo(Outcome.FAULT);
        assertThat(first.status()).isEqualTo(500);
        assertThat(first.started()).isEqualTo(Instant.parse("2026-11-28T08:00:00Z"));
        assertThat(first.timing().connect()).isEqualTo(1_000_000);
        assertThat(first.timing().tls()).isEqualTo(3_000_000);
        assertThat(all.get(1).note()).isEqualTo("net::ERR_FAILED");
        assertThat(all.get(1).outcome()).isEqualTo(Outcome.FAILED);
        assertThat(all.get(2).timing().total()).isEqualTo(3_000_000);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "[]",
                "{}",
                "{\"log\":{}}",
                "{\"log\":{\"entries\":3}}",
                "<a/>",
                "{\"log\":{\"entries\":[{\"request\":{\"method\":\"GET\",\"url\":\"http://h/\"}}",
                "{\"log\":{\"entries\":[1]}}"
            })
    void whatIsNoHarIsSaid(String text) {
        assertThatThrownBy(() -> read(text.getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(Problem.class)
                .hasMessageMatching("(?s).*(no HAR file|not whole JSON).*");
    }
}
