package dev.mockbell.contract;

import dev.mockbell.problem.Problem;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * Gives addresses another host, port or path; what is not given stays. A new host without a port has the usual one.
 *
 * @param path with or without the slash in front
 * @param scheme {@code http} or {@code https}
 */
public record Readdress(Optional<String> host, Optional<Integer> port, Optional<String> path, Optional<String> scheme)
        implements UnaryOperator<String> {
    /** Whether it changes anything. */
    public boolean isEmpty() {
        return host.isEmpty() && port.isEmpty() && path.isEmpty() && scheme.isEmpty();
    }

    /** @throws Problem when no address can be made of it */
    @Override
    public String apply(String address) {
        if (isEmpty()) {
            return address;
        }
        try {
            URI old = new URI(address.strip());
            return new URI(
                            scheme.orElse(old.getScheme() == null ? "http" : old.getScheme()),
                            null,
                            host.orElse(old.getHost()),
                            port.orElse(host.isPresent() ? -1 : old.getPort()),
                            path.map(p -> p.startsWith("/") ? p : "/" + p).orElse(old.getPath()),
                            old.getQuery(),
                            null)
                    .toString();
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "No address can be made of this", address, "Check host, port and path.", e);
        }
    }
}
