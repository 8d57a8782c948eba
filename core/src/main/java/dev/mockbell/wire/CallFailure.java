package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.InterruptedIOException;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.UnknownHostException;
import java.security.cert.CertPathBuilderException;
import java.security.cert.CertPathValidatorException;
import javax.net.ssl.SSLException;
import org.apache.hc.client5.http.ConnectTimeoutException;
import org.apache.hc.core5.http.ConnectionClosedException;
import org.apache.hc.core5.http.NoHttpResponseException;
import org.apache.hc.core5.http.ProtocolException;

/** Why there was no answer, in words that say what and where. */
final class CallFailure {
    private CallFailure() {}

    static String words(Throwable failure, CallRequest request) {
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
            return "No connection to " + where + " in time";
        }
        if (failure instanceof ConnectException || failure instanceof NoRouteToHostException) {
            return "Nothing answers at " + where;
        }
        if (failure instanceof UnknownHostException) {
            return "The name " + request.address().getHost() + " is not known";
        }
        if (failure instanceof SSLException && isUntrusted(failure)) {
            return "The certificate of " + where + " is not trusted on this machine";
        }
        if (failure instanceof SSLException) {
            return "TLS with " + where + " failed: " + Problem.reason(failure);
        }
        if (failure instanceof InterruptedIOException) {
            return "No answer from " + where + " in " + request.timeout().toMillis() / 1000.0 + " s";
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
