package dev.mockbell.peers;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.access.Profile;
import dev.mockbell.check.Answer;
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
import dev.mockbell.redact.Redactor;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.security.MessageSecurity.KeyName;
import dev.mockbell.security.MessageSecurity.Token;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import java.io.FileOutputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import org.apache.wss4j.common.ConfigurationConstants;
import org.apache.wss4j.common.ext.WSPasswordCallback;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

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
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry(
                "anna",
                KeyStore.getInstance(folder.resolve("anna.p12").toFile(), PASSWORD.toCharArray())
                        .getCertificate("test"));
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
        try (Peer peer = Peer.cxf(service, asking(actions))) {
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
            CallRequest request = caller.prepare(
                    bound,
                    kept,
                    Optional.empty(),
                    Scope.EMPTY,
                    Optional.of(profile),
                    folder,
                    CallRequest.USUAL_TIMEOUT);
            Exchange sent = caller.send(kept, request, "test", Redactor.USUAL, new StopSignal());
            return Answer.of(sent, MessageOutline.ofAnswer(contract, bound.operation()), expressions)
                    .exchange()
                    .outcome();
        }
    }

    private static Profile anna() {
        return Profile.named("Anna").with(Profile.Way.NONE, "anna", "høy <1>");
    }

    @ParameterizedTest
    @EnumSource(value = Token.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aUsernameTokenIsTakenAndAWrongPasswordIsNot(Token token) {
        assertThat(call(new Wrapped(), "UsernameToken", anna().carrying(token, 0, KeyName.NONE)))
                .isEqualTo(Outcome.FINE);
        assertThat(call(new Bare(), "UsernameToken", anna().carrying(token, 0, KeyName.NONE)))
                .as("SOAP 1.2")
                .isEqualTo(Outcome.FINE);
        Profile wrong = anna().with(Profile.Way.NONE, "anna", "wrong").carrying(token, 0, KeyName.NONE);
        assertThat(call(new Wrapped(), "UsernameToken", wrong)).isEqualTo(Outcome.FAULT);
    }

    @Test
    void aTimestampIsTaken() {
        assertThat(call(new Wrapped(), "Timestamp", anna().carrying(Token.NONE, 300, KeyName.NONE)))
                .isEqualTo(Outcome.FINE);
        assertThat(call(new Wrapped(), "Timestamp", anna())).isEqualTo(Outcome.FAULT);
    }

    @ParameterizedTest
    @EnumSource(value = KeyName.class, names = "NONE", mode = EnumSource.Mode.EXCLUDE)
    void aSignatureIsTakenHoweverItNamesItsKeyAndAStrangersIsNot(KeyName name) {
        Profile signing = anna().withClient("anna.p12", PASSWORD).carrying(Token.NONE, 300, name);
        assertThat(call(new Wrapped(), "Timestamp Signature", signing)).isEqualTo(Outcome.FINE);
        assertThat(call(new Bare(), "Timestamp Signature", signing))
                .as("SOAP 1.2")
                .isEqualTo(Outcome.FINE);
        Profile stranger = signing.withClient("berit.p12", PASSWORD);
        assertThat(call(new Wrapped(), "Timestamp Signature", stranger)).isEqualTo(Outcome.FAULT);
    }

    @Test
    void allOfItTogether() {
        Profile all = anna().withClient("anna.p12", PASSWORD).carrying(Token.DIGEST, 300, KeyName.TOKEN);
        assertThat(call(new Wrapped(), "UsernameToken Timestamp Signature", all))
                .isEqualTo(Outcome.FINE);
    }
}
