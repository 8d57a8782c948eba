package dev.mockbell.wire;

import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Proxy;
import java.net.ProxySelector;
import java.net.URI;
import java.net.UnknownHostException;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.locks.LockSupport;
import javax.net.ssl.HostnameVerifier;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLPeerUnverifiedException;
import javax.net.ssl.SSLSession;
import org.apache.hc.client5.http.DnsResolver;
import org.apache.hc.client5.http.SystemDefaultDnsResolver;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.TlsConfig;
import org.apache.hc.client5.http.impl.DefaultClientConnectionReuseStrategy;
import org.apache.hc.client5.http.impl.async.CloseableHttpAsyncClient;
import org.apache.hc.client5.http.impl.async.HttpAsyncClients;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManager;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManagerBuilder;
import org.apache.hc.client5.http.ssl.ClientTlsStrategyBuilder;
import org.apache.hc.client5.http.ssl.DefaultHostnameVerifier;
import org.apache.hc.core5.http.config.Http1Config;
import org.apache.hc.core5.http2.HttpVersionPolicy;
import org.apache.hc.core5.io.CloseMode;
import org.apache.hc.core5.reactor.IOReactorConfig;
import org.apache.hc.core5.util.Timeout;

/**
 * The clients of the HTTP library. A client serves one call at a time, so that what its connection records is that call's;
 * afterwards it waits for the next, because making one costs more than a call. One that keeps its connection keeps it for the
 * same server. Safe for many threads.
 */
final class CallingClients implements AutoCloseable {
    private static final int MOST_IDLE = 16;
    private static final long MOST_SETTLING = 50_000_000;
    private static final long SETTLING_STEP = 20_000;

    /**
     * What clients differ in.
     *
     * @param kept the server that a connection is kept to; empty for none
     */
    private record Kind(
            boolean secure,
            Optional<SSLContext> context,
            Trust trust,
            ProxySelector proxies,
            Optional<ProxyLogin> proxyLogin,
            Optional<Proxy> socks,
            String kept,
            Duration connecting,
            int line,
            int headers) {}

    /** A client with the recording of the call that it serves. */
    static final class Client {
        private final Kind kind;
        private final CloseableHttpAsyncClient http;
        private PoolingAsyncClientConnectionManager pool;
        private volatile Recording recording;

        private Client(Kind kind, SSLContext tls) {
            this.kind = kind;
            this.http = made(tls);
            http.start();
        }

        CloseableHttpAsyncClient http() {
            return http;
        }

        private CloseableHttpAsyncClient made(SSLContext tls) {
            Timeout connecting = Timeout.of(kind.connecting());
            PoolingAsyncClientConnectionManagerBuilder connections = PoolingAsyncClientConnectionManagerBuilder.create()
                    .setDnsResolver(asking())
                    .setDefaultConnectionConfig(ConnectionConfig.custom()
                            .setConnectTimeout(connecting)
                            .build())
                    .setDefaultTlsConfig(TlsConfig.custom()
                            .setVersionPolicy(HttpVersionPolicy.FORCE_HTTP_1)
                            .setHandshakeTimeout(connecting)
                            .build());
            if (kind.secure()) {
                connections.setTlsStrategy(ClientTlsStrategyBuilder.create()
                        .setSslContext(new RecordingTls(tls, () -> recording))
                        .setHostnameVerifier(names())
                        .buildAsync());
            }
            pool = connections.build();
            var builder = HttpAsyncClients.custom()
                    .setConnectionManager(pool)
                    .setIOReactorConfig(reactor())
                    .setHttp1Config(Http1Config.custom()
                            .setMaxHeaderCount(kind.headers())
                            .setMaxLineLength(kind.line())
                            .build())
                    .setConnectionReuseStrategy(
                            // what asks a proxy to let TLS through is no call yet
                            (request, response, context) ->
                                    (!kind.kept().isEmpty() || "CONNECT".equals(request.getMethod()))
                                            && DefaultClientConnectionReuseStrategy.INSTANCE.keepAlive(
                                                    request, response, context))
                    .setProxySelector(kind.proxies())
                    .setUserAgent("MockBell")
                    // whether a body is coded as it says is looked at to its end, elsewhere
                    .disableContentCompression()
                    .disableAutomaticRetries()
                    .disableCookieManagement()
                    .disableAuthCaching()
                    .setThreadFactory(daemon("http-call"));
            if (!kind.secure()) {
                builder.setIoSessionDecorator(session -> new RecordingSession(
                        session, () -> recording, kind.socks().isPresent()));
            }
            return builder.build();
        }

        private IOReactorConfig reactor() {
            IOReactorConfig.Builder reactor = IOReactorConfig.custom().setIoThreadCount(1);
            kind.socks().ifPresent(p -> {
                InetSocketAddress at = (InetSocketAddress) p.address();
                reactor.setSocksProxyAddress(new InetSocketAddress(at.getHostString(), at.getPort()));
                kind.proxyLogin().ifPresent(l -> {
                    reactor.setSocksProxyUsername(l.user());
                    reactor.setSocksProxyPassword(l.password());
                });
            });
            return reactor.build();
        }

        /**
         * Waits until the connection of the last call is free for the next one: an answer is there a moment before that, and a
         * call in that moment would open another.
         */
        private void settle() {
            long until = System.nanoTime() + MOST_SETTLING;
            while (pool.getTotalStats().getLeased() > 0 && System.nanoTime() < until) {
                LockSupport.parkNanos(SETTLING_STEP);
            }
        }

        /** The library looks a name up when it asks for a connection, and tells of that in no other way. */
        private DnsResolver asking() {
            return new DnsResolver() {
                @Override
                public InetAddress[] resolve(String host) throws UnknownHostException {
                    recording.asked();
                    InetAddress[] found = SystemDefaultDnsResolver.INSTANCE.resolve(host);
                    recording.named();
                    return found;
                }

                @Override
                public String resolveCanonicalHostname(String host) throws UnknownHostException {
                    return SystemDefaultDnsResolver.INSTANCE.resolveCanonicalHostname(host);
                }
            };
        }

        /** A certificate that is trusted by itself is trusted for whatever host shows it. */
        private HostnameVerifier names() {
            HostnameVerifier usual = new DefaultHostnameVerifier();
            return (host, session) -> isPinned(session) || usual.verify(host, session);
        }

        private boolean isPinned(SSLSession session) {
            try {
                return session.getPeerCertificates()[0] instanceof X509Certificate shown
                        && kind.trust().pins(shown);
            } catch (SSLPeerUnverifiedException e) {
                return false;
            }
        }

        private static ThreadFactory daemon(String name) {
            return task -> {
                Thread thread = new Thread(task, name);
                thread.setDaemon(true);
                return thread;
            };
        }
    }

    private final Map<Kind, Deque<Client>> idle = new HashMap<>();
    private int waiting;
    private boolean closed;

    /** A client for one call. */
    Client take(Connect by, URI address, Recording recording) {
        Kind kind = new Kind(
                "https".equalsIgnoreCase(address.getScheme()),
                by.context(),
                by.trust(),
                by.proxies(),
                by.proxyLogin(),
                by.proxy(address).filter(p -> p.type() == Proxy.Type.SOCKS),
                by.kept() ? address.getScheme() + "://" + address.getRawAuthority() : "",
                by.timeouts().connect(),
                by.limits().line(),
                by.limits().headers());
        Client client = free(kind);
        if (client == null) {
            client = new Client(kind, kind.secure() ? by.tls() : null);
        }
        client.recording = recording;
        return client;
    }

    private synchronized Client free(Kind kind) {
        Deque<Client> free = idle.get(kind);
        Client client = free == null ? null : free.poll();
        waiting -= client == null ? 0 : 1;
        return client;
    }

    /** The call is over. */
    void back(Client client) {
        if (!client.kind.kept().isEmpty()) {
            client.settle();
        }
        boolean kept;
        synchronized (this) {
            kept = !closed && waiting < MOST_IDLE;
            if (kept) {
                waiting++;
                idle.computeIfAbsent(client.kind, k -> new ArrayDeque<>()).push(client);
            }
        }
        if (!kept) {
            client.http.close(CloseMode.GRACEFUL);
        }
    }

    @Override
    public void close() {
        Map<Kind, Deque<Client>> left;
        synchronized (this) {
            closed = true;
            left = new HashMap<>(idle);
            idle.clear();
        }
        left.values().forEach(clients -> clients.forEach(c -> c.http.close(CloseMode.GRACEFUL)));
    }
}
