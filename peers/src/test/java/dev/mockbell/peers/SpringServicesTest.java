package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.content.Content;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.request.Attachment;
import dev.mockbell.request.Delivery;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import dev.mockbell.soap.Addressing;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.Sent;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import org.apache.wss4j.common.crypto.CryptoFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.ws.soap.security.wss4j2.Wss4jSecurityInterceptor;
import org.springframework.ws.soap.security.wss4j2.callback.KeyStoreCallbackHandler;
import org.springframework.ws.soap.security.wss4j2.callback.SimplePasswordValidationCallbackHandler;

/** Services on Spring Web Services in Tomcat, with all that they can ask for. */
class SpringServicesTest {
    private static final String PASSWORD = "changeit";

    @TempDir
    private static Path folder;

    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();

    @BeforeAll
    static void keys() throws Exception {
        Certificates.of("localhost", folder);
        X509Certificate client = Certificates.rsa("client", folder);
        Certificates.rsa("service", folder);
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry("client", client);
        try (OutputStream out = Files.newOutputStream(folder.resolve("trusted.p12"))) {
            trusted.store(out, PASSWORD.toCharArray());
        }
        KeyStore localhost =
                KeyStore.getInstance(folder.resolve("localhost.p12").toFile(), PASSWORD.toCharArray());
        Files.write(
                folder.resolve("localhost.der"),
                localhost.getCertificate("test").getEncoded());
    }

    @AfterEach
    void close() {
        http.close();
    }

    private Exchange call(SpringPeer made, Profile profile, Delivery delivery, List<Attachment> parts) {
        try (SpringPeer peer = made) {
            Connect by = profile.on(
                    Connect.USUAL, dev.mockbell.expression.Braces::literal, java.net.URI.create(peer.wsdl()), folder);
            HttpCaller reading = new HttpCaller(by.withLogin(Optional.empty()));
            HttpFetcher fetcher = new HttpFetcher(() -> reading, ReadLimits.USUAL, LoginAsker.NONE);
            Contract contract = new ContractReader(fetcher).read(peer.wsdl(), Progress.NONE, new StopSignal());
            reading.close();
            Port port = contract.soapPorts().get(0);
            BoundOperation bound =
                    new BoundOperation(port, port.binding().operation("Copy").orElseThrow());
            Case sample = Case.ofSample("", "", "maps", contract, bound, Detail.STARTING);
            Case kept = parts.isEmpty()
                    ? sample
                    : sample.withBody(sample.body().replaceAll("(<(\\w+:)?map>)[^<]*<", "$1cid:map@huts<"));
            CallSetup setup = new CallSetup(
                    contract,
                    bound,
                    kept.withDelivery(delivery),
                    Optional.empty(),
                    Scope.EMPTY,
                    Optional.of(profile),
                    folder,
                    parts,
                    CallRequest.USUAL_TIMEOUT);
            CaseCaller caller = new CaseCaller(http, expressions);
            Sent sent = caller.send(caller.prepare(setup), "test", new StopSignal());
            return sent.answer(MessageOutline.ofAnswer(contract, bound.operation()), expressions)
                    .exchange();
        }
    }

    private Exchange call(SpringPeer made, Profile profile) {
        return call(made, profile, Delivery.USUAL, List.of());
    }

    private static final Profile NOBODY = Profile.named("Nobody");

    private static SpringPeer peer(boolean soap12, SpringPeer.Asking asking) throws Exception {
        return SpringPeer.start(folder, soap12, false, asking);
    }

    private static void isFine(Exchange exchange) {
        assertThat(exchange.outcome()).as(exchange.note()).isEqualTo(Outcome.FINE);
        assertThat(exchange.response().orElseThrow().text()).contains("CopyResponse");
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void aSampleIsTakenByBothVersions(boolean soap12) throws Exception {
        isFine(call(peer(soap12, SpringPeer.Asking.NOTHING), NOBODY));
    }

    @Test
    void whatComesCompressedIsRead() throws Exception {
        Exchange sent = call(peer(false, SpringPeer.Asking.compression()), NOBODY);
        isFine(sent);
        assertThat(sent.response().orElseThrow().header("Content-Encoding")).contains("gzip");
    }

    @Test
    void basicAndDigestAreAnsweredAndWrongPasswordsAreNot() throws Exception {
        Profile anna = NOBODY.with(new Profile.Who(Profile.Way.WHEN_ASKED, "anna", "open sesame"));
        isFine(call(peer(false, SpringPeer.Asking.basic()), anna));
        isFine(call(peer(true, SpringPeer.Asking.digest()), anna));
        Profile wrong = NOBODY.with(new Profile.Who(Profile.Way.WHEN_ASKED, "anna", "wrong"));
        assertThat(call(peer(false, SpringPeer.Asking.basic()), wrong).status()).isEqualTo(401);
        assertThat(call(peer(false, SpringPeer.Asking.digest()), wrong).status())
                .isEqualTo(401);
    }

    @Test
    void aClientCertificateIsShown() throws Exception {
        Profile client = NOBODY.with(new Profile.Trusted(List.of(), List.of("localhost.der")))
                .with(new Profile.Own("client.p12", PASSWORD));
        Exchange sent = call(peer(false, SpringPeer.Asking.certificate(folder)), client);
        isFine(sent);
        assertThat(sent.secured()).isPresent();
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void aPartIsTakenAsOne(boolean soap12) throws Exception {
        Attachment map = new Attachment(
                "map@huts",
                "image/png",
                Content.of("map of the huts".repeat(900).getBytes(StandardCharsets.UTF_8)));
        Exchange sent = call(peer(soap12, SpringPeer.Asking.NOTHING), NOBODY, Delivery.USUAL, List.of(map));
        isFine(sent);
        assertThat(sent.response().orElseThrow().text()).contains(":part>true<");
        Exchange inline =
                call(peer(soap12, SpringPeer.Asking.NOTHING), NOBODY, Delivery.USUAL.inliningUpTo(64), List.of(map));
        isFine(inline);
        assertThat(inline.response().orElseThrow().text()).contains(":part>false<");
    }

    @ParameterizedTest
    @EnumSource(
            value = Addressing.class,
            names = {"V10", "V200408"})
    void theActionLeadsToTheOperationAndTheAnswerRelatesToTheRequest(Addressing addressing) throws Exception {
        for (boolean soap12 : new boolean[] {false, true}) {
            Exchange sent = call(
                    SpringPeer.start(folder, soap12, true, SpringPeer.Asking.NOTHING),
                    NOBODY,
                    Delivery.USUAL.with(addressing),
                    List.of());
            isFine(sent);
            assertThat(sent.note()).isEmpty();
            assertThat(sent.response().orElseThrow().text()).contains("RelatesTo");
        }
    }

    @ParameterizedTest
    @EnumSource(value = Token.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aUsernameTokenIsTaken(Token token) throws Exception {
        Profile anna = NOBODY.with(new Profile.Who(Profile.Way.NONE, "anna", "open sesame"))
                .with(Protection.NONE.with(token));
        isFine(call(SpringPeer.start(folder, false, false, SpringPeer.Asking.NOTHING, naming()), anna));
        Profile wrong = anna.with(new Profile.Who(Profile.Way.NONE, "anna", "wrong"));
        assertThat(call(SpringPeer.start(folder, false, false, SpringPeer.Asking.NOTHING, naming()), wrong)
                        .outcome())
                .isEqualTo(Outcome.FAULT);
    }

    private static Wss4jSecurityInterceptor naming() throws Exception {
        SimplePasswordValidationCallbackHandler users = new SimplePasswordValidationCallbackHandler();
        users.setUsersMap(Map.of("anna", "open sesame"));
        Wss4jSecurityInterceptor interceptor = new Wss4jSecurityInterceptor();
        interceptor.setValidationActions("UsernameToken");
        interceptor.setValidationCallbackHandler(users);
        interceptor.afterPropertiesSet();
        return interceptor;
    }

    private static Wss4jSecurityInterceptor sealing() throws Exception {
        Properties keys = new Properties();
        keys.put("org.apache.wss4j.crypto.provider", "org.apache.wss4j.common.crypto.Merlin");
        keys.put(
                "org.apache.wss4j.crypto.merlin.keystore.file",
                folder.resolve("service.p12").toString());
        keys.put("org.apache.wss4j.crypto.merlin.keystore.type", "PKCS12");
        keys.put("org.apache.wss4j.crypto.merlin.keystore.password", PASSWORD);
        keys.put(
                "org.apache.wss4j.crypto.merlin.truststore.file",
                folder.resolve("trusted.p12").toString());
        keys.put("org.apache.wss4j.crypto.merlin.truststore.type", "PKCS12");
        keys.put("org.apache.wss4j.crypto.merlin.truststore.password", PASSWORD);
        var crypto = CryptoFactory.getInstance(keys);
        KeyStoreCallbackHandler opening = new KeyStoreCallbackHandler();
        opening.setPrivateKeyPassword(PASSWORD);
        Wss4jSecurityInterceptor interceptor = new Wss4jSecurityInterceptor();
        interceptor.setValidationActions("Timestamp Signature Encrypt");
        interceptor.setValidationSignatureCrypto(crypto);
        interceptor.setValidationDecryptionCrypto(crypto);
        interceptor.setValidationCallbackHandler(opening);
        // it cannot encrypt with the SAAJ that comes with the other stacks here
        interceptor.setSecurementActions("Timestamp Signature");
        interceptor.setSecurementSignatureCrypto(crypto);
        interceptor.setSecurementSignatureUser("test");
        interceptor.setSecurementPassword(PASSWORD);
        interceptor.setSecurementSignatureKeyIdentifier("DirectReference");
        interceptor.afterPropertiesSet();
        return interceptor;
    }

    @ParameterizedTest
    @EnumSource(
            value = Cipher.class,
            names = {"AES256_GCM", "AES128_CBC"})
    void whatIsSignedAndEncryptedIsTakenAndTheAnswersSignatureHolds(Cipher cipher) throws Exception {
        Profile client = NOBODY.with(new Profile.Own("client.p12", PASSWORD))
                .with(Protection.NONE
                        .living(300)
                        .with(new Protection.Signature(KeyName.TOKEN, List.of()))
                        .with(new Protection.Encryption(KeyName.ISSUER_SERIAL, cipher))
                        .facing("service.der", true));
        for (boolean soap12 : new boolean[] {false, true}) {
            Exchange sent = call(SpringPeer.start(folder, soap12, false, SpringPeer.Asking.NOTHING, sealing()), client);
            isFine(sent);
            assertThat(sent.note()).contains("signed by CN=service");
            assertThat(sent.request().text()).contains("EncryptedData");
        }
    }
}
