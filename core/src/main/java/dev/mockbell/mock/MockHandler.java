package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange.Outcome;
import io.netty.buffer.ByteBuf;
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
import io.netty.handler.timeout.IdleStateEvent;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.RejectedExecutionException;
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
    private final Deque<FullHttpRequest> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private String typed = "";
    private RequestType type = RequestType.NONE;
    private boolean busy;
    private boolean inputEnded;

    MockHandler(MockHost host, ByteTap tap, Intake intake) {
        this.host = host;
        this.tap = tap;
        this.intake = intake;
        this.records = new MockRecord(host);
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
            context.close();
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
        Optional<Wrong> wrong = wrong(request);
        if (wrong.isPresent()) {
            plain(
                    context,
                    wrong.get().status(),
                    wrong.get().why() + "\n",
                    keepAlive && !wrong.get().last());
        } else if (request.method().equals(HttpMethod.GET) || request.method().equals(HttpMethod.HEAD)) {
            document(context, request, keepAlive);
        } else if (!request.method().equals(HttpMethod.POST)) {
            plain(context, HttpResponseStatus.METHOD_NOT_ALLOWED, "Use POST to call, GET for ?wsdl.\n", keepAlive);
        } else if (!host.serves(path(request))) {
            String known = String.join(", ", host.paths());
            String why = "There is no service at " + path(request) + "; it is at " + known + ".";
            host.count(new MockEvent(Instant.now(), "", -1, "404", why));
            plain(context, HttpResponseStatus.NOT_FOUND, why + "\n", keepAlive);
            records.keep(began, wire, new byte[0], "", Outcome.FAILED, why, Content.NONE, Content.NONE, "mock");
        } else {
            soap(context, request, wire, began, keepAlive);
        }
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
                body, wire, began, keepAlive, Packing.isTaken(request.headers().get(HttpHeaderNames.ACCEPT_ENCODING)));
        Responder responder = host.responder();
        Responder.Found found = responder.find(new MockRequest(
                path(request),
                type,
                unquoted(request.headers().get("SOAPAction", type.action())),
                type.inUtf8(body),
                fields(request)));
        Optional<Responder.Reply> atOnce = responder.replyAtOnce(found);
        if (atOnce.isPresent()) {
            send(context, atOnce.get(), asked);
            return;
        }
        try {
            host.workers().execute(() -> {
                Responder.Reply reply = responder.reply(found);
                context.executor().execute(() -> send(context, reply, asked));
            });
        } catch (RejectedExecutionException full) {
            plain(
                    context,
                    HttpResponseStatus.SERVICE_UNAVAILABLE,
                    "More requests than the mock can take.\n",
                    keepAlive);
        }
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
    private record Asked(byte[] body, byte[] wire, long began, boolean keepAlive, boolean takesGzip) {}

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
        boolean packed = asked.takesGzip() && Packing.isWorth(reply.body());
        ByteBuf content = Unpooled.wrappedBuffer(packed ? Packing.gzip(reply.body()) : reply.body());
        FullHttpResponse response =
                new DefaultFullHttpResponse(HttpVersion.HTTP_1_1, HttpResponseStatus.valueOf(reply.status()), content);
        if (!reply.contentType().isEmpty()) {
            response.headers().set(HttpHeaderNames.CONTENT_TYPE, reply.contentType());
        }
        if (packed) {
            response.headers().set(HttpHeaderNames.CONTENT_ENCODING, "gzip");
            response.headers().set(HttpHeaderNames.VARY, "Accept-Encoding");
        }
        // counted first, so that a client which has its answer finds itself counted
        host.count(reply.event());
        write(context, response, asked.keepAlive());
        records.keep(
                asked.began(), asked.wire(), tap.takeOut(), reply, Content.of(asked.body()), Content.of(reply.body()));
    }

    private void document(ChannelHandlerContext context, FullHttpRequest request, boolean keepAlive) {
        tap.takeOut();
        String query = query(request);
        Optional<byte[]> found =
                host.document(path(request), query, request.headers().get(HttpHeaderNames.HOST, ""));
        if (found.isPresent()) {
            FullHttpResponse response = new DefaultFullHttpResponse(
                    HttpVersion.HTTP_1_1, HttpResponseStatus.OK, Unpooled.wrappedBuffer(found.get()));
            response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/xml; charset=utf-8");
            write(context, response, keepAlive);
            tap.takeOut();
        } else {
            StringBuilder text = new StringBuilder("Mock Bell answers here.\n");
            host.paths().forEach(p -> text.append(host.base()).append(p).append("?wsdl\n"));
            // a page for who looks here; a document that is asked for by its name and is not there is none
            boolean known = query.isEmpty() && (host.serves(path(request)) || "/".equals(path(request)));
            plain(context, known ? HttpResponseStatus.OK : HttpResponseStatus.NOT_FOUND, text.toString(), keepAlive);
        }
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
        var done = context.writeAndFlush(response);
        if (!keepAlive) {
            done.addListener(ChannelFutureListener.CLOSE);
        } else {
            // with more to answer only after this event, when the bytes of this answer have been taken
            if (waiting.isEmpty() && !inputEnded) {
                busy = false;
            } else {
                context.executor().execute(() -> answered(context));
            }
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
            ((SocketChannel) context.channel()).shutdownOutput();
            context.executor().schedule(() -> context.close(), LINGER_MILLIS, TimeUnit.MILLISECONDS);
        });
    }
}
