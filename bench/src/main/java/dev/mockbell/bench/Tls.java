package dev.mockbell.bench;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** TLS for a server on this machine and for whoever calls it, with a key made for the run. */
final class Tls {
    private static final char[] PASSWORD = "changeit".toCharArray();

    private Tls() {}

    static SSLContext made() throws IOException, InterruptedException, GeneralSecurityException {
        Path folder = Files.createTempDirectory("bench-tls-");
        Path file = folder.resolve("localhost.p12");
        Process tool = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "keytool")
                                .toString(),
                        "-genkeypair",
                        "-keyalg",
                        "EC",
                        "-dname",
                        "CN=localhost",
                        "-ext",
                        "san=dns:localhost",
                        "-alias",
                        "own",
                        "-storetype",
                        "PKCS12",
                        "-keystore",
                        file.toString(),
                        "-storepass",
                        new String(PASSWORD))
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("log").toFile())
                .start();
        if (tool.waitFor() != 0) {
            throw new IOException(Files.readString(folder.resolve("log")));
        }
        KeyStore keys = KeyStore.getInstance("PKCS12");
        try (InputStream in = Files.newInputStream(file)) {
            keys.load(in, PASSWORD);
        }
        KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        own.init(keys, PASSWORD);
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry("own", keys.getCertificate("own"));
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(trusted);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(own.getKeyManagers(), trust.getTrustManagers(), null);
        return context;
    }
}
