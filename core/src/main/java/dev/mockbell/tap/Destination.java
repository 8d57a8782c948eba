package dev.mockbell.tap;

import java.net.URI;

/**
 * Where a relay leads to.
 *
 * @param tls whether TLS is spoken there
 */
public record Destination(String host, int port, boolean tls) {
    /** Of an address by http or https. */
    public static Destination of(URI address) {
        boolean tls = "https".equalsIgnoreCase(address.getScheme());
        String host = address.getHost();
        boolean bare = host.startsWith("[") && host.endsWith("]");
        return new Destination(
                bare ? host.substring(1, host.length() - 1) : host,
                address.getPort() > 0 ? address.getPort() : tls ? 443 : 80,
                tls);
    }

    /** As in a Host field: the port stands there when it is not the usual one (RFC 9110 §7.2). */
    public String authority() {
        String name = host.contains(":") ? "[" + host + "]" : host;
        return port == (tls ? 443 : 80) ? name : name + ":" + port;
    }

    /** {@code https://huts.example:8443}. */
    public String base() {
        return (tls ? "https://" : "http://") + authority();
    }
}
