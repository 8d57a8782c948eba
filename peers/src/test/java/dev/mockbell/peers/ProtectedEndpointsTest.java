package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.Trust;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.zip.GZIPOutputStream;
import org.eclipse.jetty.security.Authenticator;
import org.eclipse.jetty.security.Constraint;
import org.eclipse.jetty.security.HashLoginService;
import org.eclipse.jetty.security.SecurityHandler;
import org.eclipse.jetty.security.UserStore;
import org.eclipse.jetty.security.authentication.BasicAuthenticator;
import org.eclipse.jetty.security.authentication.DigestAuthenticator;
import org.eclipse.jetty.server.Handler;
import org.eclipse.jetty.server.HttpConfiguration;
import org.eclipse.jetty.server.HttpConnectionFactory;
import org.eclipse.jetty.server.Request;
import org.eclipse.jetty.server.Response;
import org.eclipse.jetty.server.SecureRequestCustomizer;
import org.eclipse.jetty.server.Server;
import org.eclipse.jetty.server.ServerConnector;
import org.eclipse.jetty.server.handler.gzip.GzipHandler;
import org.eclipse.jetty.util.Callback;
import org.eclipse.jetty.util.security.Credential;
import org.eclipse.jetty.util.ssl.SslContextFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A server that others wrote asks who is there, in each of the ways of HTTP and TLS. */
class ProtectedEndpointsTest {
    private static final String PASSWORD = "changeit";

    @TempDir
    private static Path folder;

    private final HttpCaller http = new HttpCaller();
    private final Server server = new Server();

    @BeforeAll
    static void keys() throws Exception {
        Certificates.of("elsewhere.northfell.example", folder);
        Certificates.of("localhost", folder);
        Certificates.of("anna", folder);
    }

    @AfterEach
    void close() throws Exception {
        http.close();
        server.stop();
    }

    private static KeyStore store(String name) throws Exception {
        return KeyStore.getInstance(folder.resolve(name + ".p12").toFile(), PASSWORD.toCharArray());
    }

    private static X509Certificate certificate(String name) throws Exception {
        return (X509Certificate) store(name).getCertificate("test");
    }

    private static final class Echo extends Handler.Abstract {
        @Override
        public boolean handle(Request request, Response response, Callback callback) throws Exception {
            String body = Content.of(org.eclipse.jetty.io.Content.Source.asInputStream(request)
                            .readAllBytes())
                    .text(StandardCharsets.UTF_8);
            org.eclipse.jetty.io.Content.Sink.write(response, true, "echo " + body, callback);
            return true;
        }
    }

    private String plain(Authenticator authenticator) throws Exception {
        UserStore users = new UserStore();
        users.addUser("anna", Credential.getCredential("hoy: \"pass\""), new String[] {"guest"});
        users.addUser("åse", Credential.getCredential("høy: \"pass\""), new String[] {"guest"});
        HashLoginService logins = new HashLoginService("huts");
        logins.setUserStore(users);
        SecurityHandler.PathMapped guard = new SecurityHandler.PathMapped();
        guard.put("/*", Constraint.ANY_USER);
        guard.setLoginService(logins);
        guard.setAuthenticator(authenticator);
        guard.setHandler(new Echo());
        return start(guard, new ServerConnector(server), "http");
    }

    private String secure(String name, boolean asksBack) throws Exception {
        SslContextFactory.Server tls = new SslContextFactory.Server();
        tls.setKeyStore(store(name));
        tls.setKeyStorePassword(PASSWORD);
        HttpConfiguration anyHost = new HttpConfiguration();
        anyHost.addCustomizer(new SecureRequestCustomizer(false));
        if (asksBack) {
            KeyStore trusted = KeyStore.getInstance("PKCS12");
            trusted.load(null, null);
            trusted.setCertificateEntry("anna", certificate("anna"));
            tls.setTrustStore(trusted);
            tls.setNeedClientAuth(true);
        }
        return start(new Echo(), new ServerConnector(server, tls, new HttpConnectionFactory(anyHost)), "https");
    }

    private String start(Handler handler, ServerConnector connector, String scheme) throws Exception {
        connector.setHost("127.0.0.1");
        server.addConnector(connector);
        server.setHandler(handler);
        server.start();
        return scheme + "://localhost:" + connector.getLocalPort() + "/huts?a=b";
    }

    private List<CallResult> call(String address, Connect by) {
        CallRequest request = new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml")),
                Content.of("<a/>".getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(20));
        return http.converse(request, by, new StopSignal());
    }

    private static Connect as(Login login) {
        return Connect.USUAL.withLogin(Optional.of(login));
    }

    private static int status(CallResult result) {
        assertThat(result.failure()).isEmpty();
        return result.response().orElseThrow().status();
    }

    @Test
    void bothSidesMayCompress() throws Exception {
        GzipHandler gzip = new GzipHandler();
        gzip.setMinGzipSize(0);
        gzip.addIncludedMethods("POST");
        gzip.setInflateBufferSize(8_192);
        gzip.setHandler(new Echo());
        String address = start(gzip, new ServerConnector(server), "http");
        ByteArrayOutputStream coded = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(coded)) {
            out.write("<a>compressed</a>".getBytes(StandardCharsets.UTF_8));
        }
        CallRequest request = new CallRequest(
                "POST",
                URI.create(address),
                List.of(new Header("Content-Type", "text/xml"), new Header("Content-Encoding", "gzip")),
                Content.of(coded.toByteArray()),
                Duration.ofSeconds(20));
        CallResult result = http.call(request, new StopSignal());
        assertThat(result.whyNot()).isEmpty();
        assertThat(result.response().orElseThrow().header("Content-Encoding")).contains("gzip");
        assertThat(result.response().orElseThrow().text()).isEqualTo("echo <a>compressed</a>");
        assertThat(result.request().text()).isEqualTo("<a>compressed</a>");
    }

    @Test
    void basicIsAnsweredWhenItIsAskedForAndGivenAtOnceByChoice() throws Exception {
        BasicAuthenticator utf8 = new BasicAuthenticator();
        utf8.setCharset(StandardCharsets.UTF_8);
        String address = plain(utf8);
        List<CallResult> asked = call(address, as(new Login.WhenAsked("åse", "høy: \"pass\"")));
        assertThat(asked).extracting(ProtectedEndpointsTest::status).containsExactly(401, 200);
        assertThat(asked.get(1).response().orElseThrow().text()).isEqualTo("echo <a/>");
        List<CallResult> atOnce = call(address, as(new Login.Basic("åse", "høy: \"pass\"")));
        assertThat(atOnce).extracting(ProtectedEndpointsTest::status).containsExactly(200);
        assertThat(call(address, as(new Login.WhenAsked("åse", "wrong"))))
                .extracting(ProtectedEndpointsTest::status)
                .containsExactly(401, 401);
        assertThat(call(address, Connect.USUAL))
                .extracting(ProtectedEndpointsTest::status)
                .containsExactly(401);
    }

    @Test
    void digestIsAnsweredWithoutThePasswordOnTheWire() throws Exception {
        String address = plain(new DigestAuthenticator());
        List<CallResult> asked = call(address, as(new Login.WhenAsked("anna", "hoy: \"pass\"")));
        assertThat(asked).extracting(ProtectedEndpointsTest::status).containsExactly(401, 200);
        assertThat(asked.get(1).request().wire().text(StandardCharsets.UTF_8))
                .contains("Authorization: Digest ")
                .doesNotContain("pass\"\"")
                .doesNotContain(Base64.getEncoder().encodeToString("anna".getBytes(StandardCharsets.UTF_8)));
        assertThat(call(address, as(new Login.WhenAsked("anna", "wrong"))))
                .extracting(ProtectedEndpointsTest::status)
                .containsExactly(401, 401);
    }

    @Test
    void aCertificateThatNobodyIssuedIsShownWholeAndTrustedByItsFingerprint() throws Exception {
        String address = secure("elsewhere.northfell.example", false);
        String failure = call(address, Connect.USUAL).get(0).failure().orElseThrow();
        String fingerprint = Trust.fingerprint(certificate("elsewhere.northfell.example"));
        assertThat(failure)
                .contains("is not trusted: it is issued by itself")
                .contains("CN=elsewhere.northfell.example")
                .contains(fingerprint);
        Trust pinned = new Trust(Set.of(fingerprint.toLowerCase(java.util.Locale.ROOT)), List.of(), Optional.empty());
        assertThat(call(address, Connect.USUAL.with(pinned)))
                .extracting(ProtectedEndpointsTest::status)
                .containsExactly(200);
        Trust other = new Trust(Set.of("0".repeat(64)), List.of(), Optional.empty());
        assertThat(call(address, Connect.USUAL.with(other)).get(0).failure()).isPresent();
    }

    @Test
    void anAuthorityOfOnesOwnIsTrustedForItsHostsAlone() throws Exception {
        Path pem = pem("localhost", false);
        Connect by = Connect.USUAL.with(new Trust(Set.of(), List.of(pem), Optional.empty()));
        assertThat(call(secure("localhost", false), by))
                .extracting(ProtectedEndpointsTest::status)
                .containsExactly(200);
    }

    @Test
    void aCertificateForAnotherHostIsToldAsThat() throws Exception {
        Path pem = pem("elsewhere.northfell.example", false);
        Connect by = Connect.USUAL.with(new Trust(Set.of(), List.of(pem), Optional.empty()));
        assertThat(call(secure("elsewhere.northfell.example", false), by).get(0).failure())
                .hasValueSatisfying(f -> assertThat(f).contains("localhost").contains("elsewhere"));
    }

    @Test
    void aClientProvesItselfByPkcs12AndByPem() throws Exception {
        String address = secure("localhost", true);
        Path authority = pem("localhost", false);
        assertThat(call(address, Connect.USUAL.with(new Trust(Set.of(), List.of(authority), Optional.empty())))
                        .get(0)
                        .failure())
                .isPresent();
        for (ClientKey key :
                List.of(new ClientKey(folder.resolve("anna.p12"), PASSWORD), new ClientKey(pem("anna", true), ""))) {
            Trust trust = new Trust(Set.of(), List.of(authority), Optional.of(key));
            assertThat(call(address, Connect.USUAL.with(trust)))
                    .as("%s", key)
                    .extracting(ProtectedEndpointsTest::status)
                    .containsExactly(200);
        }
    }

    private static Path pem(String name, boolean withKey) throws Exception {
        StringBuilder text = new StringBuilder("what stands here is for people\n");
        if (withKey) {
            text.append(block(
                    "PRIVATE KEY",
                    store(name).getKey("test", PASSWORD.toCharArray()).getEncoded()));
        }
        text.append(block("CERTIFICATE", certificate(name).getEncoded()));
        return Files.writeString(folder.resolve(name + ".pem"), text);
    }

    private static String block(String kind, byte[] bytes) {
        return "-----BEGIN " + kind + "-----\n" + Base64.getMimeEncoder().encodeToString(bytes) + "\n-----END " + kind
                + "-----\n";
    }
}
