package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Proxies;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * Where the request goes. It comes first, because it decides which secrets the rest may hold.
 *
 * @param via a proxy that reads what is not over TLS; empty for none
 */
record AddressStage(Braces address, Optional<Braces> via) implements Stage {
    @Override
    public List<Braces> texts() {
        return via.map(v -> List.of(address, v)).orElse(List.of(address));
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return new AddressStage(change.apply(address), via.map(change));
    }

    @Override
    public void apply(Draft draft) {
        Filler open = draft.filler().forHost("");
        find(draft);
        if ("http".equalsIgnoreCase(draft.address().getScheme())) {
            via.ifPresent(v -> draft.passing(Proxies.parsed(open.fill(v)).host()));
        }
    }

    private void find(Draft draft) {
        try {
            // an address that needs no secret is made without one, so that none can end up in a host's name
            draft.address(uri(draft.filler().forHost("").fill(address)));
        } catch (Problem problem) {
            if (problem.kind() != Problem.Kind.SECRET_WITHHELD) {
                throw problem;
            }
            URI literal = uri(start());
            String host = JmsAddress.hostOf(literal);
            draft.address(uri(draft.filler().forHost(host).fill(address)));
            if (!host.equals(JmsAddress.hostOf(draft.address()))
                    || !java.util.Objects.equals(
                            literal.getRawAuthority(), draft.address().getRawAuthority())) {
                throw Problem.input(
                        "The host of the address comes from a secret", address.source(), "Write the host itself.");
            }
        }
    }

    /** The address up to its first expression. */
    private String start() {
        boolean literal = !address.pieces().isEmpty() && address.pieces().get(0) instanceof Braces.Piece.Literal;
        return literal ? ((Braces.Piece.Literal) address.pieces().get(0)).text() : "";
    }

    private static URI uri(String text) {
        String address = text.strip();
        try {
            URI uri = new URI(address);
            if (JmsAddress.is(uri)) {
                JmsAddress.of(uri);
                return uri;
            }
            boolean http = uri.getScheme() != null && uri.getScheme().matches("(?i)https?");
            if (uri.getHost() == null || !http) {
                throw Problem.input(
                        "This is not an address that can be called",
                        address,
                        "Start it with http:// or https://, or jms: for a queue.");
            }
            if (uri.getPort() == 0 || uri.getPort() > 65_535) {
                throw Problem.input("There is no port " + uri.getPort(), address, "Ports go from 1 to 65535.");
            }
            return uri;
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "This is not a well-formed address: " + e.getReason(), address, "Mend it.", e);
        }
    }
}
