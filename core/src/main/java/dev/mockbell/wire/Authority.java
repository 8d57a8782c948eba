package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.math.BigInteger;
import java.net.InetAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.Key;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.KeyStore;
import java.security.PrivateKey;
import java.security.SecureRandom;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Date;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javax.security.auth.x500.X500Principal;
import org.bouncycastle.asn1.x509.BasicConstraints;
import org.bouncycastle.asn1.x509.ExtendedKeyUsage;
import org.bouncycastle.asn1.x509.Extension;
import org.bouncycastle.asn1.x509.GeneralName;
import org.bouncycastle.asn1.x509.GeneralNames;
import org.bouncycastle.asn1.x509.KeyPurposeId;
import org.bouncycastle.asn1.x509.KeyUsage;
import org.bouncycastle.cert.jcajce.JcaX509CertificateConverter;
import org.bouncycastle.cert.jcajce.JcaX509ExtensionUtils;
import org.bouncycastle.cert.jcajce.JcaX509v3CertificateBuilder;
import org.bouncycastle.operator.OperatorCreationException;
import org.bouncycastle.operator.jcajce.JcaContentSignerBuilder;

/** Issues certificates to servers on this machine (RFC 5280). Its key never leaves the machine; its certificate is for clients. */
public final class Authority {
    private static final Duration LIFE = Duration.ofDays(3_650);
    /** Clients refuse those of servers that last longer than about this. */
    private static final Duration SERVER_LIFE = Duration.ofDays(397);

    private static final Duration SKEW = Duration.ofHours(1);
    private static final String ALIAS = "key";

    private final PrivateKey key;
    private final X509Certificate certificate;

    private Authority(PrivateKey key, X509Certificate certificate) {
        this.key = key;
        this.certificate = certificate;
    }

    /** A new one. */
    public static Authority made(String name, Instant now) {
        try {
            KeyPair pair = pair();
            X500Principal own = new X500Principal("CN=" + name.replaceAll("[^\\p{L}\\p{N} .-]", " ") + ", O=Mock Bell");
            JcaX509v3CertificateBuilder builder = builder(own, own, pair, now, LIFE);
            builder.addExtension(Extension.basicConstraints, true, new BasicConstraints(0));
            builder.addExtension(Extension.keyUsage, true, new KeyUsage(KeyUsage.keyCertSign | KeyUsage.cRLSign));
            return new Authority(pair.getPrivate(), signed(builder, pair.getPrivate()));
        } catch (GeneralSecurityException | OperatorCreationException | IOException e) {
            throw unable(e);
        }
    }

    /**
     * One that was written before.
     *
     * @param file as {@link #written} gave it
     * @throws Problem when it cannot be read
     */
    public static Authority read(Path file) {
        ClientKey.Opened opened = new ClientKey(file, "").open();
        try {
            Key key = opened.store().getKey(opened.alias(), new char[0]);
            return new Authority(
                    (PrivateKey) key, (X509Certificate) opened.store().getCertificate(opened.alias()));
        } catch (GeneralSecurityException e) {
            throw unable(e);
        }
    }

    private static Problem unable(Exception e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "A certificate cannot be made: " + Problem.reason(e),
                null,
                "Give one in a file.",
                e);
    }

    /** Its key and certificate as text, for a file that is the user's alone. */
    public String written() {
        return pem("PRIVATE KEY", key.getEncoded()) + pem();
    }

    /** Its certificate as text, for clients that are to trust what it has issued. */
    public String pem() {
        try {
            return pem("CERTIFICATE", certificate.getEncoded());
        } catch (GeneralSecurityException e) {
            throw unable(e);
        }
    }

    static String pem(String what, byte[] bytes) {
        Base64.Encoder lines = Base64.getMimeEncoder(64, "\n".getBytes(StandardCharsets.US_ASCII));
        return "-----BEGIN " + what + "-----\n" + lines.encodeToString(bytes) + "\n-----END " + what + "-----\n";
    }

    public X509Certificate certificate() {
        return certificate;
    }

    /** Whether it can issue certificates now. */
    public boolean isValid(Instant now) {
        return certificate.getNotAfter().toInstant().isAfter(now.plus(SERVER_LIFE));
    }

    /**
     * A new key for a server, with a certificate for the names by which clients on this machine know it.
     *
     * @param host that it listens on
     */
    public ClientKey.Opened issue(String host, Instant now) {
        try {
            KeyPair pair = pair();
            X500Principal subject = new X500Principal("CN=localhost, O=Mock Bell");
            JcaX509v3CertificateBuilder builder =
                    builder(certificate.getSubjectX500Principal(), subject, pair, now, SERVER_LIFE);
            JcaX509ExtensionUtils extensions = new JcaX509ExtensionUtils();
            builder.addExtension(Extension.basicConstraints, true, new BasicConstraints(false));
            builder.addExtension(
                    Extension.authorityKeyIdentifier, false, extensions.createAuthorityKeyIdentifier(certificate));
            builder.addExtension(
                    Extension.subjectAlternativeName,
                    false,
                    new GeneralNames(names(host).toArray(GeneralName[]::new)));
            return opened(pair, signed(builder, key));
        } catch (GeneralSecurityException | OperatorCreationException | IOException e) {
            throw unable(e);
        }
    }

    /**
     * A new key for a program that proves by it what it is, to servers and to clients (RFC 5280 §4.2.1.12).
     *
     * @param role a URI, which stands among the certificate's alternative names
     */
    public ClientKey.Opened issueMember(URI role, Instant now, Duration life) {
        try {
            KeyPair pair = pair();
            X500Principal subject = new X500Principal("CN=" + role + ", O=Mock Bell");
            JcaX509v3CertificateBuilder builder =
                    builder(certificate.getSubjectX500Principal(), subject, pair, now, life);
            builder.addExtension(Extension.basicConstraints, true, new BasicConstraints(false));
            builder.addExtension(
                    Extension.authorityKeyIdentifier,
                    false,
                    new JcaX509ExtensionUtils().createAuthorityKeyIdentifier(certificate));
            builder.addExtension(Extension.extendedKeyUsage, false, new ExtendedKeyUsage(new KeyPurposeId[] {
                KeyPurposeId.id_kp_serverAuth, KeyPurposeId.id_kp_clientAuth
            }));
            builder.addExtension(
                    Extension.subjectAlternativeName,
                    false,
                    new GeneralNames(new GeneralName(GeneralName.uniformResourceIdentifier, role.toString())));
            return opened(pair, signed(builder, key));
        } catch (GeneralSecurityException | OperatorCreationException | IOException e) {
            throw unable(e);
        }
    }

    private ClientKey.Opened opened(KeyPair pair, X509Certificate issued) throws GeneralSecurityException, IOException {
        KeyStore store = KeyStore.getInstance("PKCS12");
        store.load(null, null);
        store.setKeyEntry(ALIAS, pair.getPrivate(), new char[0], new Certificate[] {issued, certificate});
        return new ClientKey.Opened(store, ALIAS, "EC", "");
    }

    private static List<GeneralName> names(String host) {
        Set<String> names = new LinkedHashSet<>(List.of("localhost", "127.0.0.1", "::1", host));
        try {
            names.add(InetAddress.getLocalHost().getHostName());
        } catch (IOException nameless) {
            // the others do
            names.add("localhost");
        }
        List<GeneralName> all = new ArrayList<>();
        for (String name : names) {
            boolean number = name.contains(":") || name.matches("[0-9.]+");
            all.add(new GeneralName(number ? GeneralName.iPAddress : GeneralName.dNSName, name));
        }
        return all;
    }

    private static KeyPair pair() throws GeneralSecurityException {
        KeyPairGenerator generator = KeyPairGenerator.getInstance("EC");
        generator.initialize(256);
        return generator.generateKeyPair();
    }

    private static JcaX509v3CertificateBuilder builder(
            X500Principal issuer, X500Principal subject, KeyPair pair, Instant now, Duration life)
            throws GeneralSecurityException, IOException {
        JcaX509v3CertificateBuilder builder = new JcaX509v3CertificateBuilder(
                issuer,
                new BigInteger(120, new SecureRandom()),
                Date.from(now.minus(SKEW)),
                Date.from(now.plus(life)),
                subject,
                pair.getPublic());
        builder.addExtension(
                Extension.subjectKeyIdentifier,
                false,
                new JcaX509ExtensionUtils().createSubjectKeyIdentifier(pair.getPublic()));
        return builder;
    }

    private static X509Certificate signed(JcaX509v3CertificateBuilder builder, PrivateKey by)
            throws GeneralSecurityException, OperatorCreationException {
        return new JcaX509CertificateConverter()
                .getCertificate(builder.build(new JcaContentSignerBuilder("SHA256withECDSA").build(by)));
    }

    /** Certificates that count as authorities. */
    static KeyStore trusting(List<X509Certificate> authorities) throws GeneralSecurityException, IOException {
        KeyStore store = KeyStore.getInstance("PKCS12");
        store.load(null, null);
        for (int i = 0; i < authorities.size(); i++) {
            store.setCertificateEntry("authority-" + i, authorities.get(i));
        }
        return store;
    }
}
