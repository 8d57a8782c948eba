package dev.mockbell.grid;

import dev.mockbell.fleet.Invitation;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.ClientKey;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertPathValidatorException;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLSession;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509ExtendedTrustManager;
import org.apache.pekko.remote.artery.tcp.SSLEngineProvider;
import scala.Option;

/**
 * TLS 1.3 with certificates on both sides (RFC 8446 §4.4.2). Only who has one of the project's authority, issued for taking
 * part in load, is let in; those that it issued to servers are not. Addresses are not checked: machines change theirs, and the
 * key is what counts.
 */
final class GridTls implements SSLEngineProvider {
    private static final String TLS = "TLSv1.3";
    private static final int URI_NAME = 6;
    private static final int TRY_MILLIS = 1_500;
    private static final Set<String> ROLES = Set.of(Invitation.WORKER.toString(), Invitation.COORDINATOR.toString());

    private final SSLContext context;

    /** @throws Problem when the invitation has expired, or its key is none */
    GridTls(Invitation invitation, Instant now) {
        ClientKey.Opened key = invitation.key(now);
        try {
            KeyManagerFactory keys = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            keys.init(key.store(), key.password().toCharArray());
            var chain = key.store().getCertificateChain(key.alias());
            KeyStore trusted = KeyStore.getInstance("PKCS12");
            trusted.load(null, null);
            trusted.setCertificateEntry("authority", chain[chain.length - 1]);
            TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            trust.init(trusted);
            context = SSLContext.getInstance(TLS);
            context.init(
                    keys.getKeyManagers(),
                    new TrustManager[] {new Members((X509ExtendedTrustManager) trust.getTrustManagers()[0])},
                    null);
        } catch (GeneralSecurityException | IOException | ClassCastException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The invitation's key cannot be used: " + Problem.reason(e),
                    null,
                    "Have a new one written by “mockbell grid invite”.",
                    e);
        }
    }

    private SSLEngine engine(boolean client) {
        SSLEngine engine = context.createSSLEngine();
        engine.setUseClientMode(client);
        engine.setEnabledProtocols(new String[] {TLS});
        if (!client) {
            engine.setNeedClientAuth(true);
        }
        return engine;
    }

    /**
     * Tries whether somebody takes this key, and shows one that is taken here.
     *
     * @return why not; empty when all is well, or nobody is there
     */
    Optional<String> tryOut(String host, int port) {
        try (Socket plain = new Socket()) {
            plain.connect(new InetSocketAddress(host, port), TRY_MILLIS);
            try (SSLSocket socket = (SSLSocket) context.getSocketFactory().createSocket(plain, host, port, true)) {
                socket.setEnabledProtocols(new String[] {TLS});
                socket.setSoTimeout(TRY_MILLIS);
                socket.startHandshake();
                // whether the other side took it shows only when something is to be read (RFC 8446 §4.4.2.4)
                socket.getInputStream().read();
                return Optional.empty();
            }
        } catch (SSLException e) {
            return Optional.of(why(e));
        } catch (IOException nobodyThere) {
            return Optional.empty();
        }
    }

    /** In words of people: libraries speak of paths and anchors. */
    private static String why(SSLException e) {
        for (Throwable at = e; at != null; at = at.getCause()) {
            if (at instanceof NotAMember) {
                return at.getMessage();
            }
            if (at instanceof CertPathValidatorException || at instanceof CertPathBuilderException) {
                return at.getCause() instanceof CertificateException date
                        ? "a certificate is not good at this time (" + Problem.reason(date) + ")"
                        : "it is of another authority than this project's";
            }
        }
        return "no connection by it comes about (" + Problem.reason(e) + ")";
    }

    /** A certificate of the right authority that was issued for something else. */
    private static final class NotAMember extends CertificateException {
        private static final long serialVersionUID = 1L;

        NotAMember() {
            super("the certificate was not issued for taking part in load");
        }
    }

    @Override
    public SSLEngine createServerSSLEngine(String hostname, int port) {
        return engine(false);
    }

    @Override
    public SSLEngine createClientSSLEngine(String hostname, int port) {
        return engine(true);
    }

    @Override
    public Option<Throwable> verifyClientSession(String hostname, SSLSession session) {
        return Option.empty();
    }

    @Override
    public Option<Throwable> verifyServerSession(String hostname, SSLSession session) {
        return Option.empty();
    }

    /** Trusts what the authority issued for this. */
    private static final class Members extends X509ExtendedTrustManager {
        private final X509ExtendedTrustManager usual;

        Members(X509ExtendedTrustManager usual) {
            this.usual = usual;
        }

        private static void member(X509Certificate[] chain) throws CertificateException {
            Collection<List<?>> names = chain[0].getSubjectAlternativeNames();
            if (names == null
                    || names.stream()
                            .noneMatch(n -> Integer.valueOf(URI_NAME).equals(n.get(0)) && ROLES.contains(n.get(1)))) {
                throw new NotAMember();
            }
        }

        // without the engine's or socket's own checks, which compare names
        @Override
        public void checkClientTrusted(X509Certificate[] chain, String kind) throws CertificateException {
            usual.checkClientTrusted(chain, kind);
            member(chain);
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String kind) throws CertificateException {
            usual.checkServerTrusted(chain, kind);
            member(chain);
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String kind, SSLEngine engine)
                throws CertificateException {
            checkClientTrusted(chain, kind);
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String kind, SSLEngine engine)
                throws CertificateException {
            checkServerTrusted(chain, kind);
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String kind, Socket socket)
                throws CertificateException {
            checkClientTrusted(chain, kind);
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String kind, Socket socket)
                throws CertificateException {
            checkServerTrusted(chain, kind);
        }

        @Override
        public X509Certificate[] getAcceptedIssuers() {
            return usual.getAcceptedIssuers();
        }
    }
}
