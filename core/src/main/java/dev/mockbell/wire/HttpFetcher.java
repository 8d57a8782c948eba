package dev.mockbell.wire;

import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.time.Duration;
import java.util.List;

/** Fetches the documents of a contract over HTTP, following redirects. */
public final class HttpFetcher implements DocumentFetcher {
    private static final Duration PATIENCE = Duration.ofSeconds(30);

    private final HttpCaller caller;

    public HttpFetcher(HttpCaller caller) {
        this.caller = caller;
    }

    /** Fetches http and https with {@code caller}, and files from disk. */
    public static DocumentFetcher forEverything(HttpCaller caller, long fileLimit) {
        HttpFetcher http = new HttpFetcher(caller);
        DocumentFetcher files = DocumentFetcher.files(fileLimit);
        return (uri, stop) -> {
            String scheme = uri.getScheme() == null ? "" : uri.getScheme();
            return scheme.startsWith("http") ? http.fetch(uri, stop) : files.fetch(uri, stop);
        };
    }

    @Override
    public Fetched fetch(URI uri, StopSignal stop) {
        CallRequest request = new CallRequest(
                "GET",
                uri,
                List.of(new Header("Accept", "text/xml, application/xml, application/wsdl+xml, */*")),
                new byte[0],
                PATIENCE);
        CallResult result = caller.call(request, stop, true);
        if (result.failure().isPresent()) {
            boolean stopped = stop.isStopped();
            throw stopped
                    ? Problem.stopped()
                    : Problem.of(
                            Problem.Kind.NO_ANSWER,
                            result.failure().get(),
                            uri.toString(),
                            "Check the address and that the service is up.",
                            null);
        }
        HttpMessage response = result.response().orElseThrow();
        int status = response.status();
        if (status / 100 == 2) {
            return new Fetched(
                    uri, response.body(), response.header("Content-Type").orElse(""));
        }
        throw refused(uri, status);
    }

    private static Problem refused(URI uri, int status) {
        if (status == 401 || status == 407 || status == 403) {
            return Problem.input(
                    "The address asks for a login (status " + status + ")",
                    uri.toString(),
                    "Give credentials, or fetch the WSDL with a browser and open the file.");
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
                "Try it later or open a file.");
    }
}
