package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.Addressing;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.Redirect;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Answers that lead elsewhere: what goes along, what does not, and where it ends. */
@Timeout(60)
class FollowingTest {
    private static final Case KEPT =
            new Case("c", "C", "", "huts", "Find", "", "<a/>", List.of(), List.of(), List.of());

    private final HttpCaller http = new HttpCaller();

    @AfterEach
    void close() {
        http.close();
    }

    private static String leadsTo(int status, String location) {
        return "HTTP/1.1 " + status + " Elsewhere\r\nLocation: " + location + "\r\nContent-Length: 0\r\n\r\n";
    }

    /** Answers at {@code /end}, and leads on from everywhere else. */
    private static PlainServer leading(int status, String location) {
        return PlainServer.that((request, out, socket) ->
                out.write((request.split(" ")[1].equals("/end") ? PlainServer.ok("<end/>") : leadsTo(status, location))
                        .getBytes(StandardCharsets.UTF_8)));
    }

    private List<Exchange> follow(PlainServer server, Connect by) {
        return follow(server, by, CallRequest::to);
    }

    private interface Made {
        CallRequest to(CallRequest request, URI address);
    }

    private List<Exchange> follow(PlainServer server, Connect by, Made made) {
        CallRequest request = new CallRequest(
                "POST",
                URI.create(server.address()),
                List.of(
                        new Header("Content-Type", "text/xml"),
                        new Header("SOAPAction", "\"urn:find\""),
                        new Header("Cookie", "guest=anna")),
                Content.of("<a/>".getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(60));
        return new CaseCaller(http, new Expressions())
                .send(
                        new PreparedCall(
                                KEPT,
                                request,
                                by,
                                Optional.empty(),
                                Addressing.NONE,
                                Optional.of(redirect -> made.to(request, redirect.to())),
                                true,
                                Redactor.USUAL),
                        "test",
                        new StopSignal())
                .exchanges();
    }

    private static final Connect ANNA = Connect.USUAL.withLogin(Optional.of(new Login.Basic("anna", "s3cret-word")));

    @ParameterizedTest
    @CsvSource({"301, GET", "302, GET", "303, GET", "307, POST", "308, POST"})
    void theStatusSaysWhetherTheMessageGoesAlong(int status, String method) {
        try (PlainServer server = leading(status, "/end")) {
            List<Exchange> all = follow(server, ANNA);
            assertThat(all).extracting(Exchange::status).containsExactly(status, 200);
            assertThat(all.get(0).note()).isEqualTo("leads on to http://127.0.0.1:" + server.port() + "/end");
            String second = server.requests().get(1);
            assertThat(second)
                    .startsWith(method + " /end HTTP/1.1\r\n")
                    .contains("Authorization: Basic")
                    .contains("Cookie: guest=anna");
            if (method.equals("POST")) {
                assertThat(second).contains("SOAPAction").endsWith("<a/>");
            } else {
                assertThat(second).doesNotContain("SOAPAction").doesNotContain("<a/>");
            }
        }
    }

    @Test
    void toAnotherServerNobodysCredentialsGoAlong() {
        try (PlainServer other = PlainServer.says(PlainServer.ok("<end/>"));
                PlainServer server = leading(307, other.address())) {
            assertThat(follow(server, ANNA)).extracting(Exchange::status).containsExactly(307, 200);
            assertThat(server.requests().get(0)).contains("Authorization: Basic");
            assertThat(other.requests())
                    .singleElement()
                    .asString()
                    .startsWith("POST /stay")
                    .doesNotContainIgnoringCase("authorization")
                    .doesNotContainIgnoringCase("cookie")
                    .endsWith("<a/>");
        }
    }

    @Test
    void whatMayNotGoThereEndsItAndWhatCameIsKept() {
        try (PlainServer server = leading(307, "http://other.northfell.example/")) {
            List<Exchange> all = follow(server, ANNA, (request, address) -> {
                throw Problem.input("The secret may not go to " + address.getHost(), null, "Allow it.");
            });
            assertThat(all).hasSize(1);
            assertThat(all.get(0).outcome()).isEqualTo(Outcome.FAILED);
            assertThat(all.get(0).note())
                    .startsWith("leads on to http://other.northfell.example/, but The secret may not go to other.");
            assertThat(all.get(0).response().orElseThrow().status()).isEqualTo(307);
        }
    }

    @Test
    void aCircleEnds() {
        try (PlainServer server = leading(307, "/stay")) {
            List<Exchange> all = follow(server, Connect.USUAL);
            assertThat(all).hasSize(6).extracting(Exchange::status).containsOnly(307);
            assertThat(all.get(5).note()).isEmpty();
        }
    }

    @ParameterizedTest
    @CsvSource({"307, mailto:anna@northfell.example", "307, 'http://[nowhere'", "304, /end", "307, ''"})
    void whatLeadsToNoWebAddressIsTheAnswer(int status, String location) {
        try (PlainServer server = leading(status, location)) {
            List<Exchange> all = follow(server, Connect.USUAL);
            if (location.isEmpty()) {
                // to itself (RFC 3986 §5.2.2)
                assertThat(all).hasSizeGreaterThan(1);
            } else {
                assertThat(all).singleElement().extracting(Exchange::outcome).isEqualTo(Outcome.FINE);
            }
        }
    }

    @Test
    void outOfTlsNothingGoes() {
        try (PlainServer server = leading(307, "http://huts.northfell.example/")) {
            var answer = http.call(
                            new CallRequest(
                                    "POST",
                                    URI.create(server.address()),
                                    List.of(),
                                    Content.NONE,
                                    Duration.ofSeconds(60)),
                            new StopSignal())
                    .response()
                    .orElseThrow();
            assertThat(Redirect.of(answer, URI.create("https://huts.northfell.example/")))
                    .isEmpty();
            assertThat(Redirect.of(answer, URI.create("http://huts.northfell.example:80/a")))
                    .hasValueSatisfying(r -> assertThat(r.sameServer()).isTrue());
        }
    }
}
