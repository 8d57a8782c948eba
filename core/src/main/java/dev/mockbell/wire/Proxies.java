package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Proxy;
import java.net.ProxySelector;
import java.net.SocketAddress;
import java.net.URI;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** Which proxy an address is reached through: one that was named, or those of the usual environment variables. */
public final class Proxies {
    private Proxies() {}

    /** Straight to everything. */
    public static ProxySelector none() {
        return new Chosen(Optional.empty(), Optional.empty(), List.of());
    }

    /**
     * A proxy that was named.
     *
     * @param type HTTP or SOCKS
     */
    public record Named(Proxy.Type type, String host, int port) {
        /** It stands in the way of everything, this machine too. */
        public ProxySelector forAll() {
            return new Chosen(Optional.of(proxy()), Optional.of(proxy()), List.of());
        }

        private Proxy proxy() {
            return new Proxy(type, InetSocketAddress.createUnresolved(host, port));
        }
    }

    /**
     * Reads the name of a proxy.
     *
     * @param text {@code host:port} or {@code http://host:port} for one of HTTP, {@code socks://host:port}
     * @throws Problem when it is none of these
     */
    public static Named parsed(String text) {
        String full = text.contains("://") ? text.strip() : "http://" + text.strip();
        try {
            URI uri = URI.create(full);
            boolean socks = "socks".equals(uri.getScheme()) || "socks5".equals(uri.getScheme());
            if (uri.getHost() != null && (socks || "http".equals(uri.getScheme()))) {
                int usual = socks ? 1080 : 80;
                return new Named(
                        socks ? Proxy.Type.SOCKS : Proxy.Type.HTTP,
                        uri.getHost(),
                        uri.getPort() < 0 ? usual : uri.getPort());
            }
        } catch (IllegalArgumentException e) {
            throw wrong(text, e);
        }
        throw wrong(text, null);
    }

    /**
     * One proxy for everything, this machine too: who names a proxy means it, and one that records may stand before a
     * service of this machine.
     *
     * @param text as in {@link #parsed}
     * @throws Problem when it names none
     */
    public static ProxySelector named(String text) {
        return parsed(text).forAll();
    }

    /** This machine is reached through no proxy that is named for all programs, unless {@code no_proxy} says otherwise. Those of {@code http_proxy}, {@code https_proxy} and {@code no_proxy}, in capitals too. */
    public static ProxySelector ofEnvironment(Map<String, String> environment) {
        return new Chosen(
                variable(environment, "http_proxy").map(t -> parsed(t).proxy()),
                variable(environment, "https_proxy").map(t -> parsed(t).proxy()),
                variable(environment, "no_proxy")
                        .map(t -> List.of(t.strip().split("\\s*,\\s*")))
                        .orElse(List.of("localhost", "127.0.0.1", "[::1]")));
    }

    private static Optional<String> variable(Map<String, String> environment, String name) {
        return Optional.ofNullable(environment.getOrDefault(name, environment.get(name.toUpperCase(Locale.ROOT))))
                .filter(t -> !t.isBlank());
    }

    private static Problem wrong(String text, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "This does not name a proxy",
                text,
                "Write it as host:port, or as socks://host:port.",
                cause);
    }

    private static final class Chosen extends ProxySelector {
        private final Optional<Proxy> plain;
        private final Optional<Proxy> secure;
        private final List<String> direct;

        Chosen(Optional<Proxy> plain, Optional<Proxy> secure, List<String> direct) {
            this.plain = plain;
            this.secure = secure;
            this.direct = direct;
        }

        @Override
        public List<Proxy> select(URI uri) {
            String host = String.valueOf(uri.getHost()).toLowerCase(Locale.ROOT);
            if (direct.stream().anyMatch(d -> matches(host, d.toLowerCase(Locale.ROOT)))) {
                return List.of(Proxy.NO_PROXY);
            }
            Optional<Proxy> proxy = "https".equalsIgnoreCase(uri.getScheme()) ? secure : plain;
            return List.of(proxy.orElse(Proxy.NO_PROXY));
        }

        /** Clients are kept by what they go through. */
        @Override
        public boolean equals(Object other) {
            return other instanceof Chosen c
                    && plain.equals(c.plain)
                    && secure.equals(c.secure)
                    && direct.equals(c.direct);
        }

        @Override
        public int hashCode() {
            return Objects.hash(plain, secure, direct);
        }

        private static boolean matches(String host, String pattern) {
            String tail = pattern.startsWith("*") ? pattern.substring(1) : pattern;
            String dotted = tail.startsWith(".") ? tail : "." + tail;
            return "*".equals(pattern) || !tail.isEmpty() && (host.equals(tail) || host.endsWith(dotted));
        }

        @Override
        public void connectFailed(URI uri, SocketAddress address, IOException failure) {
            // the caller tells of it
        }
    }
}
