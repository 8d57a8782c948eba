package dev.mockbell.wire;

import java.security.cert.CertificateException;
import java.security.cert.CertificateExpiredException;
import java.security.cert.CertificateNotYetValidException;
import java.security.cert.CertificateParsingException;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;

/** A server's certificate that is not trusted, with all that a person needs to decide about it. */
final class Untrusted extends CertificateException {
    private static final long serialVersionUID = 1L;
    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH).withZone(ZoneOffset.UTC);

    private final transient X509Certificate certificate;

    Untrusted(X509Certificate certificate, CertificateException why) {
        super(why.getMessage(), why);
        this.certificate = certificate;
    }

    /** Which check failed, who the certificate is for and from, until when it holds, and its fingerprint. */
    String words() {
        return reason() + ". It is for " + certificate.getSubjectX500Principal() + names() + ", issued by "
                + (isSelfIssued()
                        ? "itself"
                        : certificate.getIssuerX500Principal().toString()) + ", valid from "
                + day(certificate.getNotBefore().toInstant()) + " until "
                + day(certificate.getNotAfter().toInstant()) + ", SHA-256 " + Trust.fingerprint(certificate);
    }

    private boolean isSelfIssued() {
        return certificate.getSubjectX500Principal().equals(certificate.getIssuerX500Principal());
    }

    private String reason() {
        for (Throwable at = getCause(); at != null; at = at.getCause()) {
            if (at instanceof CertificateExpiredException) {
                return "it has expired";
            }
            if (at instanceof CertificateNotYetValidException) {
                return "it is not valid yet";
            }
        }
        String said = String.valueOf(getMessage());
        if (said.startsWith("No subject alternative") || said.startsWith("No name matching")) {
            return "it is for another host";
        }
        return isSelfIssued() ? "it is issued by itself" : "nobody whom this machine trusts has issued it";
    }

    private String names() {
        try {
            String all = certificate.getSubjectAlternativeNames() == null
                    ? ""
                    : certificate.getSubjectAlternativeNames().stream()
                            .filter(n -> Integer.valueOf(2).equals(n.get(0))
                                    || Integer.valueOf(7).equals(n.get(0)))
                            .map(n -> Objects.toString(((List<?>) n).get(1)))
                            .collect(Collectors.joining(", "));
            return all.isEmpty() ? "" : " (" + all + ")";
        } catch (CertificateParsingException e) {
            return "";
        }
    }

    private static String day(Instant at) {
        return DAY.format(at);
    }
}
