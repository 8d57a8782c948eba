package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/**
 * Fetches the documents of a contract over HTTP, following redirects. A login is asked for when an address demands one,
 * remembered for as long as the fetcher lives, and sent to no other server than the one that asked.
 */
public final class HttpFetcher implements DocumentFetcher {
    private static final int MOST_TRIES = 3;
    private static final int MOST_MOVES = 10;

    private final Supplier<HttpCaller> caller;
    private final ReadLimits limits;
    private final LoginAsker asker;
    private final Map<String, Login> logins = new ConcurrentHashMap<>();

    public HttpFetcher(HttpCaller caller) {
        this(() -> caller, ReadLimits.USUAL, LoginAsker.NONE);
    }

    /** @param caller is asked for when something has to be fetched, since it costs to make */
    public HttpFetcher(Supplier<HttpCaller> caller, ReadLimits limits, LoginAsker asker) {
        this.caller = caller;
        this.limits = limits;
        this.asker = asker;
    }

    /** Fetches http and https with {@code caller}, and files from disk. */
    public static DocumentFetcher forEverything(HttpCaller caller, long fileLimit) {
        return new HttpFetcher(caller).andFiles(fileLimit);
    }

    /** This for http and https, and files from disk. */
    public DocumentFetcher andFiles(long fileLimit) {
        DocumentFetcher files = DocumentFetcher.files(fileLimit);
        return (uri, stop) -> {
            String scheme = uri.getScheme() == null ? "" : uri.getScheme();
            return scheme.startsWith("http") ? fetch(uri, stop) : files.fetch(uri, stop);
        };
    }

    @Override
    public Fetched fetch(URI uri, StopSignal stop) {
        URI at = withoutLogin(uri);
        int moves = 0;
        for (int asked = 0; ; ) {
            Message response = get(at, stop);
            if (response.status() / 100 == 2) {
                return new Fetched(
                        at,
                        response.body().bytes(),
                        response.header("Content-Type").orElse(""));
            }
            Optional<URI> moved = moved(at, response);
            if (moved.isPresent()) {
                if (++moves > MOST_MOVES) {
                    throw Problem.input(
                            "The address leads from one to the next without end", uri.toString(), "Check the address.");
                }
                at = moved.get();
                continue;
            }
            boolean again = logins.containsKey(server(at));
            Optional<Login> login = response.status() == 401 && ++asked <= MOST_TRIES
                    ? asker.ask(at, response.header("WWW-Authenticate").orElse(""), again)
                    : Optional.empty();
            if (login.isEmpty()) {
                throw refused(at, response.status(), again);
            }
            logins.put(server(at), login.get());
        }
    }

    /** A login in an address is used as such, and is not part of where the document is (RFC 9110 §4.2.4). */
    private URI withoutLogin(URI uri) {
        if (uri.getUserInfo() == null) {
            return uri;
        }
        URI plain = URI.create(Redactor.withoutLogin(uri.toString()));
        String[] parts = uri.getUserInfo().split(":", 2);
        logins.putIfAbsent(server(plain), new Login.Basic(parts[0], parts.length > 1 ? parts[1] : ""));
        return plain;
    }

    /** Where a redirect leads (RFC 9110 §15.4). Followed here, so that a login stays with the server that asked for it. */
    private static Optional<URI> moved(URI from, Message response) {
        boolean moves = List.of(301, 302, 303, 307, 308).contains(response.status());
        Optional<String> location = moves ? response.header("Location") : Optional.empty();
        try {
            return location.map(l -> from.resolve(l.strip().replace(" ", "%20")))
                    .filter(u -> u.getScheme() != null && u.getScheme().startsWith("http"));
        } catch (IllegalArgumentException notAnAddress) {
            return Optional.empty();
        }
    }

    private Message get(URI uri, StopSignal stop) {
        List<Header> headers = new ArrayList<>();
        headers.add(new Header("Accept", "text/xml, application/xml, application/wsdl+xml, */*"));
        CallRequest request = new CallRequest("GET", uri, headers, Content.NONE, limits.timeout());
        Connect usual = caller.get().connect();
        // four times the wait for a byte, so that a server which drips its answer cannot hold up everything
        Connect by = usual.withLogin(Optional.ofNullable(logins.get(server(uri))))
                .with(new Connect.Timeouts(
                        limits.timeout(), limits.timeout(), limits.timeout().multipliedBy(4)))
                .with(new Connect.Limits(
                        limits.document().bytes(),
                        usual.limits().line(),
                        usual.limits().headers()));
        HttpCaller.Fetching fetching = caller.get().fetch(request, by, stop);
        boolean whole = fetching.result().failure().isEmpty();
        Optional<CallRequest> proven = fetching.result()
                .response()
                .filter(r -> whole
                        && r.status() == 401
                        && by.login().filter(l -> l instanceof Login.WhenAsked).isPresent())
                .flatMap(r -> Challenges.answer(
                        r, request, (Login.WhenAsked) by.login().get()))
                .map(value -> request.with(new Header("Authorization", value)));
        if (proven.isPresent()) {
            fetching = caller.get().fetch(proven.get(), by, stop);
        }
        Optional<String> failure = fetching.result().failure();
        if (failure.isPresent() && stop.isStopped()) {
            throw Problem.stopped();
        }
        if (failure.isPresent()) {
            throw Problem.of(
                    fetching.tooLarge() ? Problem.Kind.INPUT : Problem.Kind.NO_ANSWER,
                    failure.get(),
                    uri.toString(),
                    fetching.tooLarge()
                            ? "Raise the limit if it is meant to be that large."
                            : fetching.result().next(),
                    null);
        }
        return fetching.result().response().orElseThrow();
    }

    private static String server(URI uri) {
        return uri.getScheme() + "://" + uri.getRawAuthority();
    }

    private static Problem refused(URI uri, int status, boolean tried) {
        if (status == 403) {
            return Problem.input(
                    "The address refuses access" + (tried ? " by this login" : "") + " (status 403)",
                    uri.toString(),
                    "Give credentials that have access, or fetch the WSDL with a browser and open the file.");
        }
        if (status == 401) {
            return Problem.input(
                    tried
                            ? "The address refuses this login (status " + status + ")"
                            : "The address asks for a login (status " + status + ")",
                    uri.toString(),
                    "Give credentials, or fetch the WSDL with a browser and open the file.");
        }
        if (status == 407) {
            return Problem.input(
                    "The proxy asks for a login (status 407)",
                    uri.toString(),
                    "Use another proxy, or fetch the WSDL with a browser and open the file.");
        }
        if (status == 404) {
            boolean asks = uri.getRawQuery() != null && uri.getRawQuery().equalsIgnoreCase("wsdl");
            return Problem.input(
                    "There is nothing at this address (status 404)",
                    uri.toString(),
                    asks
                            ? "Check the path; upper and lower case may matter."
                            : "The WSDL is often at the service's address with ?wsdl behind it; upper and lower case may matter.");
        }
        return Problem.input(
                "The address answered with status " + status + " instead of a WSDL",
                uri.toString(),
                status / 100 == 5 ? "Try it later or open a file." : "Check the address, or open a file.");
    }
}
