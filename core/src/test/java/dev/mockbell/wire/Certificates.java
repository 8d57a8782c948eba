package dev.mockbell.wire;

import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
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
        Path file = folder.resolve(host + ".p12");
        Process tool = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "keytool")
                                .toString(),
                        "-genkeypair",
                        "-alias",
                        "test",
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=" + host,
                        "-ext",
                        "san=dns:" + host,
                        "-validity",
                        "3",
                        "-storetype",
                        "PKCS12",
                        "-keystore",
                        file.toString(),
                        "-storepass",
                        PASSWORD)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("keytool.log").toFile())
                .start();
        if (!tool.waitFor(60, TimeUnit.SECONDS) || tool.exitValue() != 0) {
            throw new IllegalStateException(Files.readString(folder.resolve("keytool.log")));
        }
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream in = Files.newInputStream(file)) {
            keys.load(in, PASSWORD.toCharArray());
        }
        KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        own.init(keys, PASSWORD.toCharArray());
        SSLContext server = SSLContext.getInstance("TLS");
        server.init(own.getKeyManagers(), null, null);
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry("test", keys.getCertificate("test"));
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
