package dev.mockbell.wire;

import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import java.net.URI;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.apache.hc.client5.http.auth.AuthChallenge;
import org.apache.hc.client5.http.auth.AuthScope;
import org.apache.hc.client5.http.auth.AuthenticationException;
import org.apache.hc.client5.http.auth.ChallengeType;
import org.apache.hc.client5.http.auth.MalformedChallengeException;
import org.apache.hc.client5.http.auth.UsernamePasswordCredentials;
import org.apache.hc.client5.http.impl.auth.AuthChallengeParser;
import org.apache.hc.client5.http.impl.auth.BasicCredentialsProvider;
import org.apache.hc.client5.http.impl.auth.DigestScheme;
import org.apache.hc.client5.http.protocol.HttpClientContext;
import org.apache.hc.core5.http.HttpHost;
import org.apache.hc.core5.http.ParseException;
import org.apache.hc.core5.http.message.BasicHttpRequest;
import org.apache.hc.core5.http.message.ParserCursor;

/** Answers what a server asks a client to prove (RFC 9110 §11): by Digest where it is offered (RFC 7616), or else by Basic. */
final class Challenges {
    private Challenges() {}

    /**
     * The value of Authorization that answers a response of status 401, or of Proxy-Authorization one of 407. Stronger digests
     * go before weaker ones, and Basic comes last.
     *
     * @return empty when the response asks for nothing that a name and a password can give
     */
    static Optional<String> answer(Message response, CallRequest request, Login.WhenAsked login) {
        String asking = response.status() == 407 ? "Proxy-Authenticate" : "WWW-Authenticate";
        List<AuthChallenge> offered = new ArrayList<>();
        for (Header header : response.headers()) {
            if (header.name().equalsIgnoreCase(asking)) {
                offered.addAll(parsed(header.value()));
            }
        }
        offered.sort(Comparator.comparingInt(Challenges::rank));
        return offered.stream().flatMap(c -> answer(c, request, login).stream()).findFirst();
    }

    private static List<AuthChallenge> parsed(String value) {
        try {
            return AuthChallengeParser.INSTANCE.parse(ChallengeType.TARGET, value, new ParserCursor(0, value.length()));
        } catch (ParseException e) {
            return List.of();
        }
    }

    private static int rank(AuthChallenge challenge) {
        if (!"digest".equalsIgnoreCase(challenge.getSchemeName())) {
            return 9;
        }
        String algorithm = challenge.getParams() == null
                ? ""
                : challenge.getParams().stream()
                        .filter(p -> "algorithm".equalsIgnoreCase(p.getName()))
                        .map(p -> String.valueOf(p.getValue()))
                        .findFirst()
                        .orElse("");
        return algorithm.toUpperCase(java.util.Locale.ROOT).startsWith("SHA-256") ? 1 : 2;
    }

    private static Optional<String> answer(AuthChallenge challenge, CallRequest request, Login.WhenAsked login) {
        String scheme = challenge.getSchemeName();
        if ("basic".equalsIgnoreCase(scheme)) {
            return Optional.of(new Login.Basic(login.user(), login.password()).header());
        }
        return "digest".equalsIgnoreCase(scheme) ? digest(challenge, request, login) : Optional.empty();
    }

    private static Optional<String> digest(AuthChallenge challenge, CallRequest request, Login.WhenAsked login) {
        URI address = request.address();
        HttpHost host = new HttpHost(address.getScheme(), address.getHost(), address.getPort());
        BasicCredentialsProvider credentials = new BasicCredentialsProvider();
        credentials.setCredentials(
                new AuthScope(host),
                new UsernamePasswordCredentials(login.user(), login.password().toCharArray()));
        DigestScheme digest = new DigestScheme();
        HttpClientContext context = HttpClientContext.create();
        try {
            digest.processChallenge(challenge, context);
            if (!digest.isResponseReady(host, credentials, context)) {
                return Optional.empty();
            }
            BasicHttpRequest asked = new BasicHttpRequest(request.method(), WireHead.target(address));
            return Optional.of(digest.generateAuthResponse(host, asked, context));
        } catch (MalformedChallengeException | AuthenticationException e) {
            // an algorithm or a form that the library does not know; another challenge may do
            return Optional.empty();
        }
    }
}
