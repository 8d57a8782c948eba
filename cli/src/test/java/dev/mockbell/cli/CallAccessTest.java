package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.BasicAuthenticator;
import com.sun.net.httpserver.Headers;
import com.sun.net.httpserver.HttpServer;
import dev.mockbell.access.Profile;
import dev.mockbell.expression.Variable;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.wire.Certificates;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The options of {@code call} that say how an endpoint is reached, against a server that asks who is there. */
class CallAccessTest {
    private static final String WSDL = """
            <definitions name="Rope" targetNamespace="urn:rope:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:rope:s"
              xmlns:r="urn:rope" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:rope"><xs:element name="Tie" type="xs:int"/><xs:element name="Tied" type="xs:string"/>
                <xs:element name="Trace"><xs:complexType><xs:sequence><xs:element name="id" type="xs:token"/><xs:element name="hop" type="xs:int" minOccurs="0"/></xs:sequence></xs:complexType></xs:element></xs:schema></types>
              <message name="In"><part name="b" element="r:Tie"/></message><message name="Out"><part name="b" element="r:Tied"/></message><message name="H"><part name="t" element="r:Trace"/></message>
              <portType name="PT"><operation name="Tie"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="H" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Tie"><soap:operation soapAction="urn:tie"/><input><soap:header message="tns:H" part="t" use="literal"/><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Rope"><port name="Http" binding="tns:H"><soap:address location="http://127.0.0.1:%d/rope"/></port></service>
            </definitions>""";
    private static final String ANSWER =
            "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><r:Tied xmlns:r='urn:rope'>yes</r:Tied></e:Body></e:Envelope>";

    @TempDir
    private Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();
    private HttpServer server;
    private Path wsdl;
    private volatile String received = "";
    private volatile Headers asked;

    @BeforeEach
    void serve() throws Exception {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 5);
        server.createContext("/rope", exchange -> {
                    asked = exchange.getRequestHeaders();
                    received = exchange.getRequestHeaders().getFirst("X-Trace") + "\n"
                            + new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
                    byte[] answer = ANSWER.getBytes(StandardCharsets.UTF_8);
                    exchange.getResponseHeaders().add("Content-Type", "text/xml; charset=utf-8");
                    exchange.sendResponseHeaders(200, answer.length);
                    exchange.getResponseBody().write(answer);
                    exchange.close();
                })
                .setAuthenticator(new BasicAuthenticator("huts") {
                    @Override
                    public boolean checkCredentials(String user, String password) {
                        // a value that every test process has, in place of a password
                        return user.equals("anna") && password.equals(System.getenv("PATH"));
                    }
                });
        server.start();
        wsdl = Files.writeString(
                folder.resolve("rope.wsdl"), WSDL.formatted(server.getAddress().getPort()));
    }

    @AfterEach
    void close() {
        server.stop(0);
    }

    private int run(String... args) {
        out.reset();
        err.reset();
        return MockBellCommand.commandLine(new Console(
                        new PrintStream(out, true, StandardCharsets.UTF_8),
                        new PrintStream(err, true, StandardCharsets.UTF_8)))
                .execute(args);
    }

    private String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    @Test
    void aLoginIsGivenToTheEndpointThatAsksForIt() {
        assertThat(run("call", wsdl.toString(), "--operation", "Tie")).isNotZero();
        assertThat(err()).contains("status 401");
        assertThat(run("call", wsdl.toString(), "--operation", "Tie", "--user", "anna", "--password-env", "PATH"))
                .isZero();
        assertThat(out.toString(StandardCharsets.UTF_8)).contains("yes</r:Tied>");
        assertThat(err()).startsWith("status 200, ");
    }

    @Test
    void aProxyThatIsNamedIsUsedForAServiceOfThisMachineToo() {
        assertThat(anna("--proxy", "socks://127.0.0.1:1")).isEqualTo(4);
        assertThat(err()).contains("Nothing answers at the proxy 127.0.0.1:1").contains("that it runs");
        assertThat(received).isEmpty();
    }

    @Test
    void howItIsDeliveredIsAnOptionEach() {
        assertThat(anna(
                        "--addressing",
                        "1.0",
                        "--reply-to",
                        "http://127.0.0.1/there",
                        "--chunked",
                        "--expect-continue"))
                .as(err())
                .isZero();
        assertThat(received)
                .contains("http://www.w3.org/2005/08/addressing")
                .contains(">urn:tie</wsa:Action>")
                .contains("<wsa:Address>http://127.0.0.1/there<");
        assertThat(asked.getFirst("Transfer-encoding")).isEqualTo("chunked");
        assertThat(asked.getFirst("Expect")).isEqualToIgnoringCase("100-continue");
        assertThat(err()).contains("does not say which message it relates to");
        assertThat(anna("--charset", "ISO-8859-1", "--compress", "gzip"))
                .as(err())
                .isZero();
        assertThat(asked.getFirst("Content-Type")).isEqualTo("text/xml; charset=iso-8859-1");
        assertThat(asked.getFirst("Content-Encoding")).isEqualTo("gzip");
        assertThat(anna("--addressing", "2.0")).isEqualTo(2);
        assertThat(err()).contains("“2.0” is no choice for --addressing").contains("1.0, 2004/08");
        assertThat(anna("--charset", "UTF-99")).isEqualTo(2);
        assertThat(err()).contains("“UTF-99” is no encoding");
    }

    @Test
    void whatTheMessageCarriesIsAnOptionEach() throws Exception {
        assertThat(anna("--username-token", "digest", "--timestamp", "300"))
                .as(err())
                .isZero();
        assertThat(received)
                .contains("PasswordDigest")
                .contains(">anna<")
                .contains("Timestamp")
                .contains("Nonce");
        Certificates.rsa("client", folder);
        Certificates.rsa("service", folder);
        // a value that every test process has, in place of a password
        assertThat(run(
                        "call",
                        wsdl.toString(),
                        "--operation",
                        "Tie",
                        "--sign",
                        "token",
                        "--client-certificate",
                        folder.resolve("client.p12").toString(),
                        "--client-password-env",
                        "PATH"))
                .isEqualTo(2);
        assertThat(err()).contains("The client's certificate cannot be read").contains("client.p12");
        assertThat(anna(
                        "--encrypt",
                        "thumbprint",
                        "--cipher",
                        "aes128-gcm",
                        "--service-certificate",
                        folder.resolve("service.der").toString()))
                .as(err())
                .isZero();
        assertThat(received).contains("EncryptedData").contains("aes128-gcm").doesNotContain("Tie>");
        assertThat(anna("--encrypt", "thumbprint")).isEqualTo(2);
        assertThat(err()).contains("has no certificate of the service to encrypt for");
        assertThat(anna("--check-answer")).isEqualTo(4);
        assertThat(err()).contains("no security header");
        assertThat(run("call", wsdl.toString(), "--operation", "Tie", "--username-token", "text"))
                .isEqualTo(2);
        assertThat(err()).contains("Give --user NAME");
    }

    @Test
    void headersOfHttpAndOfSoapAreSent() {
        assertThat(run(
                        "call",
                        wsdl.toString(),
                        "--operation",
                        "Tie",
                        "--user",
                        "anna",
                        "--password-env",
                        "PATH",
                        "--header",
                        "X-Trace=on",
                        "--set",
                        "header::Trace/hop=3",
                        "--set",
                        "header::Trace/id=rope-1"))
                .isZero();
        assertThat(received)
                .startsWith("on\n")
                .contains("<soap:Header>")
                .contains("<hop>3</hop>")
                .contains("<id>rope-1</id>");
        assertThat(run("call", wsdl.toString(), "--operation", "Tie", "--header", "nothing"))
                .isEqualTo(2);
        assertThat(err()).contains("Write --header NAME=VALUE");
    }

    private int anna(String... more) {
        List<String> all = new ArrayList<>(
                List.of("call", wsdl.toString(), "--operation", "Tie", "--user", "anna", "--password-env", "PATH"));
        all.addAll(List.of(more));
        return run(all.toArray(String[]::new));
    }

    @Test
    void blocksOfFilesStandInTheHeaderADeclaredOneInItsPlace() throws Exception {
        Path file = Files.writeString(
                folder.resolve("h.xml"),
                "<r:Trace xmlns:r='urn:rope'><id>mine</id></r:Trace><n:Note xmlns:n='urn:note'>free</n:Note>");
        assertThat(anna("--soap-header", file.toString())).isZero();
        assertThat(received)
                .containsOnlyOnce(":Trace ")
                .contains("<id>mine</id>")
                .contains("<n:Note xmlns:n=\"urn:note\">free</n:Note>");
        assertThat(anna("--soap-header", folder.resolve("none.xml").toString())).isEqualTo(2);
        assertThat(err()).contains("The header's file is missing");
        Path envelope = Files.writeString(
                folder.resolve("e.xml"), "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'/>");
        assertThat(anna("--soap-header", file.toString(), "--body", envelope.toString()))
                .isEqualTo(2);
        assertThat(err()).contains("whole envelope, which has its header with it");
    }

    @Test
    void aRedirectIsFollowedWhenThatIsAskedFor() {
        String moved = "http://127.0.0.1:" + server.getAddress().getPort() + "/moved";
        server.createContext("/moved", exchange -> {
            exchange.getRequestBody().readAllBytes();
            exchange.getResponseHeaders().add("Location", "/rope");
            exchange.sendResponseHeaders(307, -1);
            exchange.close();
        });
        assertThat(anna("--endpoint", moved)).isEqualTo(4);
        assertThat(err()).contains("status 307");
        assertThat(received).isEmpty();
        assertThat(anna("--endpoint", moved, "--follow")).isZero();
        assertThat(received).contains(":Tie");
        assertThat(out.toString(StandardCharsets.UTF_8)).contains("yes</r:Tied>");
    }

    @Test
    void partsBesideTheEnvelopeAreSaved() {
        String parts = "http://127.0.0.1:" + server.getAddress().getPort() + "/parts";
        byte[] answer = ("--b\r\n\r\n" + ANSWER
                        + "\r\n--b\r\nContent-ID: <map@huts>\r\nContent-Type: image/png\r\n\r\nmap\r\n--b--")
                .getBytes(StandardCharsets.UTF_8);
        server.createContext("/parts", exchange -> {
            exchange.getRequestBody().readAllBytes();
            exchange.getResponseHeaders().add("Content-Type", "multipart/related; boundary=b; type=\"text/xml\"");
            exchange.sendResponseHeaders(200, answer.length);
            exchange.getResponseBody().write(answer);
            exchange.close();
        });
        Path kept = folder.resolve("kept");
        assertThat(anna("--endpoint", parts, "--save-parts", kept.toString())).isZero();
        assertThat(kept.resolve("map@huts.png")).hasContent("map");
        assertThat(err()).contains("Saved ").contains("map@huts.png");
        assertThat(anna("--save-parts", kept.toString())).isZero();
        assertThat(err()).contains("There are no parts to save.");
    }

    @Test
    void aFileGoesBesideTheEnvelope() throws Exception {
        Path map = Files.writeString(folder.resolve("map.png"), "map of the huts");
        assertThat(anna("--attach", "map=" + map)).isZero();
        assertThat(received)
                .contains("Content-ID: <map>\r\n\r\nmap of the huts\r\n--")
                .contains("Content-Type: image/png")
                .contains(":Tie");
        assertThat(anna("--attach", "map=" + folder.resolve("none"))).isEqualTo(2);
        assertThat(err()).contains("The file of the part map cannot be read");
    }

    @Test
    void aBodyOfAFileKeepsTheHeaderBlocksUnlessItIsAnEnvelope() throws Exception {
        Path body = Files.writeString(folder.resolve("b.xml"), "<r:Tie xmlns:r='urn:rope'>7</r:Tie>");
        String[] call = {
            "call",
            wsdl.toString(),
            "--operation",
            "Tie",
            "--user",
            "anna",
            "--password-env",
            "PATH",
            "--body",
            body.toString()
        };
        assertThat(run(call)).isZero();
        assertThat(received).contains("<soap:Header>").contains(">7</r:Tie>");
        Files.writeString(
                body,
                "<?xml version='1.0'?><!-- mine --><e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><r:Tie xmlns:r='urn:rope'>8</r:Tie></e:Body></e:Envelope>");
        assertThat(run(call)).isZero();
        assertThat(received).doesNotContain("soap:Header").containsOnlyOnce("Envelope xmlns:e");
    }

    @Test
    void aProfileOfTheProjectIsUsedAndWhatTheServerAskedIsOnTheLedgerToo() {
        Path project = folder.resolve("p");
        run("contract", "import", wsdl.toString(), "--project", project.toString(), "--name", "rope");
        ProjectStore store = new ProjectStore();
        Project opened = store.open(project)
                .withProfile(Profile.named("Anna").with(new Profile.Who(Profile.Way.WHEN_ASKED, "anna", "{$word}")))
                .withSecurity("rope", "Http", "Anna")
                .withEnvironmentVariables(List.of(new Variable("word", System.getenv("PATH"), false)));
        store.saveSettings(opened);
        assertThat(run("call", project.toString(), "--operation", "Tie"))
                .as(err())
                .isZero();
        assertThat(store.open(project).settings().profiles()).hasSize(1);
        assertThat(run("call", project.toString(), "--operation", "Tie", "--profile", "Nobody"))
                .isEqualTo(2);
        assertThat(err()).contains("no security profile “Nobody”");
        assertThat(run("call", wsdl.toString(), "--operation", "Tie", "--profile", "Anna"))
                .isEqualTo(2);
        assertThat(err()).contains("Security profiles are kept in projects");
        try (var ledger = ProjectStore.openLedger(new ProjectStore().open(project), note -> {})) {
            assertThat(ledger.list(dev.mockbell.ledger.LedgerFilter.ALL, 10))
                    .extracting(l -> l.status())
                    .containsExactlyInAnyOrder(200, 401);
        }
    }
}
