package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpServer;
import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.PartText;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Framing;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.PlainServer;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.UnaryOperator;
import java.util.zip.GZIPInputStream;
import java.util.zip.InflaterInputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How requests are delivered, seen by a server that somebody else wrote. */
class DeliveringTest {
    private static final String BODY =
            "<st:Book xmlns:st='urn:stay'><st:hutId>NF-07</st:hutId><st:note>høy €</st:note></st:Book>";

    /** What came, and over which connection. */
    private record Came(Headers headers, byte[] body, int from) {}

    @TempDir
    private Path folder;

    private final Contract stay = Contracts.stay();
    private final HttpCaller http = new HttpCaller();
    private final CaseCaller caller = new CaseCaller(http, new Expressions());
    private final List<Came> came = new CopyOnWriteArrayList<>();
    private UnaryOperator<String> answer = request -> "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'>"
            + "<e:Body><s:BookResponse xmlns:s='urn:stay'/></e:Body></e:Envelope>";
    private Charset answered = StandardCharsets.UTF_8;
    private HttpServer server;

    @BeforeEach
    void start() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
        server.createContext("/", exchange -> {
            byte[] body = exchange.getRequestBody().readAllBytes();
            came.add(new Came(
                    exchange.getRequestHeaders(),
                    body,
                    exchange.getRemoteAddress().getPort()));
            byte[] said = answer.apply(new String(body, StandardCharsets.UTF_8)).getBytes(answered);
            exchange.getResponseHeaders().set("Content-Type", "text/xml; charset=" + answered.name());
            exchange.sendResponseHeaders(200, said.length);
            exchange.getResponseBody().write(said);
            exchange.close();
        });
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop(0);
        http.close();
    }

    private CallSetup setup(Case kept) {
        BoundOperation bound = stay.operation("Book", null).orElseThrow();
        String address = "http://127.0.0.1:" + server.getAddress().getPort() + "/stay";
        return new CallSetup(
                stay,
                bound,
                kept,
                Optional.of(address),
                dev.mockbell.expression.Scope.EMPTY,
                Optional.empty(),
                folder,
                List.of(),
                dev.mockbell.wire.CallRequest.USUAL_TIMEOUT);
    }

    private static Case kept(Delivery delivery) {
        return new Case("c", "C", "", "stay", "Book", "", BODY, List.of(), List.of(), List.of()).withDelivery(delivery);
    }

    private Exchange send(Delivery delivery) {
        return send(kept(delivery));
    }

    private Exchange send(Case kept) {
        return caller.send(caller.prepare(setup(kept)), "test", new StopSignal())
                .answer(Optional.empty(), new Expressions())
                .exchange();
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-16", "UTF-16LE", "ISO-8859-1", "windows-1252", "US-ASCII", "UTF-32"})
    void anEnvelopeGoesInTheEncodingThatIsChosenAndSaysSo(String name) {
        Exchange sent = send(Delivery.USUAL.in(name));
        assertThat(sent.outcome()).isEqualTo(Outcome.FINE);
        Came one = came.get(0);
        assertThat(one.headers().getFirst("Content-Type")).isEqualToIgnoringCase("text/xml; charset=" + name);
        String text = new String(one.body(), Charset.forName(name));
        assertThat(text).contains("encoding=\"" + name + "\"");
        // what others make of the very bytes
        SoapMessage read = SoapMessage.parse(one.body(), "sent");
        assertThat(read.payload().orElseThrow().getTextContent()).isEqualTo("NF-07høy €");
        assertThat(sent.request().text()).contains("<st:hutId>");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"UTF-16", "UTF-16LE", "ISO-8859-15", "windows-1252", "IBM037", "Shift_JIS", "UTF-32", "GB18030"})
    void anAnswerIsReadInTheEncodingThatItComesIn(String name) {
        answered = Charset.forName(name);
        boolean declared = !name.startsWith("UTF-32");
        answer = request -> (declared ? "<?xml version='1.0' encoding='" + name + "'?>" : "")
                + "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body>"
                + "<s:BookResponse xmlns:s='urn:stay'>tr-" + (name.matches("Shift.*") ? "\u5C71" : "\u00E9")
                + "</s:BookResponse></e:Body></e:Envelope>";
        Exchange sent = send(Delivery.USUAL);
        assertThat(sent.outcome()).as(sent.note()).isEqualTo(Outcome.FINE);
        String text = SoapMessage.of(sent.response().orElseThrow(), "answer")
                .payload()
                .orElseThrow()
                .getTextContent();
        assertThat(text).isEqualTo(name.matches("Shift.*") ? "tr-\u5C71" : "tr-\u00E9");
        assertThat(sent.response().orElseThrow().text()).contains(text);
    }

    @Test
    void anEncodingThatNobodyKnowsIsRefused() {
        assertThatThrownBy(() -> send(Delivery.USUAL.in("UTF-99")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("“UTF-99” is no encoding");
    }

    @ParameterizedTest
    @EnumSource(value = Delivery.Compression.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aCompressedBodyIsCompressedOnTheWayAndReadableOnTheLedger(Delivery.Compression compression)
            throws IOException {
        Exchange sent = send(Delivery.USUAL.with(compression));
        Came one = came.get(0);
        assertThat(one.headers().getFirst("Content-Encoding")).isEqualTo(compression.code());
        try (InputStream plain = compression == Delivery.Compression.GZIP
                ? new GZIPInputStream(new ByteArrayInputStream(one.body()))
                : new InflaterInputStream(new ByteArrayInputStream(one.body()))) {
            assertThat(new String(plain.readAllBytes(), StandardCharsets.UTF_8)).contains("høy €");
        }
        assertThat(sent.request().text()).contains("høy €");
        assertThat(sent.request().wire().bytes()).endsWith(one.body());
    }

    @Test
    void aBodyGoesInChunksAndAfterTheServerHasAskedForIt() {
        Exchange sent = send(Delivery.USUAL.with(new Framing(true, true)));
        assertThat(sent.outcome()).isEqualTo(Outcome.FINE);
        Came one = came.get(0);
        assertThat(one.headers()).containsKey("Transfer-encoding").doesNotContainKey("Content-length");
        assertThat(one.headers().getFirst("Expect")).isEqualToIgnoringCase("100-continue");
        assertThat(new String(one.body(), StandardCharsets.UTF_8)).contains("NF-07");
        assertThat(sent.request().text()).contains("NF-07");
        assertThat(sent.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                .startsWith("HTTP/1.1 100");
        assertThat(sent.status()).isEqualTo(200);
    }

    @Test
    void aConnectionIsKeptForTheNextCallUnlessTheCaseWantsItsOwn() {
        Exchange first = send(Delivery.USUAL);
        Exchange second = send(Delivery.USUAL);
        Exchange alone = send(Delivery.USUAL.onOwnConnection(true));
        assertThat(came.get(1).from()).isEqualTo(came.get(0).from());
        assertThat(came.get(2).from()).isNotEqualTo(came.get(0).from());
        assertThat(first.timing().connect()).isPositive();
        assertThat(second.timing().connect()).as("nothing was connected").isZero();
        assertThat(alone.timing().connect()).isPositive();
        assertThat(second.timing().await()).isPositive();
        assertThat(second.request().text()).contains("NF-07");
        assertThat(second.response().orElseThrow().wire().text(StandardCharsets.UTF_8))
                .as("each call has its own bytes")
                .containsOnlyOnce("HTTP/1.1 200");
    }

    /** Servers close what they keep whenever they like (RFC 9112 §9.5). */
    @Test
    void aKeptConnectionThatTheServerHasClosedIsNoReasonToFail() throws Exception {
        try (PlainServer closing = PlainServer.that((request, out, socket) -> {
            out.write(PlainServer.ok("<a/>").getBytes(StandardCharsets.UTF_8));
            out.flush();
            Thread.sleep(50);
            socket.close();
        })) {
            Case kept = kept(Delivery.USUAL.to(closing.address()));
            CallSetup setup = setup(kept).to(closing.address());
            for (int i = 0; i < 3; i++) {
                Exchange sent = caller.send(caller.prepare(setup), "test", new StopSignal())
                        .last();
                assertThat(sent.note()).isEmpty();
                assertThat(sent.timing().connect()).as("call " + i).isPositive();
                Thread.sleep(150);
            }
        }
    }

    @Test
    void aKeptConnectionThatIsClosedAsTheRequestGoesOutIsToldAsThat() {
        try (PlainServer closing = PlainServer.that((request, out, socket) -> {
            if (request.contains("X-Second")) {
                socket.close();
            } else {
                out.write(PlainServer.ok("<a/>").getBytes(StandardCharsets.UTF_8));
            }
        })) {
            CallSetup setup = setup(kept(Delivery.USUAL)).to(closing.address());
            caller.send(caller.prepare(setup), "test", new StopSignal());
            Case second = kept(Delivery.USUAL).withHeaders(List.of(new dev.mockbell.content.Header("X-Second", "yes")));
            Exchange sent = caller.send(caller.prepare(setup(second).to(closing.address())), "test", new StopSignal())
                    .last();
            assertThat(sent.outcome()).isEqualTo(Outcome.FAILED);
            assertThat(sent.note())
                    .contains("closed the connection that was kept from an earlier call")
                    .contains("Send it again, or give the case a connection of its own");
            assertThat(closing.requests()).as("it is not sent twice").hasSize(2);
        }
    }

    @Test
    void aProxyOfTheProfileGetsNoSecretOfTheMessage() {
        Profile via = Profile.named("P").with(new Profile.Via("proxy.elsewhere.example:3128", "", ""));
        CallSetup setup = setup(new Case(
                        "c", "C", "", "stay", "Book", "", "<a>{$secret:word}</a>", List.of(), List.of(), List.of()))
                .by(Optional.of(via));
        CallSetup knowing = new CallSetup(
                setup.contract(),
                setup.bound(),
                setup.kept(),
                setup.endpoint(),
                dev.mockbell.expression.Scope.EMPTY
                        .with(new dev.mockbell.expression.SecretHosts(java.util.Set.of()))
                        .withSecret("word", "sesame"),
                setup.profile(),
                folder,
                List.of(),
                setup.timeout());
        assertThatThrownBy(() -> caller.request(knowing))
                .isInstanceOfSatisfying(
                        Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.SECRET_WITHHELD));
        assertThat(caller.request(knowing.by(Optional.empty())).body().text(StandardCharsets.UTF_8))
                .contains("sesame");
    }

    @ParameterizedTest
    @EnumSource(
            value = Addressing.class,
            names = {"V10", "V200408"})
    void aRequestSaysWhereItGoesAndWhatItIsAndAnAnswerIsHeldToIt(Addressing addressing) {
        answer = request -> {
            String id = request.replaceAll("(?s).*<wsa:MessageID[^>]*>([^<]*)<.*", "$1");
            return related(addressing, id);
        };
        Exchange sent = send(Delivery.USUAL.with(addressing).replyingTo("http://127.0.0.1/{1 + 1}"));
        assertThat(sent.outcome()).as(sent.note()).isEqualTo(Outcome.FINE);
        assertThat(sent.note()).isEmpty();
        SoapMessage request = SoapMessage.of(sent.request(), "sent");
        assertThat(request.headers())
                .allMatch(h -> h.getNamespaceURI().equals(addressing.namespace()))
                .extracting(h -> h.getLocalName())
                .containsExactly("Action", "MessageID", "To", "ReplyTo");
        assertThat(request.headers().get(0).getTextContent()).isEqualTo("urn:stay:book");
        assertThat(request.headers().get(1).getTextContent()).startsWith("urn:uuid:");
        assertThat(request.headers().get(2).getTextContent()).endsWith("/stay");
        assertThat(request.headers().get(3).getTextContent()).isEqualTo("http://127.0.0.1/2");
        answer = r -> related(addressing, "urn:other");
        Exchange strange = send(Delivery.USUAL.with(addressing));
        assertThat(strange.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(strange.note()).startsWith("the answer relates to urn:other, not to urn:uuid:");
    }

    private static String related(Addressing addressing, String id) {
        return "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Header><w:RelatesTo xmlns:w='"
                + addressing.namespace() + "'>" + id
                + "</w:RelatesTo></e:Header><e:Body><s:BookResponse xmlns:s='urn:stay'/></e:Body></e:Envelope>";
    }

    @Test
    void anAnswerThatRelatesToNothingSaysSoAndBlocksWrittenByHandStay() {
        Exchange sent = send(Delivery.USUAL.with(Addressing.V10));
        assertThat(sent.outcome()).isEqualTo(Outcome.FINE);
        assertThat(sent.note()).isEqualTo("the answer does not say which message it relates to");
        String mine = "<a:To xmlns:a='http://www.w3.org/2005/08/addressing'>urn:mine</a:To>";
        Exchange own = send(kept(Delivery.USUAL.with(Addressing.V10)).withSoapHeaders(mine));
        assertThat(SoapMessage.of(own.request(), "sent").headers()).hasSize(1);
    }

    @Test
    void theFilesOfACaseGoAlongAndStayInTheProject() throws IOException {
        Files.createDirectories(folder.resolve("parts"));
        Files.writeString(folder.resolve("parts/map.png"), "a map of the huts");
        Case kept = kept(Delivery.USUAL).withParts(List.of(new PartText("map", "parts/map.png", "")));
        Exchange sent = send(kept);
        assertThat(sent.request().attachments()).singleElement().satisfies(p -> {
            assertThat(p.id()).contains("map");
            assertThat(p.header("Content-Type")).contains("image/png");
            assertThat(p.content().text(StandardCharsets.UTF_8)).isEqualTo("a map of the huts");
        });
        assertThat(sent.request().text()).contains("NF-07");
        Case outside = kept(Delivery.USUAL).withParts(List.of(new PartText("x", "../x", "")));
        assertThatThrownBy(() -> send(outside)).hasMessageContaining("leads out of the folder");
        Case gone = kept(Delivery.USUAL).withParts(List.of(new PartText("x", "parts/gone.png", "")));
        assertThatThrownBy(() -> send(gone)).isInstanceOf(Problem.class).hasMessageContaining("cannot be read");
    }

    @Test
    void aCaseSaysHowLongItWaits() {
        answer = request -> {
            try {
                Thread.sleep(2_000);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return "<late/>";
        };
        Exchange silent = send(Delivery.USUAL.with(new Delivery.Waiting(0, 0.2, 0)));
        assertThat(silent.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(silent.note()).startsWith("No answer from 127.0.0.1:").contains("within 200 ms");
        Exchange whole = send(Delivery.USUAL.with(new Delivery.Waiting(0, 0, 0.3)));
        assertThat(whole.note()).startsWith("No answer from 127.0.0.1:").contains("within 300 ms");
    }
}
