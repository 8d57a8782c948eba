package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.cert.CertificateException;
import java.security.cert.CertificateFactory;
import java.security.cert.X509Certificate;
import java.util.List;

/** A file of certificates without keys. */
public final class CertificateFile {
    private CertificateFile() {}

    /**
     * The certificates of a file, PEM or DER; one at least.
     *
     * @throws Problem when it cannot be read or there is none in it
     */
    public static List<X509Certificate> read(Path file) {
        try {
            byte[] bytes = Files.readAllBytes(file);
            String text = new String(bytes, StandardCharsets.US_ASCII);
            int start = text.indexOf("-----BEGIN");
            // what stands before the first certificate is for people
            byte[] read = start > 0 ? text.substring(start).getBytes(StandardCharsets.US_ASCII) : bytes;
            List<X509Certificate> found =
                    CertificateFactory.getInstance("X.509")
                            .generateCertificates(new ByteArrayInputStream(read))
                            .stream()
                            .map(X509Certificate.class::cast)
                            .toList();
            if (found.isEmpty()) {
                throw new CertificateException("there is none in it");
            }
            return found;
        } catch (IOException | CertificateException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file holds no certificate that can be read: " + Problem.reason(e),
                    file.toString(),
                    "Give certificates as PEM or DER.",
                    e);
        }
    }
}
