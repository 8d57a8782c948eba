package dev.mockbell.wire;

import java.net.InetSocketAddress;
import java.net.Proxy;
import java.net.ProxySelector;
import java.net.URI;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import javax.net.ssl.SSLContext;

/**
 * How a server is reached; the same for calls, for contracts that are fetched and for load.
 *
 * @param context speaks TLS in place of one made by {@code trust}; empty for that
 * @param trust which certificates are trusted, and the client's own
 * @param login who logs in; empty for nobody
 * @param proxies which proxy an address is reached through
 * @param proxyLogin who logs in at that proxy; empty for nobody
 * @param kept whether a connection is kept for the next call to the same server, as clients of services do; otherwise each
 *     call has one of its own
 * @param timeouts how long to wait
 * @param limits how much is taken
 */
public record Connect(
        Optional<SSLContext> context,
        Trust trust,
        Optional<Login> login,
        ProxySelector proxies,
        Optional<ProxyLogin> proxyLogin,
        boolean kept,
        Timeouts timeouts,
        Limits limits) {
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

        /** None longer than a bound. */
        public Timeouts within(Duration bound) {
            return new Timeouts(shorter(connect, bound), shorter(answer, bound), shorter(whole, bound));
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
    public static final Connect USUAL = new Connect(
            Optional.empty(),
            Trust.USUAL,
            Optional.empty(),
            Proxies.none(),
            Optional.empty(),
            false,
            Timeouts.USUAL,
            Limits.USUAL);

    /** With certificates judged by another context. */
    public Connect withTrust(SSLContext other) {
        return new Connect(Optional.of(other), trust, login, proxies, proxyLogin, kept, timeouts, limits);
    }

    /** Trusting other certificates. */
    public Connect with(Trust other) {
        return new Connect(context, other, login, proxies, proxyLogin, kept, timeouts, limits);
    }

    /** With a login. */
    public Connect withLogin(Optional<Login> other) {
        return new Connect(context, trust, other, proxies, proxyLogin, kept, timeouts, limits);
    }

    /** Through other proxies. */
    public Connect through(ProxySelector other) {
        return new Connect(context, trust, login, other, proxyLogin, kept, timeouts, limits);
    }

    /** With a login at the proxy. */
    public Connect withProxyLogin(Optional<ProxyLogin> other) {
        return new Connect(context, trust, login, proxies, other, kept, timeouts, limits);
    }

    /** With connections kept, or not. */
    public Connect keeping(boolean other) {
        return new Connect(context, trust, login, proxies, proxyLogin, other, timeouts, limits);
    }

    /** With other times to wait. */
    public Connect with(Timeouts other) {
        return new Connect(context, trust, login, proxies, proxyLogin, kept, other, limits);
    }

    /** With other limits. */
    public Connect with(Limits other) {
        return new Connect(context, trust, login, proxies, proxyLogin, kept, timeouts, other);
    }

    /** The proxy that an address is reached through; empty when it is reached straight. */
    public Optional<Proxy> proxy(URI address) {
        List<Proxy> found = proxies.select(address);
        return found == null
                ? Optional.empty()
                : found.stream()
                        .findFirst()
                        .filter(p -> p.type() != Proxy.Type.DIRECT && p.address() instanceof InetSocketAddress);
    }

    /**
     * The context that TLS is spoken with.
     *
     * @throws dev.mockbell.problem.Problem when a file of certificates cannot be read
     */
    public SSLContext tls() {
        return context.orElseGet(trust::context);
    }
}
