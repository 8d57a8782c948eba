package dev.mockbell.wire;

import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.InterruptedIOException;
import java.net.ProxySelector;
import java.net.SocketAddress;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.apache.hc.client5.http.async.methods.SimpleHttpRequest;
import org.apache.hc.client5.http.async.methods.SimpleHttpResponse;
import org.apache.hc.client5.http.async.methods.SimpleRequestProducer;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.async.CloseableHttpAsyncClient;
import org.apache.hc.client5.http.impl.async.HttpAsyncClients;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManagerBuilder;
import org.apache.hc.client5.http.protocol.HttpClientContext;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.EndpointDetails;
import org.apache.hc.core5.http.config.Http1Config;
import org.apache.hc.core5.http2.HttpVersionPolicy;
import org.apache.hc.core5.io.CloseMode;
import org.apache.hc.core5.reactor.IOReactorConfig;
import org.apache.hc.core5.reactor.IOSession;
import org.apache.hc.core5.util.Timeout;

/**
 * Makes HTTP/1.1 calls for people and suites; load has an engine of its own. Every call has a connection of its own, so
 * its timing is whole and its bytes are its own. No redirect is followed: a SOAP request that is moved is for the user to
 * decide on. Safe for many threads.
 */
public final class HttpCaller implements AutoCloseable {
    private static final long MOST_BYTES = 1L << 30;

    private final CloseableHttpAsyncClient client;
    private final Map<SocketAddress, Recording> live = new ConcurrentHashMap<>();

    /** Reaches everything straight. */
    public HttpCaller() {
        this(Proxies.none());
    }

    /** Reaches everything through the proxies that are chosen for it. */
    public HttpCaller(ProxySelector proxies) {
        client = HttpAsyncClients.custom()
                .setConnectionManager(PoolingAsyncClientConnectionManagerBuilder.create()
                        .setMaxConnTotal(256)
                        .setMaxConnPerRoute(128)
                        .setDefaultConnectionConfig(ConnectionConfig.custom()
                                .setConnectTimeout(Timeout.ofSeconds(30))
                                .build())
                        .setDefaultTlsConfig(org.apache.hc.client5.http.config.TlsConfig.custom()
                                .setVersionPolicy(HttpVersionPolicy.FORCE_HTTP_1)
                                .build())
                        .build())
                .setIOReactorConfig(IOReactorConfig.custom().setIoThreadCount(1).build())
                .setHttp1Config(Http1Config.custom()
                        .setMaxHeaderCount(500)
                        .setMaxLineLength(64 * 1024)
                        .build())
                .setIoSessionDecorator(this::recorded)
                .setConnectionReuseStrategy((request, response, context) -> false)
                .setProxySelector(proxies)
                .setUserAgent("MockBell")
                .disableAutomaticRetries()
                .disableCookieManagement()
                .disableAuthCaching()
                .setThreadFactory(daemon("http-call"))
                .build();
        client.start();
    }

    private static java.util.concurrent.ThreadFactory daemon(String name) {
        return task -> {
            Thread thread = new Thread(task, name);
            thread.setDaemon(true);
            return thread;
        };
    }

    private IOSession recorded(IOSession session) {
        return new RecordingSession(session, new Recording(), live);
    }

    /** Sends a request and waits for the whole answer; a stop ends the wait. Failures are told, never thrown. */
    public CallResult call(CallRequest request, StopSignal stop) {
        return run(request, stop, MOST_BYTES, Duration.ofDays(1)).result();
    }

    /** What became of a call, and whether it failed because the answer was too large. */
    record Fetching(CallResult result, boolean tooLarge) {}

    /**
     * As {@link #call}, with a bound on the answer's size and one on the whole time: four times that for the first byte,
     * so that a server which drips its answer cannot hold up everything.
     */
    Fetching fetch(CallRequest request, StopSignal stop, long mostBytes) {
        return run(request, stop, mostBytes, request.timeout().multipliedBy(4));
    }

    private Fetching run(CallRequest request, StopSignal stop, long mostBytes, Duration whole) {
        Timeout timeout = Timeout.of(request.timeout());
        SimpleHttpRequest message = SimpleHttpRequest.create(request.method(), request.address());
        String contentType = null;
        for (Header header : request.headers()) {
            if (header.name().equalsIgnoreCase("Content-Type")) {
                contentType = header.value();
            } else {
                message.addHeader(header.name(), header.value());
            }
        }
        if (request.body().length > 0 || "POST".equals(request.method())) {
            message.setBody(request.body(), contentType == null ? null : ContentType.parseLenient(contentType));
        }
        if (contentType != null && message.getContentType() != null) {
            message.setHeader("Content-Type", contentType);
        }
        message.setConfig(RequestConfig.custom()
                .setRedirectsEnabled(false)
                .setResponseTimeout(timeout)
                .setConnectionRequestTimeout(timeout)
                .build());
        HttpClientContext context = HttpClientContext.create();
        Instant started = Instant.now();
        long from = System.nanoTime();
        Future<SimpleHttpResponse> future =
                client.execute(SimpleRequestProducer.create(message), new BoundedBody(mostBytes), context, null);
        stop.onStop(() -> future.cancel(true));
        SimpleHttpResponse response = null;
        Throwable failure = null;
        try {
            response = future.get(whole.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException e) {
            future.cancel(true);
            failure = new InterruptedIOException("the answer took too long");
        } catch (ExecutionException e) {
            failure = e.getCause();
        } catch (CancellationException e) {
            failure = Problem.stopped();
        } catch (InterruptedException e) {
            future.cancel(true);
            Thread.currentThread().interrupt();
            failure = Problem.stopped();
        }
        return new Fetching(
                result(request, started, from, response, failure, context), failure instanceof BoundedBody.TooLarge);
    }

    private CallResult result(
            CallRequest request,
            Instant started,
            long from,
            SimpleHttpResponse response,
            Throwable failure,
            HttpClientContext context) {
        long end = System.nanoTime();
        EndpointDetails endpoint = context.getEndpointDetails();
        Recording recording = endpoint == null ? null : live.remove(endpoint.getLocalAddress());
        Recording.Taken taken =
                recording == null ? new Recording.Taken(new byte[0], new byte[0], 0, 0, 0, 0) : recording.take();
        HttpMessage sent = WireHead.read(taken.sent(), request.body())
                .orElseGet(() -> new HttpMessage(
                        request.method() + " " + path(request) + " HTTP/1.1",
                        request.headers(),
                        request.body(),
                        taken.sent()));
        Optional<HttpMessage> received = response == null
                ? Optional.empty()
                : WireHead.read(taken.received(), body(response)).or(() -> Optional.of(fallback(response)));
        return new CallResult(
                started,
                sent,
                received,
                timing(taken, from, end),
                failure == null ? Optional.empty() : Optional.of(CallFailure.words(failure, request)));
    }

    private static HttpMessage fallback(SimpleHttpResponse response) {
        java.util.List<Header> headers = java.util.Arrays.stream(response.getHeaders())
                .map(h -> new Header(h.getName(), h.getValue()))
                .toList();
        String line = "HTTP/1.1 " + response.getCode() + " " + response.getReasonPhrase();
        return new HttpMessage(line, headers, body(response), new byte[0]);
    }

    private static byte[] body(SimpleHttpResponse response) {
        byte[] bytes = response.getBodyBytes();
        return bytes == null ? new byte[0] : bytes;
    }

    private static String path(CallRequest request) {
        String path = request.address().getRawPath();
        String query = request.address().getRawQuery();
        return (path == null || path.isEmpty() ? "/" : path) + (query == null ? "" : "?" + query);
    }

    private static Timing timing(Recording.Taken taken, long from, long end) {
        if (taken.firstSent() == 0) {
            return new Timing(end - from, 0, 0, 0);
        }
        long sent = Math.max(taken.lastSent(), taken.firstSent());
        if (taken.firstReceived() == 0) {
            return new Timing(taken.firstSent() - from, sent - taken.firstSent(), end - sent, 0);
        }
        return new Timing(
                taken.firstSent() - from,
                sent - taken.firstSent(),
                Math.max(0, taken.firstReceived() - sent),
                taken.lastReceived() - taken.firstReceived());
    }

    @Override
    public void close() {
        client.close(CloseMode.GRACEFUL);
    }
}
