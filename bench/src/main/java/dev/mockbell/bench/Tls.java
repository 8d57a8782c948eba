package dev.mockbell.bench;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.MessageDigest;
import java.util.HexFormat;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/**
 * TLS for a server on this machine and for whoever calls it, with a key made for the run.
 *
 * @param fingerprint SHA-256 of its certificate
 */
record Tls(SSLContext context, String fingerprint) {
    private static final char[] PASSWORD = "changeit".toCharArray();

    static Tls made() throws IOException, InterruptedException, GeneralSecurityException {
        Path folder = Scratch.folder();
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
        byte[] sum = MessageDigest.getInstance("SHA-256")
                .digest(keys.getCertificate("own").getEncoded());
        return new Tls(context, HexFormat.of().formatHex(sum));
    }
}
