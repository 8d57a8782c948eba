package dev.mockbell.demo.fronts;

import com.sun.net.httpserver.BasicAuthenticator;
import com.sun.net.httpserver.HttpContext;
import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsParameters;
import com.sun.net.httpserver.HttpsServer;
import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.EnumMap;
import java.util.Map;
import java.util.concurrent.Executor;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLParameters;

/** The fronts, each a server on a port of its own on the loopback address, with the same services behind. */
public final class Fronts implements AutoCloseable {
    /** Who may come in. */
    public static final String USER = "guide";

    /** By which password; made up, as all of this is. */
    public static final String PASSWORD = "granite-17";

    private static final Duration SLOW = Duration.ofSeconds(3);

    private final Keys keys;
    private final Map<Front, HttpServer> servers = new EnumMap<>(Front.class);

    /**
     * Starts them.
     *
     * @param port the first of their ports, or any that are free where these are taken or it is 0
     * @param services handlers by path
     * @param named the path whose messages must say who calls, where nothing else does
     */
    public Fronts(int port, Keys keys, Map<String, HttpHandler> services, String named, Executor threads)
            throws IOException {
        this.keys = keys;
        SSLContext tls = keys.tls();
        for (Front front : Front.values()) {
            HttpServer server = server(front, port == 0 ? 0 : port + front.ordinal());
            server.setExecutor(threads);
            if (server instanceof HttpsServer secure) {
                secure.setHttpsConfigurator(configured(tls, front == Front.CLIENT_CERTIFICATE));
            }
            services.forEach((path, service) -> {
                HttpHandler guarded = guarded(front, service, path.equals(named));
                login(front, server.createContext(path, guarded));
            });
            server.start();
            servers.put(front, server);
        }
    }

    /** A service whose messages must say who calls. */
    public static HttpHandler named(HttpHandler service) {
        return Guards.messages(new NamedCallers(USER, PASSWORD, true), service);
    }

    private HttpHandler guarded(Front front, HttpHandler service, boolean names) {
        if (front == Front.SEALED) {
            // the signature says who calls
            return Guards.messages(new SealedMessages(keys), service);
        }
        // who has said who calls by other means may say it in the message too
        HttpHandler guarded = Guards.messages(new NamedCallers(USER, PASSWORD, names), service);
        return front == Front.SLOW ? Guards.slow(SLOW, guarded) : guarded;
    }

    private static void login(Front front, HttpContext context) {
        if (front == Front.BASIC) {
            context.setAuthenticator(new BasicAuthenticator("Northfell", StandardCharsets.UTF_8) {
                @Override
                public boolean checkCredentials(String user, String password) {
                    return USER.equals(user) && PASSWORD.equals(password);
                }
            });
        } else if (front == Front.DIGEST) {
            context.setAuthenticator(new DigestLogin("Northfell", USER, PASSWORD));
        }
    }

    private static HttpsConfigurator configured(SSLContext tls, boolean client) {
        return new HttpsConfigurator(tls) {
            @Override
            public void configure(HttpsParameters parameters) {
                SSLParameters usual = getSSLContext().getDefaultSSLParameters();
                usual.setNeedClientAuth(client);
                parameters.setSSLParameters(usual);
            }
        };
    }

    private static HttpServer server(Front front, int port) throws IOException {
        try {
            return bound(front, port);
        } catch (BindException taken) {
            return bound(front, 0);
        }
    }

    private static HttpServer bound(Front front, int port) throws IOException {
        InetSocketAddress at = new InetSocketAddress(InetAddress.getLoopbackAddress(), port);
        return front.secure() ? HttpsServer.create(at, 100) : HttpServer.create(at, 100);
    }

    /** Where a service is behind a front. */
    public String address(Front front, String path) {
        int port = servers.get(front).getAddress().getPort();
        return (front.secure() ? "https://localhost:" : "http://127.0.0.1:") + port + path;
    }

    /** The keys that were made for it. */
    public Keys keys() {
        return keys;
    }

    @Override
    public void close() {
        servers.values().forEach(s -> s.stop(0));
    }
}
