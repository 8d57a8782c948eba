package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.security.GeneralSecurityException;
import java.security.cert.X509Certificate;
import java.util.List;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManagerFactory;

/**
 * TLS as a server speaks it.
 *
 * @param asksClients whether a client without a certificate is turned away
 */
public record ServerTls(SSLContext context, boolean asksClients) {
    /**
     * By a key of its own.
     *
     * @param authorities whose certificates a client must bring one of; empty to ask for none
     * @throws Problem when the key cannot be used
     */
    public static ServerTls of(ClientKey.Opened key, List<X509Certificate> authorities) {
        try {
            KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            own.init(key.store(), key.password().toCharArray());
            TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            trust.init(Authority.trusting(authorities));
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(own.getKeyManagers(), authorities.isEmpty() ? null : trust.getTrustManagers(), null);
            return new ServerTls(context, !authorities.isEmpty());
        } catch (GeneralSecurityException | IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "TLS cannot be spoken by this key: " + Problem.reason(e),
                    null,
                    "Give another one.",
                    e);
        }
    }

    /** For one connection. */
    public SSLEngine engine() {
        SSLEngine engine = context.createSSLEngine();
        engine.setUseClientMode(false);
        engine.setNeedClientAuth(asksClients);
        return engine;
    }
}
