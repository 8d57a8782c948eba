package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.Socket;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.cert.Certificate;
import java.security.cert.CertificateEncodingException;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509ExtendedTrustManager;

/**
 * Which certificates of servers are trusted beyond those that this machine trusts.
 *
 * @param fingerprints SHA-256 of single certificates, 64 hexadecimal digits in capitals; one of them is trusted whatever its
 *     name, dates and issuer
 * @param authorities files of certificates, PEM or DER, that issue others
 * @param client what the client proves itself with
 */
public record Trust(Set<String> fingerprints, List<Path> authorities, Optional<ClientKey> client) {
    /** What this machine trusts. */
    public static final Trust USUAL = new Trust(Set.of(), List.of(), Optional.empty());

    public Trust {
        Set<String> plain = new TreeSet<>();
        fingerprints.forEach(f -> plain.add(plain(f)));
        fingerprints = Set.copyOf(plain);
        authorities = List.copyOf(authorities);
    }

    /**
     * A fingerprint without colons and spaces, in capitals.
     *
     * @throws Problem when it is none of SHA-256
     */
    public static String plain(String fingerprint) {
        String digits = fingerprint.replaceAll("[:\\s]", "").toUpperCase(Locale.ROOT);
        if (!digits.matches("[0-9A-F]{64}")) {
            throw Problem.input(
                    "This is no fingerprint of a certificate",
                    fingerprint,
                    "Give its SHA-256: 64 hexadecimal digits, with or without colons.");
        }
        return digits;
    }

    /** The SHA-256 of a certificate, in pairs of digits between colons. */
    public static String fingerprint(X509Certificate certificate) {
        return digest(certificate).replaceAll("(..)(?!$)", "$1:");
    }

    private static String digest(X509Certificate certificate) {
        try {
            byte[] sum = MessageDigest.getInstance("SHA-256").digest(certificate.getEncoded());
            return HexFormat.of().withUpperCase().formatHex(sum);
        } catch (NoSuchAlgorithmException | CertificateEncodingException e) {
            throw new IllegalStateException("a certificate that was read has bytes, and this Java SHA-256", e);
        }
    }

    /** What either trusts; the client proves itself as this says, or else as the other. */
    public Trust and(Trust other) {
        Set<String> pins = new TreeSet<>(fingerprints);
        pins.addAll(other.fingerprints);
        List<Path> issuers = new ArrayList<>(authorities);
        issuers.addAll(other.authorities);
        return new Trust(pins, issuers, client.or(other::client));
    }

    /** Whether nothing differs from what this machine trusts. */
    public boolean isUsual() {
        return equals(USUAL);
    }

    /** Whether a certificate is trusted by its fingerprint alone. */
    boolean pins(X509Certificate certificate) {
        return fingerprints.contains(digest(certificate));
    }

    /**
     * The context that TLS is spoken with.
     *
     * @throws Problem when a file cannot be read or holds no certificate or key
     */
    public SSLContext context() {
        try {
            SSLContext context = SSLContext.getInstance("TLS");
            KeyManager[] keys = client.map(ClientKey::managers).orElse(null);
            context.init(keys, new TrustManager[] {new Judge(manager(null), own())}, null);
            return context;
        } catch (GeneralSecurityException e) {
            throw Problem.of(Problem.Kind.INPUT, "TLS cannot be set up: " + Problem.reason(e), null, null, e);
        }
    }

    private Optional<X509ExtendedTrustManager> own() throws GeneralSecurityException {
        if (authorities.isEmpty()) {
            return Optional.empty();
        }
        try {
            KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
            store.load(null, null);
            for (Path file : authorities) {
                for (Certificate c : CertificateFile.read(file)) {
                    store.setCertificateEntry("authority-" + store.size(), c);
                }
            }
            return Optional.of(manager(store));
        } catch (IOException e) {
            throw new GeneralSecurityException(e);
        }
    }

    private static X509ExtendedTrustManager manager(KeyStore store) throws GeneralSecurityException {
        TrustManagerFactory factory = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        factory.init(store);
        for (TrustManager manager : factory.getTrustManagers()) {
            if (manager instanceof X509ExtendedTrustManager found) {
                return found;
            }
        }
        throw new NoSuchAlgorithmException("no judge of X.509 certificates");
    }

    /** Trusts what is pinned, else what this machine trusts, else what one of the own authorities has issued. */
    private final class Judge extends X509ExtendedTrustManager {
        private final X509ExtendedTrustManager machine;
        private final Optional<X509ExtendedTrustManager> own;

        Judge(X509ExtendedTrustManager machine, Optional<X509ExtendedTrustManager> own) {
            this.machine = machine;
            this.own = own;
        }

        private interface Check {
            void by(X509ExtendedTrustManager manager) throws CertificateException;
        }

        private void server(X509Certificate[] chain, Check check) throws CertificateException {
            if (chain.length > 0 && pins(chain[0])) {
                return;
            }
            try {
                byAuthorities(check);
            } catch (CertificateException untrusted) {
                throw chain.length == 0 ? untrusted : new Untrusted(chain, untrusted);
            }
        }

        private void byAuthorities(Check check) throws CertificateException {
            try {
                check.by(machine);
            } catch (CertificateException untrusted) {
                if (own.isEmpty()) {
                    throw untrusted;
                }
                check.by(own.get());
            }
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, SSLEngine engine)
                throws CertificateException {
            server(chain, m -> m.checkServerTrusted(chain, type, engine));
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type, Socket socket)
                throws CertificateException {
            server(chain, m -> m.checkServerTrusted(chain, type, socket));
        }

        @Override
        public void checkServerTrusted(X509Certificate[] chain, String type) throws CertificateException {
            server(chain, m -> m.checkServerTrusted(chain, type));
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, SSLEngine engine)
                throws CertificateException {
            machine.checkClientTrusted(chain, type, engine);
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type, Socket socket)
                throws CertificateException {
            machine.checkClientTrusted(chain, type, socket);
        }

        @Override
        public void checkClientTrusted(X509Certificate[] chain, String type) throws CertificateException {
            machine.checkClientTrusted(chain, type);
        }

        @Override
        public X509Certificate[] getAcceptedIssuers() {
            return machine.getAcceptedIssuers();
        }
    }
}
