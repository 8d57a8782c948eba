package dev.mockbell.exchange;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * What TLS used on the connection of an exchange.
 *
 * @param version of the protocol: {@code TLSv1.3}
 * @param cipher the suite's name
 * @param chain the server's certificates for people, its own first
 */
public record Secured(String version, String cipher, List<String> chain) {
    public Secured {
        chain = List.copyOf(chain);
    }

    /** As text: version, cipher and each certificate on a line of its own. */
    public String text() {
        return version + "\n" + cipher + (chain.isEmpty() ? "" : "\n" + String.join("\n", chain));
    }

    /** Reads what {@link #text} wrote; empty for anything else. */
    public static Optional<Secured> of(String text) {
        String[] lines = text == null ? new String[0] : text.split("\n");
        return lines.length < 2
                ? Optional.empty()
                : Optional.of(
                        new Secured(lines[0], lines[1], Arrays.asList(lines).subList(2, lines.length)));
    }
}
