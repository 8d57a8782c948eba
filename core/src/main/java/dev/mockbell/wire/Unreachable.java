package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.UnknownHostException;
import java.nio.channels.ClosedChannelException;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertPathValidatorException;
import java.util.Optional;
import javax.net.ssl.SSLException;

/**
 * Why there is no connection: told the same way for calls, taps and load.
 *
 * @param words a sentence without its full stop
 * @param next sentences; empty when nothing is known to help
 */
public record Unreachable(String words, String next) {
    private static final String UP = "Check the address and that the service is up.";

    /**
     * Tells it.
     *
     * @param where host and port
     * @return empty when it was something else that failed than connecting, or the time that it may take
     */
    public static Optional<Unreachable> of(Throwable failure, String where) {
        if (failure instanceof UnknownHostException) {
            return Optional.of(new Unreachable(
                    "The name " + host(where) + " is not known",
                    "Check how it is written, and the network that should know it."));
        }
        // a timeout of one of the libraries is a kind of the first
        if (failure instanceof io.netty.channel.ConnectTimeoutException) {
            return Optional.of(new Unreachable(
                    "No connection to " + where + " in time",
                    "Check the address, and whether something on the way keeps it back."));
        }
        if (failure instanceof ConnectException || failure instanceof NoRouteToHostException) {
            return Optional.of(new Unreachable("Nothing answers at " + where, UP));
        }
        if (failure instanceof ClosedChannelException) {
            return Optional.of(new Unreachable(where + " ended the connection before it was ready", UP));
        }
        return failure instanceof SSLException ? Optional.of(ofTls(failure, where)) : Optional.empty();
    }

    private static String host(String where) {
        return where.replaceFirst(":\\d+$", "");
    }

    private static Unreachable ofTls(Throwable failure, String where) {
        Optional<Untrusted> untrusted = Untrusted.in(failure);
        if (untrusted.isPresent()) {
            return new Unreachable(
                    "The certificate of " + where + " is not trusted: "
                            + untrusted.get().words(),
                    "If it is the right one, trust its fingerprint or the authority that issued it for this endpoint.");
        }
        if (isUntrusted(failure)) {
            return new Unreachable(
                    "The certificate of " + where + " is not trusted on this machine",
                    "Trust the authority that issued it for this endpoint.");
        }
        String reason = Problem.reason(failure);
        // the platform has no other way to tell; it says it in two sentences, and another library in a third
        if (reason.contains("nrecognized SSL message") || reason.contains("not an SSL/TLS record")) {
            return new Unreachable(
                    where + " does not speak TLS at that port", "Try the address with http: in place of https:.");
        }
        return new Unreachable("TLS with " + where + " failed: " + reason, "");
    }

    /** Whether no chain of certificates leads from the server's to one that this machine trusts (RFC 5280 §6). */
    private static boolean isUntrusted(Throwable failure) {
        for (Throwable at = failure; at != null; at = at.getCause()) {
            if (at instanceof CertPathBuilderException || at instanceof CertPathValidatorException) {
                return true;
            }
        }
        return false;
    }
}
