package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import dev.mockbell.problem.Took;
import java.io.InterruptedIOException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.UnknownHostException;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertPathValidatorException;
import java.util.Optional;
import javax.net.ssl.SSLException;
import org.apache.hc.client5.http.ConnectTimeoutException;
import org.apache.hc.core5.http.ConnectionClosedException;
import org.apache.hc.core5.http.NoHttpResponseException;
import org.apache.hc.core5.http.ProtocolException;

/** Why there was no answer, in words that say what and where. */
final class CallFailure {
    private CallFailure() {}

    /** The answer had begun or not: it was not there as a whole in time. */
    static final class NotWhole extends InterruptedIOException {
        private static final long serialVersionUID = 1L;
    }

    /** @param begun whether a first byte of the answer came */
    static String words(Throwable failure, CallRequest request, Connect.Timeouts waited, boolean begun) {
        String where = request.address().getHost() == null
                ? request.address().toString()
                : request.address().getHost() + port(request);
        if (failure instanceof Problem problem) {
            return problem.what();
        }
        if (failure instanceof BoundedBody.TooLarge) {
            return failure.getMessage();
        }
        if (failure instanceof ConnectTimeoutException) {
            return "No connection to " + where + " within " + Took.words(waited.connect());
        }
        if (failure instanceof ConnectException || failure instanceof NoRouteToHostException) {
            return "Nothing answers at " + where;
        }
        if (failure instanceof UnknownHostException) {
            return "The name " + request.address().getHost() + " is not known";
        }
        Optional<Untrusted> untrusted = untrusted(failure);
        if (untrusted.isPresent()) {
            return "The certificate of " + where + " is not trusted: "
                    + untrusted.get().words();
        }
        if (failure instanceof SSLException && isUntrusted(failure)) {
            return "The certificate of " + where + " is not trusted on this machine";
        }
        if (failure instanceof SSLException) {
            return "TLS with " + where + " failed: " + Problem.reason(failure);
        }
        if (failure instanceof NotWhole) {
            return (begun ? "No whole answer from " : "No answer from ") + where + " within "
                    + Took.words(waited.whole());
        }
        if (failure instanceof InterruptedIOException) {
            return "No answer from " + where + " within " + Took.words(waited.answer());
        }
        if (failure instanceof NoHttpResponseException || failure instanceof ConnectionClosedException) {
            return where + " closed the connection without a whole answer";
        }
        if (failure instanceof ProtocolException) {
            return where + " does not speak HTTP: " + Problem.reason(failure);
        }
        if (failure instanceof SocketException) {
            return "The connection to " + where + " broke: " + Problem.reason(failure);
        }
        return "The call to " + where + " failed: " + Problem.reason(failure);
    }

    private static Optional<Untrusted> untrusted(Throwable failure) {
        for (Throwable at = failure; at != null; at = at.getCause()) {
            if (at instanceof Untrusted found) {
                return Optional.of(found);
            }
        }
        return Optional.empty();
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

    private static String port(CallRequest request) {
        return request.address().getPort() < 0 ? "" : ":" + request.address().getPort();
    }
}
