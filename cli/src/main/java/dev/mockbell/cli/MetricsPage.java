package dev.mockbell.cli;

import com.sun.net.httpserver.HttpServer;
import dev.mockbell.problem.Problem;
import dev.mockbell.report.LoadMetrics;
import dev.mockbell.wire.EventLoops;
import java.io.IOException;
import java.net.BindException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Function;

/** Figures on loopback for who comes and asks, in the form that is asked for. */
final class MetricsPage implements AutoCloseable {
    private final HttpServer server;

    private MetricsPage(HttpServer server) {
        this.server = server;
    }

    /**
     * Listens.
     *
     * @param figures gives them, as OpenMetrics when that is asked for
     * @throws Problem when the port is taken
     */
    static MetricsPage at(int port, Function<Boolean, String> figures) {
        try {
            HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 16);
            server.createContext("/metrics", exchange -> {
                String accept = String.join(",", exchange.getRequestHeaders().getOrDefault("Accept", List.of()));
                boolean open = accept.contains("application/openmetrics-text");
                byte[] body = figures.apply(open).getBytes(StandardCharsets.UTF_8);
                exchange.getResponseHeaders().set("Content-Type", open ? LoadMetrics.OPEN : LoadMetrics.TEXT);
                exchange.sendResponseHeaders(200, body.length);
                exchange.getResponseBody().write(body);
                exchange.close();
            });
            server.start();
            return new MetricsPage(server);
        } catch (BindException e) {
            throw EventLoops.taken("127.0.0.1", port, EventLoops.freePort(port + 1), e);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "Metrics cannot be served: " + Problem.reason(e), "port " + port, null, e);
        }
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort() + "/metrics";
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
