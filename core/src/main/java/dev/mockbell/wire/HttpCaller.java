package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentCoding;
import dev.mockbell.content.Header;
import dev.mockbell.content.TooLarge;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Proxy;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javax.net.ssl.SSLSession;
import org.apache.hc.client5.http.auth.AuthScope;
import org.apache.hc.client5.http.auth.CredentialsProvider;
import org.apache.hc.client5.http.auth.UsernamePasswordCredentials;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.async.CloseableHttpAsyncClient;
import org.apache.hc.client5.http.impl.auth.BasicCredentialsProvider;
import org.apache.hc.client5.http.protocol.HttpClientContext;
import org.apache.hc.core5.http.message.BasicHttpRequest;
import org.apache.hc.core5.http.nio.support.BasicRequestProducer;
import org.apache.hc.core5.util.Timeout;

/**
 * Makes HTTP/1.1 calls for people and suites; load has an engine of its own. Every call has a recording of its own, so its bytes
 * are its own, over TLS the plain ones, also on a connection that is kept for several. No redirect is followed here: a SOAP
 * request that is moved is for the user to decide on. Safe for many threads.
 */
public final class HttpCaller implements AutoCloseable {
    private final Connect connect;
    private final CallingClients clients = new CallingClients();

    /** Reaches everything straight. */
    public HttpCaller() {
        this(Connect.USUAL);
    }

    /** @param connect how servers are reached, unless a call says otherwise */
    public HttpCaller(Connect connect) {
        this.connect = connect;
    }

    /** Makes so many calls to a peer of its own; after some forty the next costs no more than those after it. */
    public void warmUp(int calls) {
        WarmUp.run(this, connect, calls);
    }

    /** As {@link #warmUp}, over TLS, whose classes are many more; after some ten calls the next costs no more than those after it. */
    public void warmUpTls(int calls) {
        WarmUp.runTls(this, connect, calls);
    }

    /** How servers are reached, unless a call says otherwise. */
    public Connect connect() {
        return connect;
    }

    /**
     * Sends a request and waits for the whole answer; a stop ends the wait. Failures are told, never thrown. The request's own
     * time-out bounds those for connection and answer.
     */
    public CallResult call(CallRequest request, StopSignal stop) {
        return call(request, connect, stop);
    }

    /** As {@link #call(CallRequest, StopSignal)}, reaching the server in another way; a login waits to be asked for elsewhere. */
    public CallResult call(CallRequest request, Connect by, StopSignal stop) {
        return fetch(request, by.with(by.timeouts().within(request.timeout())), stop)
                .result();
    }

    /**
     * As {@link #call(CallRequest, Connect, StopSignal)}, with what the server asks for before it answers: where it, or a proxy,
     * asks who is there, the login is given in its way, once.
     *
     * @return every call that was made, in order, the last with the answer that counts
     */
    public List<CallResult> converse(CallRequest request, Connect by, StopSignal stop) {
        List<CallResult> all = new ArrayList<>(List.of(call(request, by, stop)));
        CallRequest asked = request;
        Set<String> told = new HashSet<>();
        while (true) {
            Optional<Header> proof = proof(all.get(all.size() - 1), asked, by);
            if (proof.isEmpty() || !told.add(proof.get().name())) {
                return List.copyOf(all);
            }
            asked = asked.with(proof.get());
            all.add(call(asked, by, stop));
        }
    }

    /** What a server or a proxy wants to see before it does anything. */
    private static Optional<Header> proof(CallResult result, CallRequest request, Connect by) {
        Optional<Message> response =
                result.response().filter(r -> result.failure().isEmpty());
        if (response.filter(r -> r.status() == 401).isPresent()) {
            return by.login()
                    .filter(Login.WhenAsked.class::isInstance)
                    .flatMap(l -> Challenges.answer(response.get(), request, (Login.WhenAsked) l))
                    .map(value -> new Header("Authorization", value));
        }
        if (response.filter(r -> r.status() == 407).isPresent()) {
            return by.proxyLogin()
                    .map(l -> new Login.WhenAsked(l.user(), l.password()))
                    .flatMap(l -> Challenges.answer(response.get(), request, l))
                    .map(value -> new Header("Proxy-Authorization", value));
        }
        return Optional.empty();
    }

    /** What became of a call, and whether it failed because the answer was too large. */
    record Fetching(CallResult result, boolean tooLarge) {}

    /** Sends a request, bounded by the connection's time-outs and limits alone. */
    Fetching fetch(CallRequest request, Connect by, StopSignal stop) {
        Recording recording = new Recording();
        CallingClients.Client client = clients.take(by, request.address(), recording);
        try {
            return run(client.http(), recording, request, by, stop);
        } finally {
            clients.back(client);
        }
    }

    private static Fetching run(
            CloseableHttpAsyncClient client, Recording recording, CallRequest request, Connect by, StopSignal stop) {
        Timeout timeout = Timeout.of(by.timeouts().answer());
        BasicHttpRequest message = new BasicHttpRequest(request.method(), request.address());
        boolean contained = !request.body().isEmpty() || "POST".equals(request.method());
        String contentType = null;
        for (Header header : request.headers()) {
            if (contained && header.name().equalsIgnoreCase("Content-Type")) {
                contentType = header.value();
            } else {
                message.addHeader(header.name(), header.value());
            }
        }
        if (!message.containsHeader("Accept-Encoding")) {
            message.addHeader("Accept-Encoding", ContentCoding.ACCEPTED);
        }
        by.login()
                .flatMap(Login::atOnce)
                .filter(l -> !message.containsHeader("Authorization"))
                .ifPresent(l -> message.addHeader("Authorization", l));
        BodyProducer body = contained
                ? new BodyProducer(
                        request.body(), contentType, request.framing().chunked())
                : null;
        HttpClientContext context = HttpClientContext.create();
        context.setRequestConfig(RequestConfig.custom()
                .setRedirectsEnabled(false)
                .setExpectContinueEnabled(request.framing().expectsContinue() && contained)
                .setResponseTimeout(timeout)
                .setConnectionRequestTimeout(timeout)
                .build());
        tunnelLogin(by, request.address()).ifPresent(context::setCredentialsProvider);
        Instant started = Instant.now();
        long from = System.nanoTime();
        Future<BoundedBody.Taken> future = client.execute(
                new BasicRequestProducer(message, body),
                new BoundedBody(by.limits().bytes()),
                context,
                null);
        stop.onStop(() -> future.cancel(true));
        BoundedBody.Taken response = null;
        Throwable failure = null;
        try {
            response = future.get(by.timeouts().whole().toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException e) {
            future.cancel(true);
            failure = new CallFailure.NotWhole();
        } catch (ExecutionException e) {
            failure = e.getCause();
        } catch (CancellationException e) {
            failure = Problem.stopped();
        } catch (InterruptedException e) {
            future.cancel(true);
            Thread.currentThread().interrupt();
            failure = Problem.stopped();
        }
        Recording.Taken taken = recording.take();
        if (response != null) {
            try {
                response = understood(request, response, taken, by);
            } catch (IOException e) {
                failure = e;
            }
        }
        return new Fetching(
                result(request, by, started, from, response, failure, taken, context.getSSLSession()),
                failure instanceof TooLarge);
    }

    /** A proxy asks for it when it is to let TLS through; for anything else it is asked as any server. */
    private static Optional<CredentialsProvider> tunnelLogin(Connect by, URI address) {
        boolean secure = "https".equalsIgnoreCase(address.getScheme());
        return by.proxyLogin()
                .filter(l -> secure)
                .flatMap(l -> by.proxy(address)
                        .filter(p -> p.type() == Proxy.Type.HTTP)
                        .map(p -> {
                            InetSocketAddress at = (InetSocketAddress) p.address();
                            BasicCredentialsProvider credentials = new BasicCredentialsProvider();
                            credentials.setCredentials(
                                    new AuthScope(at.getHostString(), at.getPort()),
                                    new UsernamePasswordCredentials(
                                            l.user(), l.password().toCharArray()));
                            return credentials;
                        }));
    }

    /** The answer with the codings of its body undone. */
    private static BoundedBody.Taken understood(
            CallRequest request, BoundedBody.Taken response, Recording.Taken taken, Connect by) throws IOException {
        boolean secure = "https".equalsIgnoreCase(request.address().getScheme());
        if (secure && taken.firstSent() == 0) {
            // over TLS the server is only spoken to once the proxy has let us through (RFC 9110 §9.3.6)
            throw new CallFailure.ProxyRefused(
                    (response.head().getCode() + " " + response.head().getReasonPhrase()).strip());
        }
        if ("HEAD".equals(request.method())) {
            return response;
        }
        Content plain = ContentCoding.undone(
                response.body(), headers(response), by.limits().bytes());
        return new BoundedBody.Taken(response.head(), plain);
    }

    private static CallResult result(
            CallRequest request,
            Connect by,
            Instant started,
            long from,
            BoundedBody.Taken response,
            Throwable failure,
            Recording.Taken taken,
            SSLSession session) {
        long end = System.nanoTime();
        Content plain = plain(request, by);
        Message sent = WireHead.read(taken.sent(), plain)
                .orElseGet(() -> new HttpMessage(
                        request.method() + " " + WireHead.target(request.address()) + " HTTP/1.1",
                        request.headers(),
                        plain,
                        taken.sent()));
        // with what the body is coded as, when that could not be undone
        Optional<Message> received = response != null
                ? Optional.of(WireHead.read(taken.received(), response.body()).orElseGet(() -> fallback(response)))
                : WireHead.broken(failure instanceof TooLarge ? start(taken.received()) : taken.received());
        Optional<CallFailure> why = Optional.ofNullable(failure).map(f -> CallFailure.of(f, request, by, taken));
        return new CallResult(
                started,
                sent,
                received,
                timing(taken, from, end),
                Untrusted.secured(session),
                why.map(CallFailure::words),
                why.map(CallFailure::next).orElse(""));
    }

    /** Of an answer that has no end the beginning is kept. */
    private static Content start(Content received) {
        return received.slice(0, Math.min(received.size(), BoundedBody.KEPT));
    }

    /** The request's body before it was coded for the way; as it went out when that is none of the known codings. */
    private static Content plain(CallRequest request, Connect by) {
        try {
            return ContentCoding.undone(
                    request.body(), request.headers(), by.limits().bytes());
        } catch (IOException asWritten) {
            return request.body();
        }
    }

    private static List<Header> headers(BoundedBody.Taken response) {
        return Arrays.stream(response.head().getHeaders())
                .map(h -> new Header(h.getName(), h.getValue()))
                .toList();
    }

    private static HttpMessage fallback(BoundedBody.Taken response) {
        List<Header> headers = headers(response);
        String line =
                "HTTP/1.1 " + response.head().getCode() + " " + response.head().getReasonPhrase();
        HttpMessage head = new HttpMessage(line, headers, response.body(), Content.NONE);
        Content wire = Content.joined(Content.of(head.head().getBytes(StandardCharsets.ISO_8859_1)), response.body());
        return new HttpMessage(line, headers, response.body(), wire);
    }

    /**
     * From when the connection was asked for: what this program did before is not the service's time. Nobody asked for one that
     * was kept, so its call begins with its first byte.
     */
    private static Timing timing(Recording.Taken taken, long begun, long end) {
        boolean keptOne = taken.asked() == 0 && taken.firstSent() != 0;
        long from = keptOne ? taken.firstSent() : taken.asked() == 0 ? begun : taken.asked();
        boolean spoken = taken.firstSent() != 0;
        long stood = spoken ? taken.firstSent() : end;
        long named = taken.named() == 0 ? from : Math.min(taken.named(), stood);
        long securing = taken.securing() == 0 ? stood : Math.min(Math.max(taken.securing(), named), stood);
        // a name that is never known takes all the time there is
        boolean unknown = !spoken && taken.asked() != 0 && taken.named() == 0;
        long name = unknown ? end - from : named - from;
        long connect = unknown ? 0 : securing - named;
        long tls = unknown ? 0 : stood - securing;
        if (!spoken) {
            return new Timing(name, connect, tls, 0, 0, 0);
        }
        long sent = Math.max(taken.lastSent(), taken.firstSent());
        boolean came = taken.firstReceived() != 0;
        return new Timing(
                name,
                connect,
                tls,
                sent - taken.firstSent(),
                came ? Math.max(0, taken.firstReceived() - sent) : end - sent,
                came ? taken.lastReceived() - taken.firstReceived() : 0);
    }

    @Override
    public void close() {
        clients.close();
    }
}
