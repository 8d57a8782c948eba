package dev.mockbell.wire;

import java.net.ProxySelector;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.util.Optional;
import javax.net.ssl.SSLContext;

/**
 * How a server is reached; the same for calls, for contracts that are fetched and for load.
 *
 * @param trust decides which certificates are trusted, and holds the client's own; empty to go by this machine
 * @param login sent with every request without being asked for; empty for none
 * @param proxies which proxy an address is reached through
 * @param timeouts how long to wait
 * @param limits how much is taken
 */
public record Connect(
        Optional<SSLContext> trust, Optional<Login> login, ProxySelector proxies, Timeouts timeouts, Limits limits) {
    /**
     * How long to wait.
     *
     * @param connect for the connection, and once more for the handshake of TLS
     * @param answer for the next byte of the answer
     * @param whole for all of it
     */
    public record Timeouts(Duration connect, Duration answer, Duration whole) {
        /** As long as people wait before they think that it hangs. */
        public static final Timeouts USUAL =
                new Timeouts(Duration.ofSeconds(30), Duration.ofSeconds(60), Duration.ofHours(1));

        /** None longer than a bound, apart from the whole. */
        public Timeouts within(Duration bound) {
            return new Timeouts(shorter(connect, bound), bound, whole);
        }

        private static Duration shorter(Duration one, Duration other) {
            return one.compareTo(other) < 0 ? one : other;
        }
    }

    /**
     * How much of an answer is taken.
     *
     * @param bytes of the body, decompressed
     * @param line of the start line or a header, in characters
     * @param headers how many
     */
    public record Limits(long bytes, int line, int headers) {
        /** More than a person can look at. */
        public static final Limits USUAL = new Limits(512L << 20, 64 * 1024, 500);
    }

    /** Straight to the server, trusting what this machine trusts. */
    public static final Connect USUAL =
            new Connect(Optional.empty(), Optional.empty(), Proxies.none(), Timeouts.USUAL, Limits.USUAL);

    /** With certificates judged by another context. */
    public Connect withTrust(SSLContext context) {
        return new Connect(Optional.of(context), login, proxies, timeouts, limits);
    }

    /** With a login that is sent without being asked for. */
    public Connect withLogin(Optional<Login> other) {
        return new Connect(trust, other, proxies, timeouts, limits);
    }

    /** Through other proxies. */
    public Connect through(ProxySelector other) {
        return new Connect(trust, login, other, timeouts, limits);
    }

    /** With other times to wait. */
    public Connect with(Timeouts other) {
        return new Connect(trust, login, proxies, other, limits);
    }

    /** With other limits. */
    public Connect with(Limits other) {
        return new Connect(trust, login, proxies, timeouts, other);
    }

    /** The context that TLS is spoken with. */
    public SSLContext tls() {
        try {
            return trust.isPresent() ? trust.get() : SSLContext.getDefault();
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("this Java has no TLS", e);
        }
    }
}
