package dev.mockbell.wire;

import java.io.IOException;
import java.math.BigInteger;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.security.auth.x500.X500Principal;
import org.bouncycastle.cert.jcajce.JcaX509CertificateConverter;
import org.bouncycastle.cert.jcajce.JcaX509v3CertificateBuilder;
import org.bouncycastle.operator.OperatorCreationException;
import org.bouncycastle.operator.jcajce.JcaContentSignerBuilder;

/**
 * A key that lives for an hour, with a certificate that it has issued to itself: for peers of our own on loopback.
 *
 * @param server speaks TLS by it
 */
public record SelfIssued(X509Certificate certificate, SSLContext server) {
    /**
     * Makes one.
     *
     * @throws GeneralSecurityException when this Java cannot
     */
    public static SelfIssued made() throws GeneralSecurityException {
        KeyPairGenerator generator = KeyPairGenerator.getInstance("EC");
        generator.initialize(256);
        KeyPair pair = generator.generateKeyPair();
        X500Principal name = new X500Principal("CN=localhost");
        Instant now = Instant.now();
        try {
            X509Certificate certificate = new JcaX509CertificateConverter()
                    .getCertificate(new JcaX509v3CertificateBuilder(
                                    name,
                                    BigInteger.ONE,
                                    Date.from(now.minus(Duration.ofHours(1))),
                                    Date.from(now.plus(Duration.ofHours(1))),
                                    name,
                                    pair.getPublic())
                            .build(new JcaContentSignerBuilder("SHA256withECDSA").build(pair.getPrivate())));
            KeyStore keys = KeyStore.getInstance("PKCS12");
            keys.load(null, null);
            keys.setKeyEntry("own", pair.getPrivate(), new char[0], new Certificate[] {certificate});
            KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            own.init(keys, new char[0]);
            SSLContext server = SSLContext.getInstance("TLS");
            server.init(own.getKeyManagers(), null, null);
            return new SelfIssued(certificate, server);
        } catch (OperatorCreationException | IOException e) {
            throw new GeneralSecurityException(e);
        }
    }

    /** Trusts this certificate. */
    public Trust trust() {
        return new Trust(Set.of(Trust.fingerprint(certificate)), List.of(), Optional.empty());
    }
}
