package dev.mockbell.demo.fronts;

import dev.mockbell.file.AtomicFile;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigInteger;
import java.net.InetAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.KeyStore;
import java.security.SecureRandom;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Date;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import javax.security.auth.x500.X500Principal;
import org.bouncycastle.asn1.x509.BasicConstraints;
import org.bouncycastle.asn1.x509.Extension;
import org.bouncycastle.asn1.x509.GeneralName;
import org.bouncycastle.asn1.x509.GeneralNames;
import org.bouncycastle.cert.jcajce.JcaX509CertificateConverter;
import org.bouncycastle.cert.jcajce.JcaX509ExtensionUtils;
import org.bouncycastle.cert.jcajce.JcaX509v3CertificateBuilder;
import org.bouncycastle.operator.OperatorCreationException;
import org.bouncycastle.operator.jcajce.JcaContentSignerBuilder;

/** An authority, and what it has issued to the service and to its one client; made anew each time, and good for a few days. */
public final class Keys {
    /** Opens the stores that are written. */
    public static final String PASSWORD = "cairn-4711";

    static final String ALIAS = "key";
    private static final Duration LIFE = Duration.ofDays(30);
    private static final int BITS = 2_048;

    private final SecureRandom random = new SecureRandom();
    private final Instant now;
    private final KeyPair authorityKey;
    private final X509Certificate authority;
    private final KeyStore service;
    private final KeyStore client;

    private Keys(Clock clock) throws GeneralSecurityException, OperatorCreationException, IOException {
        now = clock.instant();
        authorityKey = pair();
        authority = issued("CN=Northfell authority", authorityKey, true);
        service = store("CN=localhost, O=Northfell Huts");
        client = store("CN=guide, O=Northfell Huts");
    }

    /** Makes them. */
    public static Keys made(Clock clock) {
        try {
            return new Keys(clock);
        } catch (GeneralSecurityException | OperatorCreationException | IOException e) {
            throw new IllegalStateException("keys cannot be made on this Java", e);
        }
    }

    private static KeyPair pair() throws GeneralSecurityException {
        KeyPairGenerator generator = KeyPairGenerator.getInstance("RSA");
        generator.initialize(BITS);
        return generator.generateKeyPair();
    }

    private X509Certificate issued(String name, KeyPair to, boolean issues)
            throws GeneralSecurityException, OperatorCreationException, IOException {
        X500Principal issuer = new X500Principal("CN=Northfell authority");
        JcaX509v3CertificateBuilder builder = new JcaX509v3CertificateBuilder(
                issuer,
                new BigInteger(120, random),
                Date.from(now.minus(Duration.ofHours(1))),
                Date.from(now.plus(LIFE)),
                new X500Principal(name),
                to.getPublic());
        builder.addExtension(Extension.basicConstraints, true, new BasicConstraints(issues));
        builder.addExtension(
                Extension.subjectKeyIdentifier,
                false,
                new JcaX509ExtensionUtils().createSubjectKeyIdentifier(to.getPublic()));
        builder.addExtension(Extension.subjectAlternativeName, false, new GeneralNames(new GeneralName[] {
            new GeneralName(GeneralName.dNSName, "localhost"),
            new GeneralName(
                    GeneralName.iPAddress, InetAddress.getLoopbackAddress().getHostAddress())
        }));
        return new JcaX509CertificateConverter()
                .getCertificate(
                        builder.build(new JcaContentSignerBuilder("SHA256withRSA").build(authorityKey.getPrivate())));
    }

    private KeyStore store(String name) throws GeneralSecurityException, OperatorCreationException, IOException {
        KeyPair pair = pair();
        KeyStore store = KeyStore.getInstance("PKCS12");
        store.load(null, null);
        store.setKeyEntry(ALIAS, pair.getPrivate(), PASSWORD.toCharArray(), new Certificate[] {
            issued(name, pair, false), authority
        });
        return store;
    }

    /** The service's own key, under {@link #ALIAS}. */
    KeyStore service() {
        return service;
    }

    /** The authority's certificate alone. */
    X509Certificate authority() {
        return authority;
    }

    /** TLS as the service, which trusts the client. */
    SSLContext tls() {
        try {
            KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            own.init(service, PASSWORD.toCharArray());
            KeyStore trusted = KeyStore.getInstance("PKCS12");
            trusted.load(null, null);
            trusted.setCertificateEntry("authority", authority);
            TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            trust.init(trusted);
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(own.getKeyManagers(), trust.getTrustManagers(), random);
            return context;
        } catch (GeneralSecurityException | IOException e) {
            throw new IllegalStateException("TLS cannot be set up on this Java", e);
        }
    }

    /** Writes what a client needs: {@code authority.pem}, {@code service.pem}, and {@code guide.p12} with the client's own key. */
    public void write(Path folder) {
        try {
            AtomicFile.write(folder.resolve("authority.pem"), pem(authority));
            AtomicFile.write(folder.resolve("service.pem"), pem(service.getCertificate(ALIAS)));
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            client.store(bytes, PASSWORD.toCharArray());
            AtomicFile.write(folder.resolve("guide.p12"), bytes.toByteArray());
        } catch (GeneralSecurityException | IOException e) {
            throw new IllegalStateException("keys cannot be written", e);
        }
    }

    private static String pem(Certificate certificate) throws GeneralSecurityException {
        Base64.Encoder lines = Base64.getMimeEncoder(64, "\n".getBytes(StandardCharsets.US_ASCII));
        return "-----BEGIN CERTIFICATE-----\n" + lines.encodeToString(certificate.getEncoded())
                + "\n-----END CERTIFICATE-----\n";
    }
}
