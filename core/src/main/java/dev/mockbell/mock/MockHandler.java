package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange.Outcome;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.SimpleChannelInboundHandler;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.codec.DecoderException;
import io.netty.handler.codec.http.DefaultFullHttpResponse;
import io.netty.handler.codec.http.FullHttpRequest;
import io.netty.handler.codec.http.FullHttpResponse;
import io.netty.handler.codec.http.HttpHeaderNames;
import io.netty.handler.codec.http.HttpHeaders;
import io.netty.handler.codec.http.HttpMethod;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.handler.codec.http.HttpUtil;
import io.netty.handler.codec.http.HttpVersion;
import io.netty.handler.codec.http.TooLongHttpHeaderException;
import io.netty.handler.codec.http.TooLongHttpLineException;
import io.netty.handler.ssl.SslHandler;
import io.netty.handler.timeout.IdleStateEvent;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/** Answers the requests of one connection, one after the other. */
final class MockHandler extends SimpleChannelInboundHandler<FullHttpRequest> {
    private static final int MOST_WAITING = 32;
    private static final long LINGER_MILLIS = 1_000;

    private static final int MOST_WAITING_BYTES = 1 << 20;

    private final MockHost host;
    private final ByteTap tap;
    private final Intake intake;
    private final MockRecord records;
    private final ReplyWriter writer;
    private final Deque<FullHttpRequest> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private String typed = "";
    private RequestType type = RequestType.NONE;
    private boolean busy;
    private boolean headOnly;
    private boolean inputEnded;

    MockHandler(MockHost host, ByteTap tap, Intake intake) {
        this.host = host;
        this.tap = tap;
        this.intake = intake;
        this.records = new MockRecord(host);
        this.writer = new ReplyWriter(host);
    }

    @Override
    protected void channelRead0(ChannelHandlerContext context, FullHttpRequest request) {
        if (busy) {
            waiting.add(request.retain());
            waitingBytes += request.content().readableBytes();
            if (waiting.size() >= MOST_WAITING || waitingBytes >= MOST_WAITING_BYTES) {
                context.channel().config().setAutoRead(false);
            }
            return;
        }
        busy = true;
        answer(context, request);
    }

    /** The answer to a request is written; the next one on this connection may be looked at. */
    private void answered(ChannelHandlerContext context) {
        FullHttpRequest next = waiting.poll();
        if (next == null) {
            busy = false;
            if (inputEnded) {
                context.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(ChannelFutureListener.CLOSE);
            }
            return;
        }
        waitingBytes -= next.content().readableBytes();
        if (waiting.size() < MOST_WAITING / 2
                && waitingBytes < MOST_WAITING_BYTES / 2
                && !inputEnded
                && !context.channel().config().isAutoRead()) {
            context.channel().config().setAutoRead(true);
        }
        context.executor().execute(() -> {
            try {
                answer(context, next);
            } finally {
                next.release();
            }
        });
    }

    /** A client may close its half of the connection and still wait for its answers. */
    @Override
    public void userEventTriggered(ChannelHandlerContext context, Object event) {
        if (event instanceof ChannelInputShutdownEvent) {
            inputEnded = true;
            if (!busy) {
                context.close();
            }
        }
        // silence is the client's only while it is the client's turn
        if (event instanceof IdleStateEvent && !busy) {
            if (intake.isArriving(context)) {
                String why = "The rest of the request did not come within "
                        + intake.bounds().idle().toSeconds() + " s.";
                host.sentAway(HttpResponseStatus.REQUEST_TIMEOUT.code(), why);
                tell(context, HttpResponseStatus.REQUEST_TIMEOUT, why);
            } else {
                context.close();
            }
        }
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        for (FullHttpRequest left : waiting) {
            intake.gone(left.content().readableBytes());
            left.release();
        }
        waiting.clear();
        context.fireChannelInactive();
    }

    private void answer(ChannelHandlerContext context, FullHttpRequest request) {
        intake.gone(request.content().readableBytes());
        long began = tap.firstIn() == 0 ? System.nanoTime() : tap.firstIn();
        byte[] wire = tap.takeIn();
        boolean keepAlive = HttpUtil.isKeepAlive(request);
        headOnly = request.method().equals(HttpMethod.HEAD);
        Optional<Wrong> wrong = wrong(request);
        if (wrong.isPresent()) {
            plain(
                    context,
                    wrong.get().status(),
                    wrong.get().why() + "\n",
                    keepAlive && !wrong.get().last());
        } else if (request.method().equals(HttpMethod.GET) || headOnly) {
            page(context, request, Map.of(), keepAlive);
        } else if (!request.method().equals(HttpMethod.POST)) {
            plain(context, HttpResponseStatus.METHOD_NOT_ALLOWED, "Use POST to call, GET for ?wsdl.\n", keepAlive);
        } else if (!host.serves(path(request))) {
            String known = String.join(", ", host.paths());
            String why = "There is no service at " + path(request) + "; it is at " + known + ".";
            host.count(new MockEvent(Instant.now(), "", -1, "404", why));
            plain(context, HttpResponseStatus.NOT_FOUND, why + "\n", keepAlive);
            records.keep(
                    began,
                    wire,
                    new byte[0],
                    "",
                    Outcome.FAILED,
                    why,
                    Content.NONE,
                    Content.NONE,
                    "mock",
                    () -> remote(context));
        } else if (isForm(request)) {
            byte[] body = new byte[request.content().readableBytes()];
            request.content().getBytes(request.content().readerIndex(), body);
            page(context, request, PageRequest.fields(body), keepAlive);
        } else {
            soap(context, request, wire, began, keepAlive);
        }
    }

    /** Whether it comes from a page of this mock. */
    private static boolean isForm(FullHttpRequest request) {
        return query(request).startsWith("try=")
                && request.headers()
                        .get(HttpHeaderNames.CONTENT_TYPE, "")
                        .toLowerCase(Locale.ROOT)
                        .startsWith("application/x-www-form-urlencoded");
    }

    /**
     * What is not as HTTP has it.
     *
     * @param last whether nothing that follows on the connection can be told apart
     */
    private record Wrong(HttpResponseStatus status, String why, boolean last) {}

    private static Optional<Wrong> wrong(FullHttpRequest request) {
        if (!request.decoderResult().isSuccess()) {
            Throwable cause = request.decoderResult().cause();
            if (cause instanceof TooLongHttpLineException) {
                return Optional.of(
                        new Wrong(HttpResponseStatus.REQUEST_URI_TOO_LONG, "The address is too long.", true));
            }
            if (cause instanceof TooLongHttpHeaderException) {
                return Optional.of(new Wrong(
                        HttpResponseStatus.REQUEST_HEADER_FIELDS_TOO_LARGE,
                        "The head has more than the 64 KB that are taken.",
                        true));
            }
            return Optional.of(
                    new Wrong(HttpResponseStatus.BAD_REQUEST, "This is not an HTTP request that can be read.", true));
        }
        if (request.protocolVersion().majorVersion() != 1) {
            return Optional.of(new Wrong(
                    HttpResponseStatus.HTTP_VERSION_NOT_SUPPORTED,
                    request.protocolVersion() + " is not spoken here; HTTP/1.1 is.",
                    true));
        }
        // RFC 9112 §3.2
        int hosts = request.headers().getAll(HttpHeaderNames.HOST).size();
        boolean due = request.protocolVersion().minorVersion() > 0;
        if (hosts > 1 || hosts == 0 && due) {
            return Optional.of(new Wrong(
                    HttpResponseStatus.BAD_REQUEST,
                    hosts == 0 ? "The request has no Host field." : "The request has several Host fields.",
                    true));
        }
        String coding = request.headers().get(HttpHeaderNames.CONTENT_ENCODING, "identity");
        if (!coding.equalsIgnoreCase("identity")) {
            return Optional.of(new Wrong(
                    HttpResponseStatus.UNSUPPORTED_MEDIA_TYPE,
                    "The content coding " + coding + " is not known here; gzip and deflate are.",
                    false));
        }
        return Optional.empty();
    }

    /** Without a query; an address in absolute form has its path taken out (RFC 9112 §3.2.2). */
    private static String path(FullHttpRequest request) {
        String target = target(request);
        int query = target.indexOf('?');
        return query < 0 ? target : target.substring(0, query);
    }

    private static String query(FullHttpRequest request) {
        String target = target(request);
        int query = target.indexOf('?');
        return query < 0 ? "" : target.substring(query + 1);
    }

    private static String target(FullHttpRequest request) {
        String uri = request.uri();
        int authority = uri.startsWith("/") ? -1 : uri.indexOf("://");
        if (authority < 0) {
            return uri;
        }
        int path = uri.indexOf('/', authority + 3);
        int query = uri.indexOf('?', authority + 3);
        if (path >= 0 && (query < 0 || path < query)) {
            return uri.substring(path);
        }
        return query >= 0 ? "/" + uri.substring(query) : "/";
    }

    private void soap(
            ChannelHandlerContext context, FullHttpRequest request, byte[] wire, long began, boolean keepAlive) {
        byte[] body = new byte[request.content().readableBytes()];
        request.content().getBytes(request.content().readerIndex(), body);
        String said = request.headers().get(HttpHeaderNames.CONTENT_TYPE, "");
        if (!said.equals(typed)) {
            typed = said;
            type = RequestType.of(said);
        }
        Asked asked = new Asked(
                body,
                wire,
                began,
                keepAlive,
                Packing.isTaken(request.headers().get(HttpHeaderNames.ACCEPT_ENCODING)),
                records.takesNext());
        if (!host.begin()) {
            plain(context, HttpResponseStatus.SERVICE_UNAVAILABLE, host.noMore() + "\n", false);
            return;
        }
        Responder responder = host.responder();
        Responder.Found found = responder.find(new MockRequest(
                path(request),
                type,
                unquoted(request.headers().get("SOAPAction", type.action())),
                type.inUtf8(body),
                body,
                fields(request),
                () -> remote(context)));
        Optional<Responder.Reply> atOnce = responder.replyAtOnce(found);
        if (atOnce.isPresent()) {
            send(context, atOnce.get(), asked);
            return;
        }
        host.elsewhere(
                responder,
                found,
                reply -> context.executor().execute(() -> send(context, reply, asked)),
                full -> send(context, full, asked));
    }

    /** A client's address, without its port. */
    static String remote(ChannelHandlerContext context) {
        return context.channel().remoteAddress() instanceof InetSocketAddress address
                ? address.getAddress().getHostAddress()
                : "";
    }

    /** The fields of a request, which are there also when the request itself is gone. */
    private static Supplier<Map<String, String>> fields(FullHttpRequest request) {
        HttpHeaders headers = request.headers();
        return () -> {
            Map<String, String> all = new LinkedHashMap<>();
            headers.forEach(e -> all.merge(e.getKey().toLowerCase(Locale.ROOT), e.getValue(), (a, b) -> a + ", " + b));
            all.put("method", request.method().name());
            all.put("path", path(request));
            all.put("query", query(request));
            return all;
        };
    }

    /** What has to be known of a request once it is answered. */
    private record Asked(byte[] body, byte[] wire, long began, boolean keepAlive, boolean takesGzip, boolean kept) {}

    static String unquoted(String text) {
        String bare = text.strip();
        return bare.length() > 1 && bare.startsWith("\"") && bare.endsWith("\"")
                ? bare.substring(1, bare.length() - 1)
                : bare;
    }

    private void send(ChannelHandlerContext context, Responder.Reply reply, Asked asked) {
        if (reply.delayMillis() > 0) {
            context.executor().schedule(() -> now(context, reply, asked), reply.delayMillis(), TimeUnit.MILLISECONDS);
        } else {
            now(context, reply, asked);
        }
    }

    private void now(ChannelHandlerContext context, Responder.Reply reply, Asked asked) {
        // counted first, so that a client which has its answer finds itself counted
        host.count(reply.event());
        // past the library's encoder, which knows only what is as it should be
        ChannelHandlerContext out = context.pipeline().context(PlainLane.class);
        ReplyWriter.Wish wish =
                new ReplyWriter.Wish(asked.keepAlive() && !host.isClosing(), asked.takesGzip(), records.isOn());
        writer.write(out, reply, wish, sent -> {
            tap.takeOut();
            host.end();
            if (asked.kept() || records.takesFailed(reply)) {
                records.keep(
                        asked.began(),
                        asked.wire(),
                        sent.bytes(),
                        reply,
                        Content.of(asked.body()),
                        Content.of(reply.body()),
                        () -> remote(context));
            } else {
                records.passOver();
            }
            if (!sent.ends()) {
                out.flush();
                goOn(context);
            }
        });
    }

    private void page(
            ChannelHandlerContext context, FullHttpRequest request, Map<String, String> form, boolean keepAlive) {
        tap.takeOut();
        HttpHeaders headers = request.headers();
        String base = host.base(
                headers.get(HttpHeaderNames.HOST, ""),
                headers.get("X-Forwarded-Host", ""),
                headers.get("X-Forwarded-Proto", ""));
        PageRequest asked = new PageRequest(
                path(request),
                query(request),
                base,
                form,
                remote(context),
                headers.get(HttpHeaderNames.AUTHORIZATION, ""));
        host.page(
                asked,
                served -> context.executor().execute(() -> {
                    FullHttpResponse response = new DefaultFullHttpResponse(
                            HttpVersion.HTTP_1_1,
                            HttpResponseStatus.valueOf(served.status()),
                            Unpooled.wrappedBuffer(served.body()));
                    response.headers().set(HttpHeaderNames.CONTENT_TYPE, served.type());
                    if (served.status() == 401) {
                        response.headers().set(HttpHeaderNames.WWW_AUTHENTICATE, Refusal.CHALLENGE);
                    }
                    if (served.type().startsWith("text/html")) {
                        // a page needs nothing from anywhere, and nobody shows it as his own
                        response.headers()
                                .set(
                                        "Content-Security-Policy",
                                        "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'")
                                .set(HttpHeaderNames.CACHE_CONTROL, "no-store");
                    }
                    write(context, response, keepAlive);
                    tap.takeOut();
                }));
    }

    private void plain(ChannelHandlerContext context, HttpResponseStatus status, String text, boolean keepAlive) {
        FullHttpResponse response = new DefaultFullHttpResponse(
                HttpVersion.HTTP_1_1, status, Unpooled.copiedBuffer(text, StandardCharsets.UTF_8));
        response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/plain; charset=utf-8");
        write(context, response, keepAlive);
        tap.takeOut();
    }

    private void write(ChannelHandlerContext context, FullHttpResponse response, boolean keepAlive) {
        response.headers().set(HttpHeaderNames.DATE, host.date());
        if (response.status().equals(HttpResponseStatus.METHOD_NOT_ALLOWED)) {
            response.headers().set(HttpHeaderNames.ALLOW, "GET, HEAD, POST");
        }
        if (response.status().equals(HttpResponseStatus.UNSUPPORTED_MEDIA_TYPE)) {
            response.headers().set(HttpHeaderNames.ACCEPT_ENCODING, "gzip, deflate");
        }
        HttpUtil.setContentLength(response, response.content().readableBytes());
        HttpUtil.setKeepAlive(response, keepAlive);
        if (headOnly) {
            response.content().clear();
        }
        var done = context.writeAndFlush(response);
        if (!keepAlive) {
            done.addListener(ChannelFutureListener.CLOSE);
        } else {
            goOn(context);
        }
    }

    /** An answer is out; what came meanwhile is looked at after this event, when the bytes of this answer have been taken. */
    private void goOn(ChannelHandlerContext context) {
        if (waiting.isEmpty() && !inputEnded) {
            busy = false;
        } else {
            context.executor().execute(() -> answered(context));
        }
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        if (cause instanceof DecoderException && context.channel().isActive()) {
            tell(context, HttpResponseStatus.BAD_REQUEST, "The body is not packed as its Content-Encoding says.");
        } else {
            context.close();
        }
    }

    /** Ends this side of a connection; within TLS nothing can be said after that, so it is left to the closing. */
    static void half(ChannelHandlerContext context) {
        if (context.pipeline().get(SslHandler.class) == null) {
            ((SocketChannel) context.channel()).shutdownOutput();
        }
    }

    /** Says something to a client whose request is not gone on with, and closes. */
    static void tell(ChannelHandlerContext context, HttpResponseStatus status, String why) {
        FullHttpResponse response = new DefaultFullHttpResponse(
                HttpVersion.HTTP_1_1, status, Unpooled.copiedBuffer(why + "\n", StandardCharsets.UTF_8));
        response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/plain; charset=utf-8");
        HttpUtil.setContentLength(response, response.content().readableBytes());
        HttpUtil.setKeepAlive(response, false);
        // through all that stands behind, whoever tells it
        context.channel().writeAndFlush(response).addListener(done -> {
            // what is still on its way is read and thrown away: closing on it would take the answer along
            half(context);
            context.executor().schedule(() -> context.close(), LINGER_MILLIS, TimeUnit.MILLISECONDS);
        });
    }
}
