package dev.mockbell.wire;

import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** A key with a certificate for {@code localhost}, made for the run of a test by the Java platform's own tool. */
public final class Certificates {
    private static final String PASSWORD = "changeit";

    private final SSLContext server;
    private final SSLContext client;

    private Certificates(SSLContext server, SSLContext client) {
        this.server = server;
        this.client = client;
    }

    /** For a host, in a folder for its files. */
    public static Certificates of(String host, Path folder) throws Exception {
        tool(folder, host, List.of("-alias", "test", "-validity", "3"));
        KeyStore keys = keys(folder, host);
        return of(keys, keys.getCertificate("test"));
    }

    /** One that has expired, issued by an authority whose certificate is left in the folder as {@code authority.der}. */
    static Certificates expired(String host, Path folder) throws Exception {
        tool(folder, host, List.of("-alias", "authority", "-ext", "bc:critical=ca:true", "-validity", "3"));
        tool(folder, host, List.of("-alias", "test", "-signer", "authority", "-startdate", "-9d", "-validity", "3"));
        KeyStore keys = keys(folder, host);
        Certificate authority = keys.getCertificate("authority");
        Files.write(folder.resolve("authority.der"), authority.getEncoded());
        // its key is not the server's
        keys.deleteEntry("authority");
        return of(keys, authority);
    }

    /** A key of RSA with its certificate, as {@code NAME.p12}, and the certificate alone as {@code NAME.der}. */
    public static X509Certificate rsa(String name, Path folder) throws Exception {
        tool(folder, name, "RSA", List.of("-alias", "test", "-validity", "3"));
        X509Certificate certificate = (X509Certificate) keys(folder, name).getCertificate("test");
        Files.write(folder.resolve(name + ".der"), certificate.getEncoded());
        return certificate;
    }

    private static void tool(Path folder, String host, List<String> options) throws Exception {
        tool(folder, host, "EC", options);
    }

    private static void tool(Path folder, String host, String algorithm, List<String> options) throws Exception {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-genkeypair",
                "-keyalg",
                algorithm,
                "-dname",
                "CN=" + host,
                "-ext",
                "san=dns:" + host,
                "-storetype",
                "PKCS12",
                "-keystore",
                folder.resolve(host + ".p12").toString(),
                "-storepass",
                PASSWORD));
        command.addAll(options);
        Process tool = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("keytool.log").toFile())
                .start();
        if (!tool.waitFor(60, TimeUnit.SECONDS) || tool.exitValue() != 0) {
            throw new IllegalStateException(Files.readString(folder.resolve("keytool.log")));
        }
    }

    private static KeyStore keys(Path folder, String host) throws Exception {
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream in = Files.newInputStream(folder.resolve(host + ".p12"))) {
            keys.load(in, PASSWORD.toCharArray());
        }
        return keys;
    }

    private static Certificates of(KeyStore keys, Certificate trustedOne) throws Exception {
        KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        own.init(keys, PASSWORD.toCharArray());
        SSLContext server = SSLContext.getInstance("TLS");
        server.init(own.getKeyManagers(), null, null);
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry("test", trustedOne);
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(trusted);
        SSLContext client = SSLContext.getInstance("TLS");
        client.init(null, trust.getTrustManagers(), null);
        return new Certificates(server, client);
    }

    /** For a server that shows the certificate. */
    public SSLContext server() {
        return server;
    }

    /** For a client that trusts it, and nothing else. */
    public SSLContext client() {
        return client;
    }
}
