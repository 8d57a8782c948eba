package dev.mockbell.wire;

import dev.mockbell.exchange.Secured;
import java.security.cert.CertificateException;
import java.security.cert.CertificateExpiredException;
import java.security.cert.CertificateNotYetValidException;
import java.security.cert.CertificateParsingException;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.net.ssl.SSLPeerUnverifiedException;
import javax.net.ssl.SSLSession;

/** A server's certificate that is not trusted, with all that a person needs to decide about it. */
final class Untrusted extends CertificateException {
    private static final long serialVersionUID = 1L;
    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH).withZone(ZoneOffset.UTC);

    private final transient X509Certificate certificate;
    private final transient List<X509Certificate> issuers;

    /**
     * @param chain as the server shows it, its own certificate first
     * @param why null where nothing speaks against it
     */
    Untrusted(X509Certificate[] chain, CertificateException why) {
        super(why == null ? null : why.getMessage(), why);
        this.certificate = chain[0];
        this.issuers = List.of(chain).subList(1, chain.length);
    }

    /** What a session used; empty for none. */
    static Optional<Secured> secured(SSLSession session) {
        if (session == null || "NONE".equals(session.getProtocol())) {
            return Optional.empty();
        }
        return Optional.of(new Secured(session.getProtocol(), session.getCipherSuite(), chain(session)));
    }

    private static List<String> chain(SSLSession session) {
        try {
            return Arrays.stream(session.getPeerCertificates())
                    .filter(X509Certificate.class::isInstance)
                    .map(c -> line((X509Certificate) c))
                    .toList();
        } catch (SSLPeerUnverifiedException e) {
            return List.of();
        }
    }

    /** A certificate in a line. */
    private static String line(X509Certificate c) {
        return c.getSubjectX500Principal() + ", issued by " + issuer(c) + ", valid until "
                + day(c.getNotAfter().toInstant()) + ", SHA-256 " + Trust.fingerprint(c);
    }

    /** The one that a failure comes from. */
    static Optional<Untrusted> in(Throwable failure) {
        for (Throwable at = failure; at != null; at = at.getCause()) {
            if (at instanceof Untrusted found) {
                return Optional.of(found);
            }
        }
        return Optional.empty();
    }

    /** Its facts. */
    ShownCertificate shown(Optional<String> flaw) {
        return new ShownCertificate(
                certificate.getSubjectX500Principal().toString(),
                names(),
                issuer(certificate),
                day(certificate.getNotBefore().toInstant()),
                day(certificate.getNotAfter().toInstant()),
                Trust.fingerprint(certificate),
                issuers.stream().map(Untrusted::line).toList(),
                flaw);
    }

    /** Which check failed, who the certificate is for and from, until when it holds, and its fingerprint. */
    String words() {
        ShownCertificate shown = shown(Optional.of(reason()));
        String hosts = shown.names().isEmpty() ? "" : " (" + shown.names() + ")";
        return reason() + ". It is for " + shown.subject() + hosts + ", issued by " + shown.issuer() + ", valid from "
                + shown.validFrom() + " until " + shown.validUntil() + ", SHA-256 " + shown.fingerprint();
    }

    private static String issuer(X509Certificate c) {
        return isSelfIssued(c) ? "itself" : c.getIssuerX500Principal().toString();
    }

    private static boolean isSelfIssued(X509Certificate c) {
        return c.getSubjectX500Principal().equals(c.getIssuerX500Principal());
    }

    String reason() {
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
        return isSelfIssued(certificate) ? "it is issued by itself" : "nobody whom this machine trusts has issued it";
    }

    private String names() {
        try {
            return certificate.getSubjectAlternativeNames() == null
                    ? ""
                    : certificate.getSubjectAlternativeNames().stream()
                            .filter(n -> Integer.valueOf(2).equals(n.get(0))
                                    || Integer.valueOf(7).equals(n.get(0)))
                            .map(n -> Objects.toString(((List<?>) n).get(1)))
                            .collect(Collectors.joining(", "));
        } catch (CertificateParsingException e) {
            return "";
        }
    }

    private static String day(Instant at) {
        return DAY.format(at);
    }
}
