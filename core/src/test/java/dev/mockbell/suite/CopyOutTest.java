package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.CopyOut.Form;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.PlainServer;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is copied out is run, and must send what the program itself sends. */
class CopyOutTest {
    private static final String NASTY = "Ines' \"hut\" $HOME `id` \\ %s {x} & <ø>";

    @TempDir
    Path folder;

    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();
    private final CaseCaller caller = new CaseCaller(http, expressions);
    private final CopyOut copyOut = new CopyOut(expressions);
    private final Contract stay = Contracts.stay();
    private final Scope scope = Scope.EMPTY
            .with(Map.of("who", NASTY))
            .withSecret("api-token", "t0p s3cr't")
            .withSecret("pin", "42");
    private final Case kept = Stays.book(
                    "c", Stays.BODY.replace("Ines Okafor", "{$who}\n\t<!-- it's {fine -->"), List.of())
            .withHeaders(List.of(
                    new Header("X-Token", "Bearer {$secret:api-token}"),
                    new Header("X-Pin", "{bell:base64($secret:pin)}")));
    private PlainServer server;

    @BeforeEach
    void start() {
        server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "184.50")));
    }

    @AfterEach
    void stop() {
        server.close();
        http.close();
    }

    private BoundOperation bound() {
        return kept.in(stay);
    }

    private String copied(Form form) {
        return copyOut.of(form, bound(), kept, Optional.of(server.address()), scope);
    }

    private String ours() {
        CallSetup setup = new CallSetup(
                stay,
                bound(),
                kept,
                Optional.of(server.address()),
                scope,
                Optional.empty(),
                Path.of(""),
                List.of(),
                CallRequest.USUAL_TIMEOUT);
        caller.send(caller.prepare(setup), "test", new StopSignal());
        return server.requests().get(0);
    }

    private static String body(String request) {
        return request.substring(request.indexOf("\r\n\r\n") + 4);
    }

    private static String header(String request, String name) {
        return request.lines()
                .filter(l ->
                        l.toLowerCase(java.util.Locale.ROOT).startsWith(name.toLowerCase(java.util.Locale.ROOT) + ":"))
                .map(l -> l.substring(l.indexOf(':') + 1).strip())
                .findFirst()
                .orElse("");
    }

    private void holdsAgainstOurs(String sent) {
        String own = ours();
        assertThat(body(sent)).isEqualTo(body(own)).contains("&lt;ø&gt;").contains("<!-- it's {fine -->");
        for (String name : List.of("Content-Type", "SOAPAction", "X-Token", "X-Pin")) {
            assertThat(header(sent, name)).as(name).isEqualTo(header(own, name));
        }
        assertThat(sent.lines().findFirst()).isEqualTo(own.lines().findFirst());
    }

    private String run(Map<String, String> environment, String... command) throws IOException, InterruptedException {
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment().putAll(environment);
        builder.redirectOutput(folder.resolve("out").toFile());
        Process process = builder.start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        return Files.readString(folder.resolve("out"));
    }

    private static final Map<String, String> VALUES = Map.of("API_TOKEN", "t0p s3cr't", "SECRET_VALUE_2", "NDI=");

    @Test
    void theCommandLineSendsTheSameRequest() throws Exception {
        assumeThat(Files.isExecutable(Path.of("/usr/bin/curl"))).isTrue();
        Path script = Files.writeString(folder.resolve("c.sh"), copied(Form.CURL));
        String out = run(VALUES, "/bin/sh", script.toString());
        assertThat(server.requests()).as(out).hasSize(1);
        String sent = server.requests().get(0);
        assertThat(out).contains("R-42");
        server.close();
        server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "184.50")));
        String own = ours();
        assertThat(body(sent)).isEqualTo(body(own));
        for (String name : List.of("Content-Type", "SOAPAction", "X-Token", "X-Pin")) {
            assertThat(header(sent, name)).as(name).isEqualTo(header(own, name));
        }
    }

    @Test
    void theJavaProgramSendsTheSameRequest() throws Exception {
        Path source = Files.writeString(folder.resolve("Book.java"), copied(Form.JAVA));
        Path java = Path.of(System.getProperty("java.home"), "bin", "java");
        String out = run(VALUES, java.toString(), source.toString());
        assertThat(server.requests()).as(out).hasSize(1);
        String sent = server.requests().get(0);
        assertThat(out).contains("200").contains("R-42");
        server.close();
        server = PlainServer.says(PlainServer.ok(Stays.answer("R-42", "184.50")));
        holdsAgainstOurs(sent);
    }

    @Test
    void theRawRequestIsWholeHttp() throws Exception {
        String raw = copied(Form.RAW);
        URI address = URI.create(server.address());
        try (Socket socket = new Socket(address.getHost(), address.getPort())) {
            socket.getOutputStream().write(raw.getBytes(StandardCharsets.UTF_8));
            socket.getOutputStream().flush();
            socket.setSoTimeout(5_000);
            byte[] answer = new byte[200];
            int read = socket.getInputStream().read(answer);
            assertThat(new String(answer, 0, read, StandardCharsets.UTF_8)).startsWith("HTTP/1.1 200");
        }
        String sent = server.requests().get(0);
        assertThat(body(sent)).isEqualTo(body(raw));
        assertThat(header(sent, "X-Token")).isEqualTo("Bearer $API_TOKEN");
        assertThat(header(sent, "Host")).isEqualTo(address.getRawAuthority());
    }

    @Test
    void noSecretLeavesInAnyForm() {
        for (Form form : Form.values()) {
            assertThat(copied(form))
                    .doesNotContain("s3cr")
                    .doesNotContain("NDI=")
                    .contains("API_TOKEN");
        }
    }

    @Test
    void anExchangeIsCopiedAsItWasSentWithItsCredentialsMasked() {
        Content body = Content.of("<a><pin>s3cret</pin></a>".getBytes(StandardCharsets.UTF_8));
        HttpMessage request = new HttpMessage(
                "PUT /stay?x=1 HTTP/1.1",
                List.of(
                        new Header("Host", "h"),
                        new Header("Authorization", "Bearer abc.def"),
                        new Header("X-Trip", "7"),
                        new Header("Content-Length", "24")),
                body,
                Content.NONE);
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.TAPPED,
                "",
                "",
                "http://huts.example/stay?x=1",
                "tap",
                request,
                Optional.empty(),
                Timing.NONE,
                Exchange.Outcome.FAILED,
                "");
        Redactor redactor = Redactor.of(Map.of("pin", "s3cret"));
        for (Form form : Form.values()) {
            assertThat(CopyOut.sent(form, exchange, redactor))
                    .contains("PUT")
                    .contains("X-Trip")
                    .doesNotContain("s3cret")
                    .doesNotContain("abc.def");
        }
        assertThat(CopyOut.sent(Form.CURL, exchange, redactor))
                .startsWith("curl -sS -X PUT 'http://huts.example/stay?x=1'")
                .doesNotContain("Content-Length");
    }
}
