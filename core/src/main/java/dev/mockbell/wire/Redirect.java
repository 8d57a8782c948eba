package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Message;
import java.net.URI;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * An answer that leads elsewhere (RFC 9110 §15.4).
 *
 * @param to where
 * @param keepsRequest whether method and body are sent there too; otherwise what is there is only fetched
 * @param sameServer whether scheme, host and port stay, so that who logs in here may log in there
 */
public record Redirect(URI to, boolean keepsRequest, boolean sameServer) {
    private static final Set<Integer> KEEPING = Set.of(307, 308);
    private static final Set<Integer> FETCHING = Set.of(301, 302, 303);
    private static final Set<String> OF_A_BODY = Set.of("content-type", "content-encoding", "soapaction");

    private static final Set<String> OF_A_PERSON = Set.of("authorization", "cookie");

    /** Where an answer leads; empty when it leads nowhere, out of TLS, or to what is no web address. */
    public static Optional<Redirect> of(Message response, URI asked) {
        if (!KEEPING.contains(response.status()) && !FETCHING.contains(response.status())) {
            return Optional.empty();
        }
        return response.header("Location")
                .flatMap(l -> address(l, asked))
                .filter(to -> to.getScheme().equalsIgnoreCase(asked.getScheme()) || "https".equals(scheme(to)))
                .map(to -> new Redirect(
                        to, KEEPING.contains(response.status()), server(to).equals(server(asked))));
    }

    private static Optional<URI> address(String location, URI asked) {
        try {
            URI to = asked.resolve(location.strip());
            boolean web = "http".equals(scheme(to)) || "https".equals(scheme(to));
            return Optional.of(to).filter(u -> web && u.getHost() != null);
        } catch (IllegalArgumentException noAddress) {
            return Optional.empty();
        }
    }

    private static String scheme(URI uri) {
        return String.valueOf(uri.getScheme()).toLowerCase(Locale.ROOT);
    }

    private static String server(URI uri) {
        int usual = "https".equals(scheme(uri)) ? 443 : 80;
        return scheme(uri) + "://" + uri.getHost().toLowerCase(Locale.ROOT) + ":"
                + (uri.getPort() < 0 ? usual : uri.getPort());
    }

    /** A request to there, without what must not or need not go along. */
    public CallRequest without(CallRequest request) {
        return new CallRequest(
                keepsRequest ? request.method() : "GET",
                to,
                request.headers().stream().filter(h -> goesAlong(h.name())).toList(),
                keepsRequest ? request.body() : Content.NONE,
                keepsRequest ? request.framing() : Framing.USUAL,
                request.timeout());
    }

    private boolean goesAlong(String header) {
        String name = header.toLowerCase(Locale.ROOT);
        return (keepsRequest || !OF_A_BODY.contains(name)) && (sameServer || !OF_A_PERSON.contains(name));
    }

    /** How the other server is reached: nobody logs in there who was to log in here. */
    public Connect by(Connect usual) {
        if (sameServer) {
            return usual;
        }
        Trust trust = usual.trust();
        return usual.withLogin(Optional.empty()).with(new Trust(Set.of(), trust.authorities(), Optional.empty()));
    }
}
