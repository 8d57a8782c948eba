package dev.mockbell.tap;

import dev.mockbell.problem.Problem;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.Optional;

/**
 * A relay as it is to be.
 *
 * @param host the address to listen on
 * @param port 0 for any free one
 * @param target the endpoint that a tap leads to; empty for a forward proxy, which leads wherever its clients say
 * @param tls whether clients speak TLS to it
 * @param opens for a forward proxy, whether it looks into what goes through tunnels
 */
public record TapPlan(String host, int port, Optional<URI> target, boolean tls, boolean opens) {
    /** Where nobody but programs of this machine can call. */
    public static final String LOOPBACK = "127.0.0.1";

    /** Where a tap listens unless that is said. */
    public static final int USUAL_PORT = 8490;

    /** Where a forward proxy listens unless that is said. */
    public static final int USUAL_PROXY_PORT = 8488;

    /** A tap on an endpoint, on loopback. */
    public static TapPlan to(URI target, int port) {
        return new TapPlan(LOOPBACK, port, Optional.of(target), false, false);
    }

    /** A forward proxy, on loopback. */
    public static TapPlan proxy(int port) {
        return new TapPlan(LOOPBACK, port, Optional.empty(), false, false);
    }

    /**
     * The endpoint that is written.
     *
     * @throws Problem when it is no address by http or https
     */
    public static URI target(String written) {
        try {
            URI address = new URI(written.strip());
            boolean known =
                    "http".equalsIgnoreCase(address.getScheme()) || "https".equalsIgnoreCase(address.getScheme());
            if (known && address.getHost() != null && address.getPort() < 65_536) {
                return address;
            }
        } catch (URISyntaxException e) {
            throw noAddress(written, e);
        }
        throw noAddress(written, null);
    }

    private static Problem noAddress(String written, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "A tap cannot lead to “" + written + "”",
                null,
                "Give an address such as http://127.0.0.1:8080/stay or https://huts.example/stay.",
                cause);
    }

    public TapPlan withPort(int other) {
        return new TapPlan(host, other, target, tls, opens);
    }

    public TapPlan withHost(String other) {
        return new TapPlan(other, port, target, tls, opens);
    }

    public TapPlan withTls(boolean on) {
        return new TapPlan(host, port, target, on, opens);
    }

    public TapPlan opening(boolean on) {
        return new TapPlan(host, port, target, tls, on);
    }
}
