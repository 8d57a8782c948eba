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
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.Sent;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import java.io.FileOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.stream.Stream;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import org.apache.wss4j.common.ConfigurationConstants;
import org.apache.wss4j.common.ext.WSPasswordCallback;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** A service that others wrote demands WS-Security and takes what profiles put into messages, and nothing else. */
class SecuredMessagesTest {
    private static final String PASSWORD = "changeit";

    @TempDir
    private static Path folder;

    private final HttpCaller http = new HttpCaller();
    private final Expressions expressions = new Expressions();

    @BeforeAll
    static void keys() throws Exception {
        Certificates.of("anna", folder);
        Certificates.of("berit", folder);
        X509Certificate client = Certificates.rsa("client", folder);
        Certificates.rsa("service", folder);
        Certificates.rsa("other", folder);
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry(
                "anna",
                KeyStore.getInstance(folder.resolve("anna.p12").toFile(), PASSWORD.toCharArray())
                        .getCertificate("test"));
        trusted.setCertificateEntry("client", client);
        try (OutputStream out =
                new FileOutputStream(folder.resolve("trusted.p12").toFile())) {
            trusted.store(out, PASSWORD.toCharArray());
        }
    }

    @AfterEach
    void close() {
        http.close();
    }

    private static Map<String, Object> asking(String actions) {
        Map<String, Object> asked = new HashMap<>();
        asked.put(ConfigurationConstants.ACTION, actions);
        asked.put(ConfigurationConstants.PW_CALLBACK_REF, (CallbackHandler) callbacks -> {
            for (Callback callback : callbacks) {
                if (callback instanceof WSPasswordCallback asks && "anna".equals(asks.getIdentifier())) {
                    asks.setPassword("høy <1>");
                }
            }
        });
        Properties crypto = new Properties();
        crypto.put("org.apache.wss4j.crypto.provider", "org.apache.wss4j.common.crypto.Merlin");
        crypto.put(
                "org.apache.wss4j.crypto.merlin.truststore.file",
                folder.resolve("trusted.p12").toString());
        crypto.put("org.apache.wss4j.crypto.merlin.truststore.type", "PKCS12");
        crypto.put("org.apache.wss4j.crypto.merlin.truststore.password", PASSWORD);
        asked.put(ConfigurationConstants.SIG_VER_PROP_REF_ID, "crypto");
        asked.put("crypto", crypto);
        return asked;
    }

    private Outcome call(Object service, String actions, Profile profile) {
        return exchange(Peer.cxf(service, asking(actions)), service, profile).outcome();
    }

    private Exchange exchange(Peer made, Object service, Profile profile) {
        try (Peer peer = made) {
            HttpFetcher fetcher = new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE);
            Contract contract = new ContractReader(fetcher).read(peer.wsdl(), Progress.NONE, new StopSignal());
            Port port = contract.soapPorts().get(0);
            BoundOperation bound = new BoundOperation(
                    port,
                    port.binding()
                            .operation(service instanceof Bare ? "toFeet" : "areas")
                            .orElseThrow());
            Case kept = Case.ofSample("", "", "peer", contract, bound, Detail.REQUIRED);
            CaseCaller caller = new CaseCaller(http, expressions);
            CallSetup setup = new CallSetup(
                    contract,
                    bound,
                    kept,
                    Optional.empty(),
                    Scope.EMPTY,
                    Optional.of(profile),
                    folder,
                    List.of(),
                    CallRequest.USUAL_TIMEOUT);
            Sent sent = caller.send(caller.prepare(setup), "test", new StopSignal());
            return sent.answer(MessageOutline.ofAnswer(contract, bound.operation()), expressions)
                    .exchange();
        }
    }

    private static Protection protection(Token token, int life, KeyName name) {
        return Protection.NONE.with(token).living(life).with(new Protection.Signature(name, List.of()));
    }

    private static Profile anna() {
        return Profile.named("Anna").with(new Profile.Who(Profile.Way.NONE, "anna", "høy <1>"));
    }

    @ParameterizedTest
    @EnumSource(value = Token.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aUsernameTokenIsTakenAndAWrongPasswordIsNot(Token token) {
        assertThat(call(new Wrapped(), "UsernameToken", anna().with(protection(token, 0, KeyName.NONE))))
                .isEqualTo(Outcome.FINE);
        assertThat(call(new Bare(), "UsernameToken", anna().with(protection(token, 0, KeyName.NONE))))
                .as("SOAP 1.2")
                .isEqualTo(Outcome.FINE);
        Profile wrong = anna().with(new Profile.Who(Profile.Way.NONE, "anna", "wrong"))
                .with(protection(token, 0, KeyName.NONE));
        assertThat(call(new Wrapped(), "UsernameToken", wrong)).isEqualTo(Outcome.FAULT);
    }

    @Test
    void aTimestampIsTaken() {
        assertThat(call(new Wrapped(), "Timestamp", anna().with(protection(Token.NONE, 300, KeyName.NONE))))
                .isEqualTo(Outcome.FINE);
        assertThat(call(new Wrapped(), "Timestamp", anna())).isEqualTo(Outcome.FAULT);
    }

    @ParameterizedTest
    @EnumSource(value = KeyName.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aSignatureIsTakenHoweverItNamesItsKeyAndAStrangersIsNot(KeyName name) {
        Profile signing = anna().with(new Profile.Own("anna.p12", PASSWORD)).with(protection(Token.NONE, 300, name));
        assertThat(call(new Wrapped(), "Timestamp Signature", signing)).isEqualTo(Outcome.FINE);
        assertThat(call(new Bare(), "Timestamp Signature", signing))
                .as("SOAP 1.2")
                .isEqualTo(Outcome.FINE);
        Profile stranger = signing.with(new Profile.Own("berit.p12", PASSWORD));
        assertThat(call(new Wrapped(), "Timestamp Signature", stranger)).isEqualTo(Outcome.FAULT);
    }

    @Test
    void allOfItTogether() {
        Profile all =
                anna().with(new Profile.Own("anna.p12", PASSWORD)).with(protection(Token.DIGEST, 300, KeyName.TOKEN));
        assertThat(call(new Wrapped(), "UsernameToken Timestamp Signature", all))
                .isEqualTo(Outcome.FINE);
    }

    /** The service's own keys, and certificates of clients. */
    private static Properties serviceKeys() {
        Properties crypto = new Properties();
        crypto.put("org.apache.wss4j.crypto.provider", "org.apache.wss4j.common.crypto.Merlin");
        crypto.put(
                "org.apache.wss4j.crypto.merlin.keystore.file",
                folder.resolve("service.p12").toString());
        crypto.put("org.apache.wss4j.crypto.merlin.keystore.type", "PKCS12");
        crypto.put("org.apache.wss4j.crypto.merlin.keystore.password", PASSWORD);
        crypto.put("org.apache.wss4j.crypto.merlin.keystore.alias", "test");
        crypto.put(
                "org.apache.wss4j.crypto.merlin.truststore.file",
                folder.resolve("trusted.p12").toString());
        crypto.put("org.apache.wss4j.crypto.merlin.truststore.type", "PKCS12");
        crypto.put("org.apache.wss4j.crypto.merlin.truststore.password", PASSWORD);
        return crypto;
    }

    private static Map<String, Object> securing(String actions) {
        Map<String, Object> said = new HashMap<>();
        said.put(ConfigurationConstants.ACTION, actions);
        said.put("crypto", serviceKeys());
        said.put(ConfigurationConstants.SIG_PROP_REF_ID, "crypto");
        said.put(ConfigurationConstants.SIG_VER_PROP_REF_ID, "crypto");
        said.put(ConfigurationConstants.ENC_PROP_REF_ID, "crypto");
        said.put(ConfigurationConstants.DEC_PROP_REF_ID, "crypto");
        said.put(ConfigurationConstants.SIGNATURE_USER, "test");
        said.put(ConfigurationConstants.ENCRYPTION_USER, "useReqSigCert");
        said.put(ConfigurationConstants.SIG_KEY_ID, "DirectReference");
        said.put(ConfigurationConstants.ENC_KEY_ID, "Thumbprint");
        said.put(ConfigurationConstants.ALLOW_RSA15_KEY_TRANSPORT_ALGORITHM, "true");
        said.put(ConfigurationConstants.PW_CALLBACK_REF, (CallbackHandler) callbacks -> {
            for (Callback callback : callbacks) {
                if (callback instanceof WSPasswordCallback asks) {
                    asks.setPassword(PASSWORD);
                }
            }
        });
        return said;
    }

    private static final String BOTH = "Timestamp Signature Encryption";

    private static Profile client(KeyName name, Cipher cipher) {
        return Profile.named("Client")
                .with(new Profile.Own("client.p12", PASSWORD))
                .with(Protection.NONE
                        .living(300)
                        .with(new Protection.Signature(KeyName.TOKEN, List.of("*")))
                        .with(new Protection.Encryption(name, cipher))
                        .facing("service.der", true));
    }

    static Stream<Arguments> encryptions() {
        return Stream.concat(
                Stream.of(KeyName.values()).filter(n -> n != KeyName.NONE).map(n -> Arguments.of(n, Cipher.AES256_GCM)),
                Stream.of(Cipher.values()).map(c -> Arguments.of(KeyName.THUMBPRINT, c)));
    }

    @ParameterizedTest
    @MethodSource("encryptions")
    void whatIsSignedAndEncryptedIsTakenAndTheAnswerIsReadAndJudged(KeyName name, Cipher cipher) {
        for (Object service : List.of(new Wrapped(), new Bare())) {
            Exchange sent =
                    exchange(Peer.cxfBothWays(service, securing(BOTH), securing(BOTH)), service, client(name, cipher));
            assertThat(sent.outcome()).as(sent.note()).isEqualTo(Outcome.FINE);
            assertThat(sent.note()).contains("signed by CN=service").contains("decrypted");
            assertThat(sent.request().text()).contains("EncryptedData").contains("CipherValue");
            String wire = sent.response().orElseThrow().wire().text(StandardCharsets.UTF_8);
            assertThat(wire).contains("EncryptedData");
            assertThat(SoapMessage.of(sent.response().orElseThrow(), "answer").payload())
                    .hasValueSatisfying(p -> assertThat(p.getNamespaceURI()).startsWith("urn:"));
        }
    }

    @Test
    void anAnswerOfAnotherIsNotTakenAndTheReasonIsSaid() {
        Profile stranger = client(KeyName.THUMBPRINT, Cipher.AES256_GCM);
        Profile other =
                stranger.with(stranger.message().facing("other.der", true).with(Protection.Encryption.NONE));
        Exchange sent = exchange(
                Peer.cxfBothWays(new Wrapped(), securing("Timestamp Signature"), securing("Timestamp Signature")),
                new Wrapped(),
                other);
        assertThat(sent.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(sent.note()).contains("signed by somebody whom the profile does not trust");
        assertThat(sent.response()).as("what came is kept").isPresent();
    }

    @Test
    void anAnswerWithoutAnySecurityIsNotTakenWhereItIsAskedFor() {
        Profile asking = client(KeyName.THUMBPRINT, Cipher.AES256_GCM);
        Exchange sent = exchange(Peer.cxf(new Wrapped(), securing(BOTH)), new Wrapped(), asking);
        assertThat(sent.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(sent.note()).contains("no security header");
        Exchange timestamp =
                exchange(Peer.cxfBothWays(new Wrapped(), securing(BOTH), securing("Timestamp")), new Wrapped(), asking);
        assertThat(timestamp.note()).contains("The answer is not signed");
    }

    @Test
    void anAnswerThatIsEncryptedForAnotherSaysWhatIsMissing() {
        Map<String, Object> forOther = securing("Encryption");
        forOther.put(ConfigurationConstants.ENCRYPTION_USER, "client");
        Profile berit = Profile.named("Berit")
                .with(new Profile.Own("other.p12", PASSWORD))
                .with(Protection.NONE.facing("", true));
        Exchange sent = exchange(
                Peer.cxfBothWays(new Wrapped(), Map.of(ConfigurationConstants.ACTION, "NoSecurity"), forOther),
                new Wrapped(),
                berit);
        assertThat(sent.outcome()).as(sent.note()).isEqualTo(Outcome.FAILED);
        assertThat(sent.note()).contains("key that the profile does not have");
    }

    /** XOP §3.1: what is signed is the value, wherever its bytes go. */
    @Test
    void aPartOfASignedMessageIsCoveredByTheSignature() {
        Profile signing = Profile.named("Client")
                .with(new Profile.Own("client.p12", PASSWORD))
                .with(Protection.NONE.with(new Protection.Signature(KeyName.TOKEN, List.of())));
        try (Peer peer = Peer.cxfWithParts(new Photos(), securing("Signature"))) {
            HttpFetcher fetcher = new HttpFetcher(() -> http, ReadLimits.USUAL, LoginAsker.NONE);
            Contract contract = new ContractReader(fetcher).read(peer.wsdl(), Progress.NONE, new StopSignal());
            Port port = contract.operations().get("copy").get(0);
            BoundOperation bound =
                    new BoundOperation(port, port.binding().operation("copy").orElseThrow());
            Case sample = Case.ofSample("", "", "peer", contract, bound, Detail.FULL);
            Case kept = sample.withBody(sample.body().replaceAll("(<(\\w+:)?photo>)[^<]*<", "$1cid:map<"));
            Attachment map = new Attachment(
                    "map", "image/png", Content.of("map of the huts".repeat(900).getBytes(StandardCharsets.UTF_8)));
            CallSetup setup = new CallSetup(
                    contract,
                    bound,
                    kept,
                    Optional.empty(),
                    Scope.EMPTY,
                    Optional.of(signing),
                    folder,
                    List.of(map),
                    CallRequest.USUAL_TIMEOUT);
            CaseCaller caller = new CaseCaller(http, expressions);
            Exchange sent =
                    caller.send(caller.prepare(setup), "test", new StopSignal()).last();
            assertThat(sent.request().attachments()).hasSize(1);
            SoapMessage answer = SoapMessage.of(sent.response().orElseThrow(), "answer");
            assertThat(answer.fault()).isEmpty();
            assertThat(answer.payload().orElseThrow().getTextContent().strip())
                    .isEqualTo(Base64.getEncoder().encodeToString(map.content().bytes()));
        }
    }
}
